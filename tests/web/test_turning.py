"""The turn of y between the screen and the core: whatever is typed as a point is turned."""

from __future__ import annotations

import unittest
from dataclasses import dataclass
from typing import Annotated, Literal

import shapely
from pydantic import BaseModel, Field

from tests.areas import as_shapely
from tests.makings import document, drawn_letters, laid
from ulvent.core.acts import ACTS
from ulvent.core.acts.act import Act, ActPoint
from ulvent.core.base.arrays import Bounds, Point
from ulvent.web.live import LiveRequest
from ulvent.web.scene import Painting
from ulvent.web.turning import turned


@dataclass(frozen=True)
class Corner:
    where: Point
    angle: float


class Shown(BaseModel):
    """Points at every depth, under names that say nothing."""

    one: Point = (1.0, 2.0)
    perhaps: Point | None = None
    many: tuple[Point, ...] = ((1.0, 2.0), (3.0, -4.0))
    listed: list[Corner] = [Corner((5.0, 6.0), 7.0)]
    named: dict[str, Point] = {"a": (8.0, 9.0)}
    pair: tuple[Point, float] = ((1.0, 2.0), 3.0)
    mixed: list[float | Point] = [4.0, (5.0, 6.0)]
    box: Bounds = (0.0, 1.0, 2.0, 3.0)
    figures: tuple[float, float] = (1.0, 2.0)


class Twist(Act):
    """An act that is not one of ours, with its point under a name of its own."""

    act: Literal["twist"]
    pivot: ActPoint


class Stretch(Act):
    act: Literal["stretch"]
    by: float


class Request(BaseModel):
    act: Annotated[Twist | Stretch, Field(discriminator="act")]


class Turning(unittest.TestCase):
    def test_points_are_turned_wherever_they_are(self) -> None:
        found = turned(Shown(perhaps=(0.0, 5.0)))
        self.assertEqual(found.one, (1.0, -2.0))
        self.assertEqual(found.perhaps, (0.0, -5.0))
        self.assertEqual(found.many, ((1.0, -2.0), (3.0, 4.0)))
        self.assertEqual(found.listed, [Corner((5.0, -6.0), 7.0)])
        self.assertEqual(found.named, {"a": (8.0, -9.0)})
        self.assertEqual(found.pair, ((1.0, -2.0), 3.0))
        self.assertEqual(found.mixed, [4.0, (5.0, -6.0)])
        # The box stays one: its least y is what was its greatest.
        self.assertEqual(found.box, (0.0, -3.0, 2.0, -1.0))
        self.assertEqual(found.figures, (1.0, 2.0))

    def test_twice_is_as_before(self) -> None:
        whole = Shown(perhaps=(0.25, -5.0))
        self.assertEqual(turned(turned(whole)), whole)

    def test_an_act_with_a_point_in_a_field_of_another_name_is_turned(self) -> None:
        act = Request.model_validate({"act": {"act": "twist", "pivot": [3, 4]}})
        self.assertEqual(turned(act).act.pivot, (3.0, -4.0))
        other = Request.model_validate({"act": {"act": "stretch", "by": 4}})
        self.assertEqual(turned(other), other)

    def test_every_pair_of_figures_of_every_act_is_typed_as_a_point(self) -> None:
        """A pair that is none would reach the core upside down."""
        pairs = {
            (name, field)
            for name, act in ACTS.items()
            for field, value in act.model_fields.items()
            if "tuple[float, float]" in str(value.annotation).replace("typing.", "")
            and "Turned" not in f"{value.annotation}{value.metadata}"
        }
        self.assertEqual(pairs, set())

    def test_what_an_act_is_asked_with_is_turned_on_its_way_in(self) -> None:
        asked = {"act": "slide-after", "lettering": "x", "start": [1, 2], "end": [3, 4]}
        request = turned(LiveRequest.model_validate({"sequence": 1, "acts": [asked]}))
        self.assertEqual((request.acts[0].start, request.acts[0].end), ((1.0, -2.0), (3.0, -4.0)))

    def test_figures_keep_off_the_letters_themselves(self) -> None:
        """The discs that they keep off cover the letters' ink, and little else (shapely)."""
        words = {**document()["letterings"][0], "text": "Ill MW", "face": "lato-bold"}
        layout = laid(document(letterings=[words]))
        scene = Painting(layout, "name").scene(())
        spots = [turned(spot) for line in scene.letterings for spot in line.spots]
        discs = shapely.union_all([shapely.Point(one.at).buffer(one.reach) for one in spots])
        letters = shapely.union_all([as_shapely(one) for one in drawn_letters(layout)])
        self.assertLess(letters.difference(discs).area, 0.15 * letters.area)
        hull = letters.convex_hull.buffer(2.0)
        self.assertLess(discs.difference(hull).area, 0.15 * discs.area)

    def test_what_moves_is_what_the_whole_scene_shows(self) -> None:
        """A pull is answered twice: both answers are turned alike."""
        layout = laid(document(guides=[{"id": "rim", "kind": "arch", "chord": 200, "rise": 40,
                                        "centre": [20, 70], "turned": 15}]))  # fmt: skip
        painting = Painting(layout, "rim")
        moved, scene = painting.moved, painting.scene(())
        self.assertEqual(moved.guides, {one.id: one.path for one in scene.guides})
        self.assertTrue(moved.grips)
        self.assertLessEqual(moved.grips.items(), {one.name: one.at for one in scene.grips}.items())
        self.assertEqual(moved.dimensions, scene.dimensions)
        for line, shown in zip(moved.lines, scene.letterings, strict=True):
            self.assertLessEqual(line.model_dump().items(), shown.model_dump().items())
        centre = next(one for one in scene.grips if one.name == "centre")
        self.assertLess(centre.at[1], 0.0)


if __name__ == "__main__":
    unittest.main()

"""What is done by hand, and what comes of it."""

from __future__ import annotations

import math
import unittest
from typing import Any

import numpy as np

from tests import zoo
from tests.makings import document, done, laid, performed, with_lettering
from ulvent.core.acts import Made
from ulvent.core.acts.grips import grips
from ulvent.core.acts.slide import slid_after, slid_along
from ulvent.core.base.errors import PieceError
from ulvent.core.curves import nearest
from ulvent.core.guides.kinds import STARTS
from ulvent.core.layout import lay_out
from ulvent.core.recipe import parse_piece
from ulvent.demo import barrel_head
from ulvent.shipped_faces import shipped_face


def with_guides(*guides: dict[str, Any]) -> dict[str, Any]:
    return document(guides=list(guides), letterings=[])


class Pulling(unittest.TestCase):
    def test_every_grip_of_every_kind_can_be_pulled(self) -> None:
        for name, recipe in zoo.RECIPES.items():
            piece = parse_piece(with_guides({"id": "g", **recipe, "part": None}))
            for grip in grips(laid(piece).guides[0], node=1):
                with self.subTest(f"{name} {grip.name}"):
                    end = (grip.at[0] + 3.0, grip.at[1] + 2.0)
                    after = done(
                        piece, act="pull", guide="g", grip=grip.name, start=grip.at, end=end
                    )
                    moved = next(
                        one for one in grips(laid(after).guides[0], node=1) if one.name == grip.name
                    )
                    if grip.kind in ("centre", "point", "handle"):
                        np.testing.assert_allclose(moved.at, end, atol=2e-3)
                    else:
                        self.assertNotEqual(after.guides[0], piece.guides[0])

    def test_pulling_is_absolute(self) -> None:
        """One pull, or a hundred from the same start: the same guide."""
        piece = parse_piece(with_guides({"id": "g", **zoo.RECIPES["drawn"]}))
        once = done(piece, act="pull", guide="g", grip="node:2", start=(0, 0), end=(5, 7))
        for step in np.linspace(0, 1, 7):
            last = done(piece, act="pull", guide="g", grip="node:2", start=(0, 0),
                        end=(5 * step, 7 * step))  # fmt: skip
        self.assertEqual(last, once)

    def test_a_turned_guides_point_goes_where_the_pointer_goes(self) -> None:
        piece = with_guides({"id": "g", **zoo.RECIPES["drawn"], "turned": 130, "scaled": 2.5})
        grip = next(g for g in grips(laid(piece).guides[0]) if g.name == "node:1")
        after = done(piece, act="pull", guide="g", grip="node:1", start=grip.at, end=(12, -9))
        moved = next(g for g in grips(laid(after).guides[0]) if g.name == "node:1")
        np.testing.assert_allclose(moved.at, (12, -9), atol=1e-3)

    def test_a_circles_start_goes_under_the_pointer(self) -> None:
        after = done(
            document(), act="pull", guide="rim", grip="start", start=(0, 120), end=(-50, 0)
        )
        self.assertEqual(after.guides[0].start, 180)

    def test_another_closed_guides_start_goes_to_the_nearest_station(self) -> None:
        piece = with_guides({"id": "g", **zoo.RECIPES["rectangle"], "reverse": True})
        after = done(piece, act="pull", guide="g", grip="start", start=(0, 0), end=(7, 90))
        np.testing.assert_allclose(laid(after).guides[0].curve.points(0), [(7, 35)], atol=1e-3)

    def test_a_parallel_is_pulled_to_its_distance(self) -> None:
        piece = with_guides(
            {"id": "a", "kind": "circle", "diameter": 100},
            {"id": "b", "kind": "parallel", "guide": "a", "distance": 5},
        )
        after = done(piece, act="pull", guide="b", grip="distance", start=(0, -55), end=(0, -62.5))
        self.assertEqual(after.guides[1].distance, 12.5)


class Points(unittest.TestCase):
    def test_typed_coordinates(self) -> None:
        piece = with_guides({"id": "g", **zoo.RECIPES["drawn"], "turned": 30})
        after = done(piece, act="place-node", guide="g", index=3, at=(40, 25))
        grip = next(g for g in grips(laid(after).guides[0]) if g.name == "node:3")
        np.testing.assert_allclose(grip.at, (40, 25), atol=1e-3)

    def test_split_gives_two_guides_and_join_gives_one_with_both_letterings(self) -> None:
        piece = with_guides({"id": "g", **zoo.RECIPES["drawn"]})
        two = done(piece, act="split", guide="g", index=2)
        self.assertEqual([guide.id for guide in two.guides], ["g", "g-2"])
        lettered = two.model_copy(
            update={
                "letterings": (
                    parse_piece(with_lettering()).letterings[0].model_copy(update={"guide": "g-2"}),
                )
            }
        )
        one = done(lettered, act="join", guide="g", other="g-2")
        self.assertEqual([guide.id for guide in one.guides], ["g"])
        self.assertEqual(one.letterings[0].guide, "g")

    def test_drawing_through_points_and_by_hand(self) -> None:
        points = [(0, 0), (40, 30), (90, 0)]
        drawn = done(with_guides(), act="draw-through", points=points)
        for point in points:
            curve = laid(drawn).guides[0].curve
            np.testing.assert_allclose(curve.points(nearest(curve, [point])), [point], atol=1e-3)
        way = [(float(x), 20 * math.sin(x / 15)) for x in np.linspace(0, 120, 150)]
        by_hand = done(with_guides(), act="draw-freehand", points=way, tolerance=0.4)
        self.assertLess(len(by_hand.guides[0].nodes), 12)

    def test_every_guide_to_begin_with_is_one(self) -> None:
        piece = with_guides(
            {"id": "a", "kind": "circle", "diameter": 100},
            {"id": "b", "kind": "circle", "diameter": 160},
        )
        for start in STARTS.values():
            with self.subTest(start.name):
                did = performed(piece, act="start-guide", start=start.name,
                                on=["a", "b"][: start.needs])  # fmt: skip
                self.assertEqual(did.made, (Made("guide", did.piece.guides[-1].id),))
                self.assertGreater(laid(did.piece).guides[-1].curve.length, 50)
        with self.assertRaises(PieceError) as caught:
            performed(piece, act="start-guide", start="middle line", on=["a"])
        self.assertEqual(caught.exception.problems[0].field, "on")

    def test_a_new_id_is_free_whatever_the_case_of_the_others(self) -> None:
        """Ids are names of layers and of files, where case does not tell two apart."""
        piece = with_guides({"id": "Ring", "kind": "circle", "diameter": 100})
        once = performed(piece, act="start-guide", start="ring")
        self.assertEqual(once.made, (Made("guide", "ring-2"),))
        again = performed(once.piece, act="start-guide", start="ring")
        self.assertEqual(again.made, (Made("guide", "ring-3"),))

    def test_what_is_not_there_is_named(self) -> None:
        piece = with_guides({"id": "g", **zoo.RECIPES["drawn"]})
        for act, field in (
            ({"act": "remove-node", "guide": "g", "index": 9}, "index"),
            ({"act": "remove-node", "guide": "h", "index": 0}, "guide"),
            ({"act": "pull", "guide": "g", "grip": "knob", "start": (0, 0), "end": (1, 1)}, "grip"),
        ):
            with self.subTest(field), self.assertRaises(PieceError) as caught:
                done(piece, **act)
            self.assertEqual(caught.exception.problems[0].field, field)


class Deleting(unittest.TestCase):
    def test_the_lettering_keeps_its_place(self) -> None:
        before = laid(document())
        after = done(document(), act="remove-guide", guide="rim")
        self.assertTrue(after.guides[0].removed)
        np.testing.assert_array_equal(laid(after).settings[0].matrices, before.settings[0].matrices)
        self.assertEqual(laid(after).shown_guides, ())
        back = done(after, act="restore-guide", guide="rim")
        self.assertEqual(back, parse_piece(document()))

    def test_with_its_last_lettering_the_line_goes_too(self) -> None:
        after = done(document(), act="remove-guide", guide="rim")
        self.assertEqual(done(after, act="remove-lettering", lettering="name").guides, ())

    def test_passes_let_go_of_a_lettering_that_is_removed(self) -> None:
        words = {"id": "more", "guide": "rim", "text": "PEAR", "face": "lato-bold", "height": 9}
        name, more = ({"what": "letters", "of": of} for of in ("name", "more"))
        both = [name, more, {"what": "edge"}]
        passes = [{"id": "a", "tool": "pen", "works": [name]},
                  {"id": "b", "tool": "blade", "works": both}]  # fmt: skip
        base = document(run={"passes": passes})
        piece = parse_piece(base | {"letterings": [*base["letterings"], words]})
        run = done(piece, act="remove-lettering", lettering="name").run
        assert run is not None
        self.assertEqual([one.id for one in run.passes], ["b"])
        self.assertEqual([(one.what, one.of) for one in run.passes[0].works],
                         [("letters", "more"), ("edge", "")])  # fmt: skip

    def test_a_guide_that_another_leans_on_is_kept_for_it(self) -> None:
        piece = with_guides(
            {"id": "a", "kind": "circle", "diameter": 100},
            {"id": "b", "kind": "parallel", "guide": "a", "distance": 5},
        )
        after = done(piece, act="remove-guide", guide="a")
        self.assertEqual([guide.id for guide in after.guides], ["a", "b"])
        self.assertEqual(len(laid(after).shown_guides), 1)

    def test_one_that_nothing_stands_on_is_gone(self) -> None:
        self.assertEqual(
            done(with_guides({"id": "g", "kind": "line", "length": 5}), act="remove-guide",
                 guide="g").guides, ())  # fmt: skip


class Leaning(unittest.TestCase):
    """Guides made from guides follow them."""

    def test_a_parallel_and_a_laid_flat_line_follow_their_guide(self) -> None:
        for diameter in (100, 140):
            layout = laid(
                with_guides(
                    {"id": "flat", "kind": "laid-flat", "guide": "out"},
                    {"id": "out", "kind": "parallel", "guide": "ring", "distance": 6},
                    {"id": "ring", "kind": "circle", "diameter": diameter},
                )
            )
            flat, out, _ = (guide.curve for guide in layout.guides)
            self.assertAlmostEqual(out.length, math.pi * (diameter + 12))
            self.assertAlmostEqual(flat.length, out.length)

    def test_rings_and_strangers_are_refused(self) -> None:
        ring = [
            {"id": "a", "kind": "parallel", "guide": "b", "distance": 1},
            {"id": "b", "kind": "laid-flat", "guide": "a"},
        ]
        with self.assertRaisesRegex(PieceError, "leans on itself"):
            parse_piece(with_guides(*ring))
        with self.assertRaisesRegex(PieceError, r"guides\[0\].guide: there is no guide “b”"):
            parse_piece(with_guides(ring[0]))

    def test_a_lettering_stays_tied_to_what_it_was_tied_to(self) -> None:
        """A share of the length stays a share, a station a station, when the guide changes."""
        for at, at_in, expected in ((0.5, "share", 0.5), (30, "mm", None)):
            for span in (90, 130):
                guide = {"id": "rim", "kind": "arch", "chord": span, "rise": 20}
                piece = with_lettering(at=at, at_in=at_in, align="centre", text="O")
                layout = laid({**piece, "guides": [guide]})
                setting = layout.settings[0]
                station = float(setting.stations[0])
                wanted = 30 if expected is None else expected * setting.guide.length
                self.assertAlmostEqual(station, wanted, places=6)


class Sliding(unittest.TestCase):
    def test_by_a_length_in_reading_direction(self) -> None:
        layout = lay_out(barrel_head(), shipped_face)
        guide = layout.guides[0].curve
        name, pressed = layout.piece.letterings
        self.assertAlmostEqual(slid_along(name, guide, 10).at * guide.length,
                               name.at * guide.length + 10, places=3)  # fmt: skip
        self.assertAlmostEqual(slid_along(pressed, guide, 10).at * guide.length,
                               pressed.at * guide.length - 10, places=3)  # fmt: skip

    def test_after_a_pointer_and_round_the_seam(self) -> None:
        layout = laid(document())
        guide, lettering = layout.guides[0].curve, layout.piece.letterings[0]
        after = slid_after(lettering, guide, (0.0, 125.0), (125.0, 0.0))
        self.assertAlmostEqual(after.at, guide.length / 4, places=3)
        back = slid_after(lettering, guide, (0.0, 125.0), (-125.0, 0.0))
        self.assertAlmostEqual(back.at, 3 * guide.length / 4, places=3)

    def test_stays_on_an_open_guide(self) -> None:
        piece = document(guides=[{"id": "rim", "kind": "path", "d": "M0 0H100"}])
        layout = laid(piece)
        guide, lettering = layout.guides[0].curve, layout.piece.letterings[0]
        self.assertEqual(slid_along(lettering, guide, 500).at, 100)
        self.assertEqual(slid_along(lettering, guide, -500).at, 0)


if __name__ == "__main__":
    unittest.main()

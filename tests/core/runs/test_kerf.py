"""Kerf: half of the tool's width given back by the pass that takes it."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np
import shapely
import shapely.affinity

from tests.areas import apart, as_shapely, polygons_of
from tests.makings import document, workpiece
from ulvent.core.base.errors import PieceError
from ulvent.core.outlines import Outline
from ulvent.core.recipe import parse_piece
from ulvent.core.runs import Run
from ulvent.formats.run_out import RUN_FORMATS

WIDTH = 0.3
BOARD = {"kind": "rectangle", "width": 300, "height": 120}
LINE = [{"id": "line", "kind": "line", "length": 280}]


def piece(*passes: dict[str, Any], text: str = "BRASS", **more: Any) -> dict[str, Any]:
    words = {"id": "words", "guide": "line", "text": text, "face": "archivo-black", "height": 40}
    made = {"blank": BOARD, "guides": LINE, "letterings": [words], **more}
    return document(**made, **({"run": {"passes": list(passes)}} if passes else {}))


def cut(kerf: list[dict[str, Any]], **more: Any) -> dict[str, Any]:
    return {"id": "cut", "tool": "beam", "works": [{"what": "cut"}], "kerf": kerf, **more}


def rings(run: Run, number: int = 0) -> list[shapely.Polygon]:
    return [shapely.Polygon(track.points) for track in run.passes[number].tracks]


class Kerf(unittest.TestCase):
    def test_a_round_cutter_along_the_path_leaves_the_wanted_outline(self) -> None:
        """The path is followed by a round cutter of the kerf's width (shapely). What it cannot
        reach, hollows narrower than the cutter, is taken as given."""
        work = workpiece(piece(cut([{"width": WIDTH}])))
        (group,) = work.groups
        wanted = polygons_of(work.ready.layers[0].area)
        path = as_shapely(Outline.joined(group.areas))
        left = path.difference(path.boundary.buffer(WIDTH / 2.0, quad_segs=64))
        reachable = wanted.buffer(WIDTH / 2.0, quad_segs=64).buffer(-WIDTH / 2.0, quad_segs=64)
        self.assertLess(apart(left, reachable), 0.01)
        # The run follows the same line; its zero is the board's lower left corner.
        edge = shapely.affinity.translate(path.boundary, 150.0, 60.0)
        for track in work.run.passes[0].tracks:
            self.assertLess(shapely.distance(shapely.points(track.points), edge).max(), 0.005)

    def test_inward_letters_shrink_and_their_counters_widen(self) -> None:
        plain, inward = (
            sorted(rings(workpiece(piece(cut(kerf), text="O")).run), key=lambda one: -one.area)
            for kerf in ([], [{"width": 0.4, "side": "inward"}])
        )
        for one, two, more in zip(plain, inward, (-0.4, 0.4), strict=True):
            (x0, _, x1, _), (u0, _, u1, _) = one.bounds, two.bounds
            self.assertAlmostEqual((u1 - u0) - (x1 - x0), more, delta=2e-3)

    def test_each_pass_gives_back_its_own(self) -> None:
        draw = {"id": "draw", "tool": "pen", "works": [{"what": "cut"}]}
        run = workpiece(piece(draw, cut([{"width": WIDTH}]), text="I")).run
        (drawn,), (through,) = rings(run, 0), rings(run, 1)
        self.assertAlmostEqual(through.area, drawn.buffer(WIDTH / 2, quad_segs=64).area, delta=0.02)

    def test_edges_are_moved_where_that_is_asked_for(self) -> None:
        ring = {"kind": "ring", "outer": 100, "inner": 60}
        for edges, outer, inner in ((False, 100.0, 60.0), (True, 101.0, 59.0)):
            asked = cut([{"width": 1.0, "edges": edges}], works=[{"what": "edge"}])
            run = workpiece(piece(asked, blank=ring, edge="cut", text="I")).run
            widths = sorted(np.ptp(np.array(one.exterior.coords)[:, 0]) for one in rings(run))
            np.testing.assert_allclose(widths, [inner, outer], atol=2e-3)


class Before(unittest.TestCase):
    """Kerf was a step of preparing: what was kept then comes to the same path."""

    def test_a_piece_of_then_has_the_same_files(self) -> None:
        for side in ("outward", "inward"):
            kerf = {"width": WIDTH, "side": side}
            for where in ("lettering", "piece"):
                old = piece()
                owner = old["letterings"][0] if where == "lettering" else old
                owner["prepare"] = {"join": {}, "kerf": kerf}
                new = piece(cut([kerf]))
                (new["letterings"][0] if where == "lettering" else new)["prepare"] = {"join": {}}
                then, now = workpiece(old), workpiece(new)
                self.assertEqual(
                    [one.points.tolist() for group in then.groups for one in group.areas],
                    [one.points.tolist() for group in now.groups for one in group.areas],
                )
                self.assertEqual(
                    RUN_FORMATS["gcode"].write(then.run).splitlines()[3:],
                    RUN_FORMATS["gcode"].write(now.run).splitlines()[3:],
                )

    def test_only_the_lettering_that_had_it_is_moved(self) -> None:
        old = piece(edge="cut")
        other = {**old["letterings"][0], "id": "other", "at": 200, "text": "I"}
        old["letterings"][0]["prepare"] = {"kerf": {"width": WIDTH}}
        old["letterings"].append(other)
        found = parse_piece(old)
        assert found.run is not None
        self.assertEqual({kerf.of for one in found.run.passes for kerf in one.kerf}, {"words"})
        plain = parse_piece(
            {**old, "letterings": [old["letterings"][0] | {"prepare": None}, other]}
        )
        for name, same in (("words", False), ("other", True)):
            ours, theirs = (
                next(g for g in workpiece(one).groups if g.key == ("letters", name)).areas
                for one in (found, plain)
            )
            self.assertEqual(ours[0].points.tolist() == theirs[0].points.tolist(), same)
        self.assertIsNone(plain.run)
        # Read again, it says what it says.
        self.assertEqual(parse_piece(found.model_dump(mode="json")), found)

    def test_what_was_wrong_is_named(self) -> None:
        for wrong, field in (
            ({"kerf": 3}, "letterings[0].prepare.kerf"),
            ({"kerf": {"width": -1}}, "run.passes[0].kerf[0].width"),
        ):
            old = piece()
            old["letterings"][0]["prepare"] = wrong
            with self.assertRaises(PieceError) as caught:
                parse_piece(old)
            self.assertIn(field, [problem.field for problem in caught.exception.problems])
        lost = piece(cut([{"width": 1, "of": "nobody"}]))
        with self.assertRaises(PieceError) as caught:
            parse_piece(lost)
        self.assertEqual(caught.exception.problems[0].field, "run.passes[0].kerf[0].of")

"""A line as few points: held against shapely's own distance between lines."""

from __future__ import annotations

import math
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString

from tests.makings import document, done, laid, performed
from ulvent.core.curves import Curve
from ulvent.core.guides import guide_curve
from ulvent.core.guides.fewer_points import fewer_points
from ulvent.core.recipe import Piece, parse_guide, parse_piece

SOFT = {"id": "g", "kind": "superellipse", "width": 120, "height": 80, "exponent": 4}


def as_line(curve: Curve) -> LineString:
    return LineString(curve.points(np.linspace(0.0, curve.length, 6000)))


def one(guide: dict[str, object]) -> Piece:
    return parse_piece(document(guides=[guide], letterings=[]))


def trembling() -> dict[str, object]:
    """A wave drawn with a point every 2 mm, each off by up to 0.1 mm."""
    off = np.random.default_rng(5).uniform(-0.1, 0.1, 101)
    nodes = [{"at": (2.0 * i, 15.0 * math.sin(i / 16.0) + float(off[i]))} for i in range(101)]
    return {"id": "g", "kind": "drawn", "nodes": nodes, "centre": [30, -4], "turned": 25}


class FewerPoints(unittest.TestCase):
    def test_a_soft_square_is_worked_on_with_few_points(self) -> None:
        before = one(SOFT)
        after = done(before, act="make-drawn", guide="g")
        self.assertLessEqual(len(after.guides[0].nodes), 10)
        lines = [as_line(laid(piece).guides[0].curve) for piece in (before, after)]
        self.assertLess(lines[0].hausdorff_distance(lines[1]), 0.06)

    def test_a_tremble_is_smoothed_and_what_it_cost_is_said(self) -> None:
        before = one(trembling())
        made = performed(before, act="simplify", guide="g", tolerance=0.3)
        guide = made.piece.guides[0]
        self.assertLess(len(guide.nodes), 20)
        self.assertEqual((guide.centre, guide.turned), ((30.0, -4.0), 25.0))
        lines = [as_line(laid(piece).guides[0].curve) for piece in (before, made.piece)]
        off = lines[0].hausdorff_distance(lines[1])
        self.assertLess(off, 0.3 + 0.01)
        self.assertEqual(made.said.split(";")[0], f"101 points became {len(guide.nodes)}")
        said = float(made.said.split("moved by ")[1].split(" mm")[0])
        self.assertAlmostEqual(said, off, delta=0.02)

    def test_what_is_simple_already_stays(self) -> None:
        nodes = [{"at": (0, 0)}, {"at": (60, 20)}, {"at": (120, 0)}]
        made = performed(one({"id": "g", "kind": "drawn", "nodes": nodes}), act="simplify",
                         guide="g", tolerance=0.01)  # fmt: skip
        self.assertIn("as few as", made.said)
        self.assertEqual(len(made.piece.guides[0].nodes), 3)

    def test_corners_stay_where_they_are(self) -> None:
        corners = [(0, 0), (80, 0), (80, 50), (0, 50)]
        nodes = [{"at": at, "joint": "corner"} for at in corners]
        many = [
            {"at": (a[0] + (b[0] - a[0]) * t / 5, a[1] + (b[1] - a[1]) * t / 5), "joint": "corner"}
            for a, b in zip(corners, [*corners[1:], corners[0]], strict=True)
            for t in range(5)
        ]
        guide = {"id": "g", "kind": "drawn", "nodes": many, "closed": True}
        after = done(one(guide), act="simplify", guide="g", tolerance=0.05)
        kept = {tuple(np.round(node.at, 3)) for node in after.guides[0].nodes}
        self.assertLessEqual({tuple(map(float, node["at"])) for node in nodes}, kept)  # type: ignore[arg-type]
        self.assertLessEqual(len(kept), 8)

    @settings(max_examples=6)
    @given(st.floats(2.2, 12.0), st.floats(0.3, 1.0), st.sampled_from([0.02, 0.1, 0.5]))
    def test_never_farther_than_asked(self, exponent: float, flat: float, within: float) -> None:
        guide = {**SOFT, "exponent": exponent, "height": 120 * flat}
        found = fewer_points(guide_curve(parse_guide(guide)), within)
        self.assertLessEqual(found.off, within)


if __name__ == "__main__":
    unittest.main()

"""Parallels of traced outlines and of parallels: right, and no dearer than they need be."""

from __future__ import annotations

import subprocess
import sys
import unittest
from unittest.mock import patch

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.makings import document
from ulvent.core.curves import parallel_of
from ulvent.core.curves.bezier import BezierPath
from ulvent.core.curves.parametric import Parametric
from ulvent.core.curves.segments import LineSegment
from ulvent.core.curves.trimmed import trimmed_parallels
from ulvent.core.guides import guide_curves
from ulvent.core.guides.pathdata import curve_from_path_data
from ulvent.core.recipe import parse_piece

MOST_MB = 200


def corners_of_a_tracing(count: int, seed: int, noise: float = 0.15) -> np.ndarray:
    """A leaf-like outline as a tracing program has it: many short edges that tremble."""
    turns = np.linspace(0.0, 2.0 * np.pi, count, endpoint=False)
    trembling = np.random.default_rng(seed).normal(0.0, noise, count)
    radii = 60.0 + 4.0 * np.sin(5.0 * turns) + trembling
    return np.stack([radii * np.cos(turns), radii * np.sin(turns)], axis=1)


def outline(corners: np.ndarray) -> BezierPath:
    points = [(float(x), float(y)) for x, y in corners]
    ends = [*points[1:], points[0]]
    return BezierPath([LineSegment(a, b) for a, b in zip(points, ends, strict=True)], closed=True)


class Traced(unittest.TestCase):
    @settings(max_examples=25)
    @given(
        st.integers(70, 400),
        st.integers(0, 1000),
        st.sampled_from((-9.0, -3.0, -0.4, 0.3, 2.0, 7.0)),
        st.booleans(),
    )
    def test_as_shapely_makes_them(self, count: int, seed: int, away: float, back: bool) -> None:
        corners = corners_of_a_tracing(count, seed)
        polygon = shapely.Polygon(corners)
        if not polygon.is_valid:
            return
        base = outline(corners[::-1] if back else corners)
        # To the left of an outline that runs against the clock is its inside.
        wanted = polygon.buffer(away if back else -away, quad_segs=400)
        if wanted.geom_type != "Polygon" or wanted.interiors:
            return
        found = parallel_of(base, away)
        self.assertAlmostEqual(found.length, wanted.exterior.length, delta=2e-4 * found.length)
        self.assertTrue(found.closed)
        points = shapely.points(found.points(np.linspace(0.0, found.length, 2000)))
        off = np.abs(shapely.distance(points, polygon.exterior) - abs(away))
        self.assertLess(off.max(), 0.002)

    def test_one_that_falls_apart_has_all_its_pieces(self) -> None:
        """A dumbbell of many edges: inward its neck is lost (shapely)."""
        across = np.linspace(-40.0, 40.0, 161)
        half = 5.0 + 15.0 * (across / 40.0) ** 2
        corners = np.concatenate(
            [np.stack([across, -half], axis=1), np.stack([across, half], axis=1)[::-1]]
        )
        wanted = shapely.Polygon(corners).buffer(-6.0, quad_segs=400)
        pieces = trimmed_parallels(outline(corners), 6.0)
        self.assertEqual(len(pieces), len(wanted.geoms))
        for piece, other in zip(
            sorted(one.length for one in pieces),
            sorted(one.exterior.length for one in wanted.geoms),
            strict=True,
        ):
            self.assertAlmostEqual(piece, other, delta=0.01)

    def test_five_thousand_edges_in_little_memory(self) -> None:
        """A standoff of 3 mm: 500 edges took 577 MB and were refused, 1,000 took 2.7 GB."""
        work = (
            "import resource\n"
            "from tests.core.curves.test_traced import corners_of_a_tracing, outline\n"
            "from ulvent.core.curves import parallel_of\n"
            "before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss\n"
            "base = outline(corners_of_a_tracing(5000, 1))\n"
            "lengths = [parallel_of(base, away).length for away in (3.0, -3.0)]\n"
            "after = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss\n"
            "print((after - before) / 1024, *lengths)\n"
        )
        run = subprocess.run(
            [sys.executable, "-c", work], check=True, capture_output=True, text=True
        )
        grown, inside, outside = map(float, run.stdout.split())
        self.assertLess(grown, MOST_MB)
        polygon = shapely.Polygon(corners_of_a_tracing(5000, 1))
        for found, away in ((inside, -3.0), (outside, 3.0)):
            wanted = polygon.buffer(away, quad_segs=400).exterior.length
            self.assertAlmostEqual(found, wanted, delta=0.1)


class ParallelsOfParallels(unittest.TestCase):
    WAVE = "M0 0C40 60 80 -60 120 0C160 60 200 40 240 0"

    def levels(self, distances: list[float], **also: object) -> list[float]:
        """Lengths of parallels, each of the last."""
        base = {"id": "p0", "kind": "path", "d": self.WAVE}
        guides = [
            {"id": f"p{n}", "kind": "parallel", "guide": f"p{n - 1}", "distance": by, **also}
            for n, by in enumerate(distances, 1)
        ]
        piece = parse_piece(document(guides=[base, *guides], letterings=[]))
        return [one.length for one in guide_curves(piece.guides).values()][1:]

    def test_is_one_parallel_of_the_base(self) -> None:
        base = curve_from_path_data(self.WAVE)
        # A piece file has y up, path data has it down.
        found = self.levels([2.0] * 6)
        for level, length in enumerate(found, 1):
            (wanted,) = trimmed_parallels(base, 2.0 * level)
            self.assertAlmostEqual(length, wanted.length, places=6)

    def test_there_and_back_where_nothing_was_lost(self) -> None:
        base = curve_from_path_data(self.WAVE).length
        self.assertAlmostEqual(self.levels([3.0, -3.0])[-1], base, places=6)
        # What bends too tightly is lost, and does not come back.
        self.assertLess(self.levels([25.0, -25.0])[-1], base - 0.05)

    def test_work_grows_with_the_levels_and_no_faster(self) -> None:
        """Each level used to ask the last one anew in every step: four times the work a level."""
        asked = []
        for levels in (3, 12):
            guide_curves.__globals__["_made"].cache_clear()
            trimmed_parallels.cache_clear()
            with patch.object(Parametric, "_frames", autospec=True,
                              side_effect=Parametric._frames) as frames:  # fmt: skip
                # Turned a little, so that each is a line of its own.
                self.levels([(9.0, -7.0)[n % 2] for n in range(levels)], turned=1)
            asked.append(sum(len(call.args[1]) for call in frames.call_args_list))
        self.assertLess(asked[1], 6.0 * asked[0])


if __name__ == "__main__":
    unittest.main()

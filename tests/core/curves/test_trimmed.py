"""Parallels without cusps and loops, corners rounded, and lines between edges. Witness: shapely."""

from __future__ import annotations

import math
import re
import unittest

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import zoo
from tests.areas import off_edge
from ulvent.core.base.errors import CurveError
from ulvent.core.curves import Curve, parallel_of, section_of
from ulvent.core.curves.between import line_between
from ulvent.core.curves.rounded import rounded
from ulvent.core.curves.trimmed import trimmed_parallels
from ulvent.core.guides import guide_curves, guide_note
from ulvent.core.guides.pathdata import curve_from_path_data
from ulvent.core.recipe import parse_piece

BUMPS = "M0 0C30 60 30 -60 60 0C70 20 75 -40 100 0"
DUMBBELL = "M-60 30L-20 30L-10 8L10 8L20 30L60 30L60 -30L20 -30L10 -8L-10 -8L-20 -30L-60 -30Z"


def line_string(curve: Curve, count: int = 8_000) -> shapely.LineString:
    stations = np.append(np.linspace(0, curve.length, count), curve.corners.stations)
    return shapely.LineString(curve.points(np.sort(stations)))


def distances(curve: Curve, to: Curve, count: int = 601) -> np.ndarray:
    points = curve.points(np.linspace(0, curve.length, count))
    return shapely.distance(shapely.points(points), line_string(to))


class Trimmed(unittest.TestCase):
    def test_the_offset_that_shapely_makes(self) -> None:
        """On open lines, where shapely has no join at a seam: within 0.01 mm both ways."""
        for data in (BUMPS, "M0 0C20 40 60 -20 80 10C90 25 120 30 150 0", "M0 0L40 20L80 0L120 50"):
            base = curve_from_path_data(data)
            for distance in (2.5, -2.5, 8, -8, 13):
                with self.subTest(f"{data[:20]} at {distance}"):
                    found = trimmed_parallels(base, distance)
                    ours = shapely.MultiLineString([line_string(one) for one in found])
                    theirs = shapely.offset_curve(
                        line_string(base, 3000), distance, quad_segs=90, join_style="round"
                    )
                    for one, other in ((ours, theirs), (theirs, ours)):
                        shares = np.linspace(0, 1, 800)
                        points = shapely.line_interpolate_point(
                            shapely.line_merge(one), shares, normalized=True
                        )
                        self.assertLess(shapely.distance(points, other).max(), 0.01)

    def test_nothing_is_nearer_and_nothing_is_farther(self) -> None:
        for data in (BUMPS, DUMBBELL):
            base = curve_from_path_data(data)
            for distance in (3, -3, 7, -7, 12):
                for piece in trimmed_parallels(base, distance):
                    with self.subTest(f"{data[:12]} at {distance}"):
                        away = distances(piece, base)
                        np.testing.assert_allclose(away, abs(distance), atol=2e-5)

    def test_stations_on_it_are_its_own_arc_length(self) -> None:
        (piece, *_) = trimmed_parallels(curve_from_path_data(BUMPS), 8)
        polyline = line_string(piece)
        self.assertAlmostEqual(piece.length, polyline.length, delta=1e-4)

    def test_falling_apart_is_said(self) -> None:
        """Inside the dumbbell at 10 mm its neck of 16 closes: two rings are left."""
        base = curve_from_path_data(DUMBBELL)
        found = trimmed_parallels(base, -10)
        self.assertEqual([piece.closed for piece in found], [True, True])
        ring = base.points(np.append(0.0, base.corners.stations))
        inside = shapely.buffer(shapely.Polygon(ring), -10, quad_segs=200)
        for piece, part in zip(found, inside.geoms, strict=True):
            self.assertAlmostEqual(piece.length, part.length, delta=0.01)
        guides = [{"id": "a", "kind": "path", "d": DUMBBELL},
                  {"id": "b", "kind": "parallel", "guide": "a", "distance": -10}]  # fmt: skip
        piece = parse_piece({"ulvent": 1, "guides": guides})
        note = guide_note(piece.guides[1], guide_curves(piece.guides))
        self.assertIn("2 pieces", note)

    def test_too_far_names_the_farthest(self) -> None:
        rectangle = zoo.curves()["rectangle"]
        with self.assertRaisesRegex(CurveError, "the farthest one is 15 mm"):
            trimmed_parallels(rectangle, 16)

    def test_a_baseline_ignores_the_next_turn_of_a_spiral(self) -> None:
        spiral = zoo.curves()["spiral"]
        self.assertAlmostEqual(
            parallel_of(section_of(spiral, 60, 200), 12).length,
            140 - 12 * (float(spiral.turnings(200)[0]) - float(spiral.turnings(60)[0])),
            places=6,
        )

    @settings(max_examples=25)
    @given(st.floats(-9, 9).filter(lambda d: abs(d) > 0.3), st.integers(0, 10_000))
    def test_drawn_lines_keep_their_distance(self, distance: float, seed: int) -> None:
        corners = np.random.default_rng(seed).uniform(-40, 40, (5, 2)).round(2)
        nodes = [{"at": at} for at in corners.tolist()]
        base = guide_curves(
            parse_piece(
                {"ulvent": 1, "guides": [{"id": "g", "kind": "drawn", "nodes": nodes}]}
            ).guides
        )["g"]
        try:
            found = trimmed_parallels(base, distance)
        except CurveError as error:
            # What is refused is refused with the farthest distance that there is.
            (farthest,) = re.findall(r"the farthest one is ([\d.]+) mm", str(error))
            self.assertLess(float(farthest), abs(distance))
            self.assertTrue(
                trimmed_parallels(base, math.copysign(float(farthest) * 0.98, distance))
            )
            return
        self.assertTrue(found)
        for piece in found:
            away = distances(piece, base, 301)
            np.testing.assert_allclose(away, abs(distance), atol=0.01)


class Rounded(unittest.TestCase):
    def test_touches_both_sides_without_a_corner(self) -> None:
        for name, radius in (("rectangle", 8), ("polygon", 6)):
            with self.subTest(name):
                found = rounded(zoo.curves()[name], radius)
                self.assertEqual(found.least_radius, radius)
                self.assertEqual(len(found.curve.corners.stations), 0)
                sharpest = np.abs(found.curve.bends[1]).max()
                self.assertAlmostEqual(sharpest, 1 / radius)

    def test_a_radius_too_large_is_made_smaller_and_said(self) -> None:
        self.assertAlmostEqual(rounded(zoo.curves()["rectangle"], 40).least_radius, 15)

    def test_between_curved_sides(self) -> None:
        line = curve_from_path_data("M0 0C20 30 40 30 60 0C80 30 100 30 120 0")
        found = rounded(line, 5).curve
        self.assertEqual(len(found.corners.stations), 0)
        self.assertLess(found.length, line.length)

    def test_a_ring_starts_where_it_started(self) -> None:
        rectangle = curve_from_path_data("M-50 0V30H50V-30H-50Z")
        np.testing.assert_allclose(rounded(rectangle, 10).curve.points(0), [(-50, 0)], atol=1e-9)


class Between(unittest.TestCase):
    EDGES = (
        ("M0 30C40 60 80 0 140 34", "M-4 0C50 34 80 -30 150 0"),
        ("M0 30L60 70L120 30", "M0 0L60 20L120 0"),
        ("M0 20L40 20L45 8L50 20L100 20", "M0 0L100 0"),
        ("M-50 0A50 50 0 0 1 50 0A50 50 0 0 1 -50 0Z", "M-30 0L0 20L30 0L0 -20Z"),
    )

    def test_as_far_from_both_edges(self) -> None:
        """At 200 stations the distances to both differ by less than 0.01 mm (shapely)."""
        for one, other in self.EDGES:
            with self.subTest(one):
                first, second = curve_from_path_data(one), curve_from_path_data(other)
                middle = line_between(first, second)
                apart = off_edge(middle, first) - off_edge(middle, second)
                self.assertLess(np.abs(apart).max(), 0.01)
                self.assertEqual(middle.closed, first.closed)

    def test_at_any_share_of_the_way(self) -> None:
        first, second = (curve_from_path_data(data) for data in self.EDGES[0])
        for share in (0.1, 0.3, 0.8):
            line = line_between(first, second, share)
            off = (1 - share) * off_edge(line, first) - share * off_edge(line, second)
            self.assertLess(np.abs(off).max(), 0.01)

    def test_a_shorter_edge_makes_no_hook(self) -> None:
        """It bent by up to 27° round the end of the shorter one."""
        for short in ("M30 0H60", "M0 0H60", "M40 0H100"):
            line = line_between(curve_from_path_data("M0 30H100"), curve_from_path_data(short))
            np.testing.assert_allclose(line.points(np.linspace(0, line.length, 50))[:, 1], 15.0)
        first, second = map(
            curve_from_path_data, ("M0 30C40 60 80 0 140 34", "M20 0C50 34 80 -30 120 0")
        )
        line = line_between(first, second)
        turn = np.degrees(np.arctan2(*line.tangents(np.linspace(0, line.length, 60)).T[::-1]))
        edges = np.degrees(
            [np.arctan2(*e.tangents([0, e.length]).T[::-1]) for e in (first, second)]
        )
        for end, now in ((0, turn[0]), (1, turn[-1])):
            least, most = edges[:, end].min() - 1, edges[:, end].max() + 1
            self.assertTrue(least <= now <= most, (edges, now))

    def test_an_edge_that_runs_the_other_way_changes_nothing(self) -> None:
        first, second = (curve_from_path_data(data) for data in self.EDGES[0])
        same = line_between(first, second), line_between(first, second.reversed())
        self.assertAlmostEqual(same[0].length, same[1].length, places=6)

    def test_parallel_lines_have_the_plain_middle(self) -> None:
        line = line_between(curve_from_path_data("M0 20H100"), curve_from_path_data("M0 0H100"))
        self.assertAlmostEqual(line.length, 100)
        np.testing.assert_allclose(line.points([0, 37, 100])[:, 1], 10, atol=1e-6)

    def test_concentric_arcs_have_the_arc_between(self) -> None:
        line = line_between(
            curve_from_path_data("M-60 0A60 60 0 0 0 60 0"),
            curve_from_path_data("M-40 0A40 40 0 0 0 40 0"),
        )
        self.assertAlmostEqual(line.length, math.pi * 50, delta=0.01)

    def test_edges_that_cross_are_refused_with_the_place(self) -> None:
        with self.assertRaisesRegex(CurveError, "cross near station 50"):
            line_between(curve_from_path_data("M0 20H100"), curve_from_path_data("M0 0L100 40"))

    def test_open_and_closed_do_not_go_together(self) -> None:
        with self.assertRaisesRegex(CurveError, "closed"):
            line_between(zoo.curves()["circle"], zoo.curves()["line"])


if __name__ == "__main__":
    unittest.main()

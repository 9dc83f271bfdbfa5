"""How a tool goes along a line, held against the law of a trailing blade and against shapely."""

from __future__ import annotations

import math
import unittest

import numpy as np
import shapely

from tests.makings import document, workpiece
from ulvent.core.recipe import Filling, Tabs
from ulvent.core.runs.few_moves import moves, thinned
from ulvent.core.runs.leads import Leads, arcs
from ulvent.core.runs.nesting import Line, holes_turned
from ulvent.core.runs.raster_rows import filling_lines
from ulvent.core.runs.timing import Motion, seconds_along, straight_seconds, times_along
from ulvent.core.runs.ways import between_tabs, levels, overcut, trailed
from ulvent.core.shapes import Region

SQUARE = np.array([[0.0, 0.0], [40.0, 0.0], [40.0, 40.0], [0.0, 40.0]])
TURNS = np.linspace(0.0, 2.0 * math.pi, 400)
CIRCLE = np.stack([20.0 * np.cos(TURNS), 20.0 * np.sin(TURNS)], axis=1)


def tip_of(pivots: np.ndarray, trail: float, heading: np.ndarray) -> np.ndarray:
    """Where the tip of a blade goes whose pivot is drawn along a line: it trails, always by the
    same, on a string as it were. By small steps of the pivot."""
    line = shapely.LineString(pivots)
    walked = shapely.get_coordinates(line.segmentize(trail / 400.0))
    tip = walked[0] - trail * heading
    found = []
    for pivot in walked:
        way = pivot - tip
        tip = pivot - trail * way / np.hypot(*way)
        found.append(tip)
    return np.array(found)


class Trailing(unittest.TestCase):
    def test_the_tip_follows_the_line_and_its_corners(self) -> None:
        for name, line in (("square", overcut(SQUARE, 7.0, 3.0)), ("circle", CIRCLE)):
            for trail in (0.25, 0.75):
                with self.subTest(name, trail=trail):
                    heading = (line[1] - line[0]) / np.hypot(*(line[1] - line[0]))
                    tips = tip_of(trailed(line, trail), trail, heading)
                    path = shapely.LineString(line)
                    off = shapely.distance(path, shapely.points(tips)).max()
                    self.assertLess(off, 0.05)
                    self.assertLess(path.hausdorff_distance(shapely.LineString(tips)), 0.05)

    def test_without_a_trail_it_is_the_line_itself(self) -> None:
        self.assertIs(trailed(SQUARE, 0.0), SQUARE)


class OneLine(unittest.TestCase):
    def test_overcut_goes_on_beyond_where_it_began(self) -> None:
        for station in (0.0, 7.0, 39.5, 120.0):
            line = shapely.LineString(overcut(SQUARE, station, 5.0))
            self.assertAlmostEqual(line.length, 165.0)
            self.assertTrue(line.within(shapely.LinearRing(SQUARE).buffer(1e-9)))
            self.assertAlmostEqual(
                line.interpolate(160.0).distance(shapely.Point(line.coords[0])), 0.0
            )

    def test_parts_hang_together_by_their_tabs(self) -> None:
        for number in (1, 2, 5):
            cuts = [
                shapely.LineString(some)
                for some in between_tabs(SQUARE, 11.0, Tabs(number=number, width=2.0))
            ]
            self.assertEqual(len(cuts), number)
            self.assertAlmostEqual(sum(cut.length for cut in cuts), 160.0 - 2.0 * number)
            sheet = shapely.box(-10, -10, 50, 50)
            held = sheet.difference(shapely.union_all([cut.buffer(0.05) for cut in cuts]))
            self.assertEqual(held.geom_type, "Polygon")
        loose = sheet.difference(shapely.LinearRing(SQUARE).buffer(0.05))
        self.assertEqual(len(loose.geoms), 2)

    def test_a_line_too_short_for_its_tabs_has_fewer_or_none(self) -> None:
        ring = SQUARE / 10.0
        self.assertEqual(len(between_tabs(ring, 0.0, Tabs(number=9, width=2.0))), 4)
        (all_of_it,) = between_tabs(ring, 0.0, Tabs(number=3, width=9.0))
        self.assertAlmostEqual(shapely.LineString(all_of_it).length, 16.0)

    def test_leads_touch_the_line_from_the_waste(self) -> None:
        line = overcut(SQUARE, 20.0, 0.0)
        into, out = arcs(line, 3.0, -1.0)
        inside = shapely.Polygon(SQUARE)
        for arc in (into, out):
            self.assertFalse(shapely.LineString(arc).crosses(inside))
            self.assertAlmostEqual(shapely.LineString(arc).length, 3.0 * math.pi / 2.0, delta=0.01)
        np.testing.assert_allclose(into[-1], line[0])
        np.testing.assert_allclose(out[0], line[-1])
        np.testing.assert_allclose(into[0], [17.0, -3.0], atol=1e-9)
        np.testing.assert_allclose(out[-1], [23.0, -3.0], atol=1e-9)

    def test_leads_are_smaller_where_there_is_no_room_and_cross_no_line(self) -> None:
        """Two squares 1 mm apart, and a slot 1 mm wide that is led into from inside."""
        beside = SQUARE + (41.0, 0.0)
        slot = np.array([[0.0, 0.0], [0.0, 30.0], [1.0, 30.0], [1.0, 0.0]])
        for rings, side, station in (((SQUARE, beside), -1.0, 60.0), ((slot,), -1.0, 15.0)):
            lines = [Line(ring, True, unit, "") for unit, ring in enumerate(rings)]
            way = overcut(rings[0], station, 0.0)
            led = Leads(lines, 4.0).led(way, side)
            extra = len(led) - len(way)
            self.assertGreater(extra, 2)
            into = shapely.LineString(led[: extra // 2])
            self.assertLess(into.length, 4.0)
            for ring in rings:
                self.assertFalse(into.crosses(shapely.LinearRing(ring)))

    def test_edges_within_edges_are_turned_as_holes(self) -> None:
        """Outer ones have their part on the left, so they run counter-clockwise; holes do not."""
        rings = [SQUARE[::-1], SQUARE / 2.0 + 10.0, SQUARE / 4.0 + 15.0, SQUARE + 100.0]
        lines = [Line(ring, True, unit, "") for unit, ring in enumerate(rings)]
        turned = [shapely.LinearRing(line.points).is_ccw for line in holes_turned(lines)]
        self.assertEqual(turned, [True, False, True, True])

    def test_levels_go_all_the_way_down(self) -> None:
        self.assertEqual(levels(0.0, 1.0), (0.0,))
        self.assertEqual(levels(3.0, 0.0), (3.0,))
        np.testing.assert_allclose(levels(3.2, 1.0), [0.8, 1.6, 2.4, 3.2])
        np.testing.assert_allclose(levels(3.0, 1.0), [1.0, 2.0, 3.0])


class FewMoves(unittest.TestCase):
    def test_arcs_are_found_and_none_is_far_off(self) -> None:
        """A slot: two half circles of 10 mm and two straight sides of 30."""
        half = np.linspace(-math.pi / 2.0, math.pi / 2.0, 120)
        right = np.stack([30.0 + 10.0 * np.cos(half), 10.0 * np.sin(half)], axis=1)
        left = np.stack([-10.0 * np.cos(half), -10.0 * np.sin(half)], axis=1)
        line = np.concatenate([right, left, right[:1]])
        found = list(moves(line, 0.004))
        self.assertLessEqual(len(found), 8)
        arcs = [move for move in found if move.turn]
        self.assertTrue(all(move.turn == 1 for move in arcs))
        for move in arcs:
            radius = math.dist(move.end, move.centre)
            self.assertAlmostEqual(radius, 10.0, delta=0.005)
        self.assertEqual(found[-1].end, (float(line[-1, 0]), float(line[-1, 1])))

    def test_thinning_stays_near(self) -> None:
        random = np.random.default_rng(5)
        for _ in range(20):
            line = np.cumsum(random.normal(0.0, 1.0, (200, 2)), axis=0)
            kept = thinned(line, 0.5)
            off = shapely.distance(shapely.LineString(kept), shapely.points(line)).max()
            self.assertLessEqual(off, 0.5 + 1e-9)
            self.assertLess(len(kept), 200)


class Filled(unittest.TestCase):
    def test_lines_cover_the_area_and_nothing_else(self) -> None:
        area = Region.of_rings([SQUARE]).minus(Region.of_rings([SQUARE / 2.0 + 10.0]))
        for angle in (0.0, 37.0, 90.0):
            lines = [one.points for one in filling_lines(area, Filling(pitch=0.5, angle=angle))]
            total = sum(math.dist(*line.tolist()) for line in lines)
            self.assertAlmostEqual(total * 0.5, area.area, delta=0.01 * area.area)
            shape = shapely.Polygon(SQUARE, [SQUARE / 2.0 + 10.0]).buffer(1e-6)
            self.assertTrue(all(shape.covers(shapely.LineString(line)) for line in lines))


class Times(unittest.TestCase):
    """Worked by hand from v = a t and s = a t² / 2."""

    def test_a_trapezoid_and_a_triangle(self) -> None:
        # 0.1 s and 5 mm to reach 100 mm/s at 1,000 mm/s²: 90 mm at full speed.
        self.assertAlmostEqual(straight_seconds(100.0, 100.0, 1000.0), 0.1 + 0.9 + 0.1)
        # 4 mm: half of it to gather speed, in sqrt(2 * 2 / 1000) s.
        self.assertAlmostEqual(straight_seconds(4.0, 100.0, 1000.0), 2.0 * math.sqrt(0.004))
        motion = Motion(acceleration=1000.0)
        for length in (4.0, 100.0):
            line = np.array([[0.0, 0.0], [length / 3.0, 0.0], [length, 0.0]])
            self.assertAlmostEqual(
                seconds_along(line, 100.0, motion), straight_seconds(length, 100.0, 1000.0)
            )

    def test_rows_are_filled_at_a_steady_speed(self) -> None:
        """A board of 50 × 20 mm in two rows; 5 mm of overscan from rest to 100 mm/s take
        2 * 5 / 100 s."""
        boards = {"kind": "rectangle", "width": 50, "height": 20}
        piece = document(blank=boards, letterings=[], guides=[], edge="engrave")
        fill = {"id": "f", "tool": "beam-fill", "works": [{"what": "edge"}], "speed": 100,
                "filling": {"pitch": 10, "overscan": 5}}  # fmt: skip
        (one,) = workpiece({**piece, "run": {"passes": [fill]}}).run.passes
        row = 2.0 * 5.0 / 100.0 + 50.0 / 100.0 + 2.0 * 5.0 / 100.0
        first = straight_seconds(float(np.hypot(5.0, 5.0)), 200.0, 1000.0)
        between = straight_seconds(10.0, 200.0, 1000.0)
        self.assertEqual(len(one.tracks), 2)
        self.assertAlmostEqual(one.seconds, first + row + between + row)
        self.assertAlmostEqual(one.idle, float(np.hypot(5.0, 5.0)) + 10.0 + 4 * 5.0)

    def test_it_stops_where_it_turns_back(self) -> None:
        motion = Motion(acceleration=1000.0)
        line = np.array([[0.0, 0.0], [50.0, 0.0], [0.0, 0.0]])
        self.assertAlmostEqual(
            seconds_along(line, 100.0, motion),
            2.0 * straight_seconds(50.0, 100.0, 1000.0),
            places=4,
        )

    def test_a_corner_is_taken_as_fast_as_its_small_arc(self) -> None:
        """90°: r = d cos 45° / (1 − cos 45°) = 2.414 d, and v² = a r."""
        motion = Motion(acceleration=1000.0, rounded=0.05)
        square = 1000.0 * 0.05 * math.cos(math.pi / 4) / (1.0 - math.cos(math.pi / 4))
        corner = math.sqrt(square)
        line = np.array([[0.0, 0.0], [50.0, 0.0], [50.0, 50.0]])
        # From rest to 100, on at 100, down to the corner's speed; and the same backwards.
        one = 0.1 + (100.0 - corner) / 1000.0
        one += (50.0 - 5.0 - (100.0**2 - square) / 2000.0) / 100.0
        self.assertAlmostEqual(seconds_along(line, 100.0, motion), 2.0 * one)

    def test_times_never_go_back(self) -> None:
        random = np.random.default_rng(2)
        line = np.cumsum(random.normal(0.0, 0.3, (500, 2)), axis=0)
        marks = times_along(line, 80.0, Motion())
        self.assertTrue((np.diff(marks) > 0.0).all())
        length = float(np.hypot(*np.diff(line, axis=0).T).sum())
        self.assertGreater(marks[-1], length / 80.0)

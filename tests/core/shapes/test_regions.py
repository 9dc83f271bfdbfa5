"""Regions and few nodes, against shapely: another library, with another engine (GEOS)."""

from __future__ import annotations

import itertools
import unittest

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LinearRing, Polygon

from tests.areas import (
    apart,
    as_shapely,
    nodes,
    outline_faces,
    polygons_of,
    without_specks,
    word,
)
from ulvent.core.outlines import Outline
from ulvent.core.proof.where import from_edge
from ulvent.core.shapes import Region, arc_of, flat_contours, refitted
from ulvent.core.shapes.near_pairs import near_pairs
from ulvent.core.shapes.region import ring_area
from ulvent.core.shapes.scattered import wholly
from ulvent.shipped_faces import shipped_face

TOLERANCE = 0.01


def joined(letters: list[Outline]) -> Region:
    return Region.joined(Region.of(letter) for letter in letters)


class AgainstShapely(unittest.TestCase):
    def test_letters_of_all_faces_have_shapelys_areas_united_and_apart(self) -> None:
        for name, face in outline_faces():
            with self.subTest(name):
                letters = word(face, "Copper&8 g", 14.0)
                theirs = shapely.union_all([as_shapely(letter) for letter in letters])
                ours = joined(letters)
                self.assertAlmostEqual(ours.area / theirs.area, 1.0, delta=1e-4)
                half = Region.box((-100.0, 3.0, 1000.0, 8.0))
                slab = shapely.box(-100, 3, 1000, 8)
                self.assertAlmostEqual(
                    ours.minus(half).area / theirs.difference(slab).area, 1.0, delta=1e-4
                )
                self.assertAlmostEqual(
                    ours.meet(half).area / theirs.intersection(slab).area, 1.0, delta=1e-4
                )

    def test_overlapping_letters_of_a_script_become_one_area_with_their_counters(self) -> None:
        letters = [
            letter.moved(-1.2 * index, 0.0)
            for index, letter in enumerate(
                word(shipped_face("dancing-script-bold"), "Quillmere", 20.0)
            )
        ]
        theirs = shapely.union_all([as_shapely(letter) for letter in letters])
        ours = joined(letters)
        self.assertAlmostEqual(ours.area / theirs.area, 1.0, delta=1e-4)
        holes = sum(len(part.interiors) for part in shapely.get_parts(theirs))
        self.assertEqual(sum(ring_area(ring) < 0.0 for ring in ours.rings), holes)

    def test_every_point_of_an_offset_is_the_distance_away_both_ways(self) -> None:
        for name, face in outline_faces():
            ours = joined(word(face, "Rags 8", 14.0))
            corners = [(ring, np.roll(ring, -1, axis=0)) for ring in ours.rings]
            sides = np.concatenate([np.stack(pair, axis=1) for pair in corners])
            edge = shapely.STRtree(shapely.linestrings(sides))
            for distance in (0.2, 1.6, -0.15):
                with self.subTest(name, distance=distance):
                    grown = ours.offset(distance)
                    points = shapely.points(np.concatenate(grown.rings))
                    _, off = edge.query_nearest(points, return_distance=True, all_matches=False)
                    self.assertLess(np.abs(off - abs(distance)).max(), 0.001)
                    theirs = polygons_of(ours).buffer(distance, quad_segs=64)
                    self.assertAlmostEqual(grown.area / theirs.area, 1.0, delta=2e-4)

    def test_mitred_and_bevelled_corners_are_shapelys(self) -> None:
        ring = np.array([[0, 0], [30, 0], [30, 20], [12, 6], [0, 20]], dtype=float)
        for corners, style in (("mitred", "mitre"), ("bevelled", "bevel"), ("round", "round")):
            with self.subTest(corners):
                ours = Region.of_rings([ring]).offset(3.0, corners)
                theirs = Polygon(ring).buffer(3.0, join_style=style, mitre_limit=4.0, quad_segs=64)
                self.assertAlmostEqual(ours.area / theirs.area, 1.0, delta=1e-3)

    def test_a_band_is_what_a_flat_ended_brush_covers(self) -> None:
        t = np.linspace(0.0, 3.0, 200)
        line = np.column_stack([20.0 * t, 8.0 * np.sin(2.0 * t)])
        ours = Region.along(line, False, 3.0)
        theirs = shapely.LineString(line).buffer(1.5, cap_style="flat", quad_segs=64)
        self.assertAlmostEqual(ours.area / theirs.area, 1.0, delta=1e-3)


class Points(unittest.TestCase):
    @settings(max_examples=20)
    @given(st.integers(0, 10_000), st.sampled_from((30, 900, 20_000)))
    def test_inside_and_away_from_the_edge_as_shapely_says(self, seed: int, count: int) -> None:
        """Few points and many take different ways; a shape with a hole."""
        random = np.random.default_rng(seed)
        turns = np.linspace(0.0, 2.0 * np.pi, 700, endpoint=False)
        radii = 30.0 + 6.0 * np.sin(random.integers(2, 9) * turns)
        outer = np.stack([radii * np.cos(turns), radii * np.sin(turns)], axis=1)
        inner = np.array([[-8.0, -8.0], [-8.0, 8.0], [8.0, 8.0], [8.0, -8.0]])
        shape, polygon = Region.of_rings([outer, inner]), Polygon(outer, [inner])
        points = random.uniform(-45.0, 45.0, (count, 2))
        np.testing.assert_array_equal(
            shape.contains(points), shapely.contains_xy(polygon, *points.T)
        )
        away = shapely.distance(shapely.points(points), polygon.boundary)
        np.testing.assert_allclose(from_edge(points, shape), away, atol=0.002)


class Many(unittest.TestCase):
    @settings(max_examples=30)
    @given(st.integers(0, 10_000), st.floats(0.0, 3.0))
    def test_no_two_letters_that_shapely_finds_near_are_told_apart(
        self, seed: int, reach: float
    ) -> None:
        random = np.random.default_rng(seed)
        regions = [_turned_letter(random) for _ in range(30)]
        pairs = {(int(one), int(two)) for one, two in near_pairs([r.rings for r in regions], reach)}
        polygons = [polygons_of(region) for region in regions]
        near = {
            (one, two)
            for one, two in itertools.combinations(range(30), 2)
            if polygons[one].distance(polygons[two]) <= reach
        }
        self.assertLessEqual(near, pairs)
        self.assertLess(len(pairs), 30 * 29 / 2)

    @settings(max_examples=20)
    @given(st.integers(0, 10_000))
    def test_boxes_are_inside_or_outside_where_shapely_says_so(self, seed: int) -> None:
        random = np.random.default_rng(seed)
        letters = [_turned_letter(random, 40.0) for _ in range(3)]
        shape = Region.joined([*letters, Region.disc(np.zeros(2), 15.0)])
        lows = random.uniform(-45.0, 45.0, (400, 2))
        boxes = np.concatenate([lows, lows + random.uniform(0.05, 4.0, (400, 2))], axis=1)
        inside, outside = wholly(boxes, shape)
        polygons, theirs = shapely.box(*boxes.T), polygons_of(shape)
        self.assertTrue(shapely.covered_by(polygons[inside], theirs).all())
        self.assertTrue(shapely.disjoint(polygons[outside], theirs).all())
        left_open = boxes[~inside & ~outside]
        self.assertTrue(inside.any() and outside.any() and len(left_open))


def _turned_letter(random: np.random.Generator, size: float = 6.0) -> Region:
    face = shipped_face("lato-bold")
    (letter,) = word(face, "AOLIQ8"[random.integers(6)], size)
    angle, (x, y) = random.uniform(0.0, 2.0 * np.pi), random.uniform(-20.0, 20.0, 2)
    cos, sin = np.cos(angle), np.sin(angle)
    return Region.of(letter, np.array([[cos, -sin, x], [sin, cos, y]]))


class FewNodes(unittest.TestCase):
    def test_refitted_letters_stay_within_the_tolerance_with_at_most_1_3_times_the_nodes(
        self,
    ) -> None:
        for name, face in outline_faces():
            with self.subTest(name):
                letters = word(face, "Copper Kettles", 14.0)
                ours = joined(letters)
                fitted = refitted(ours, TOLERANCE)
                self.assertLess(apart(polygons_of(ours), as_shapely(fitted)), TOLERANCE)
                own = sum(nodes(letter) for letter in letters)
                self.assertLessEqual(nodes(fitted), 1.3 * own)

    def test_an_offset_has_at_most_a_third_of_the_nodes_of_its_flattening(self) -> None:
        for name, face in outline_faces():
            with self.subTest(name):
                grown = joined(word(face, "Kettles", 14.0)).offset(1.6)
                grown = without_specks(grown, TOLERANCE)
                fitted = refitted(grown, TOLERANCE)
                self.assertLess(apart(polygons_of(grown), as_shapely(fitted)), TOLERANCE)
                flat = polygons_of(grown).simplify(TOLERANCE)
                points = len(shapely.get_coordinates(flat))
                self.assertLessEqual(nodes(fitted), points / 3.0)

    def test_outer_contours_run_counter_clockwise_and_holes_clockwise_none_crossing(self) -> None:
        for name, face in outline_faces():
            with self.subTest(name):
                fitted = refitted(joined(word(face, "B8&", 9.0)))
                turns = []
                for points, closed in fitted.flattened(50):
                    self.assertTrue(closed)
                    ring = LinearRing(points)
                    self.assertTrue(ring.is_simple)
                    turns.append(ring.is_ccw)
                area = sum(ring_area(points) for points, _ in fitted.flattened(50))
                self.assertGreater(area, 0.0)
                self.assertTrue(any(turns))

    def test_corners_and_straight_sides_stay_exact(self) -> None:
        ring = np.array([[0, 0], [40, 0], [40, 10], [25, 10], [25, 30], [0, 30]], dtype=float)
        fitted = refitted(Region.of_rings([ring]))
        self.assertEqual(sorted(set(fitted.operations)), ["L", "M", "Z"])
        self.assertEqual(len(fitted.points), 6)
        for corner in ring:
            self.assertLess(np.hypot(*(fitted.points - corner).T).min(), 1e-6)

    def test_round_corners_are_arcs_that_formats_can_write_as_such(self) -> None:
        square = Region.box((0.0, 0.0, 30.0, 20.0)).offset(4.0)
        fitted = refitted(square)
        arcs = [arc_of(c.cubics[i]) for c in fitted.contours for i in range(len(c.cubics))
                if not c.straight[i]]  # fmt: skip
        self.assertEqual(len(arcs), 8)
        for arc in arcs:
            assert arc is not None
            self.assertAlmostEqual(arc.radius, 4.0, delta=1e-3)

    def test_two_edges_nearer_than_the_tolerance_do_not_cross(self) -> None:
        """A crescent whose horns come to 0.003 mm of each other."""
        angles = np.linspace(0.0, 2.0 * np.pi, 721)[:-1]
        circle = np.column_stack([np.cos(angles), np.sin(angles)])
        crescent = Region.of_rings([10.0 * circle]).minus(
            Region.of_rings([9.9 * circle + (0.097, 0.0)])
        )
        fitted = refitted(crescent, 0.05)
        polygon = as_shapely(fitted)
        self.assertTrue(polygon.is_valid)
        self.assertAlmostEqual(polygon.area / crescent.area, 1.0, delta=0.02)

    @settings(max_examples=60)
    @given(
        st.lists(
            st.tuples(
                st.floats(-20, 20), st.floats(-20, 20), st.floats(0.5, 12), st.integers(3, 9),
                st.booleans(), st.floats(0.0, 0.45),
            ),
            min_size=1, max_size=14,
        ),
        st.sampled_from([0.0, 0.4, -0.3, 2.0]),
    )  # fmt: skip
    def test_any_union_of_shapes_with_holes_keeps_its_area_and_stays_valid(
        self, shapes: list[tuple[float, float, float, int, bool, float]], distance: float
    ) -> None:
        regions, theirs = [], []
        for x, y, size, sides, smooth, hole in shapes:
            count = 240 if smooth else sides
            angles = np.linspace(0.0, 2.0 * np.pi, count, endpoint=False)
            ring = np.column_stack([np.cos(angles), np.sin(angles)])
            outer, inner = ring * size + (x, y), ring * size * hole + (x, y)
            own = Region.of_rings([outer])
            polygon = Polygon(outer)
            if hole > 0.05:
                own = own.minus(Region.of_rings([inner]))
                polygon = polygon.difference(Polygon(inner))
            regions.append(own)
            theirs.append(polygon)
        ours = Region.joined(regions).offset(distance)
        union = shapely.union_all(theirs)
        expected = union.buffer(distance, quad_segs=64) if distance else union
        self.assertAlmostEqual(ours.area, expected.area, delta=1e-3 * max(expected.area, 1.0))
        fitted = refitted(ours)
        for points, _ in flat_contours(fitted):
            self.assertTrue(LinearRing(points).is_valid)
        lost = abs(Region.of(fitted).area - ours.area)
        self.assertLessEqual(lost, TOLERANCE * ours.perimeter)

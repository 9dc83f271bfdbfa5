"""Drawn guides: through placed points, by hand, and working on their points."""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import zoo
from ulvent.core.base.errors import CurveError, PieceError
from ulvent.core.curves import nearest
from ulvent.core.guides import guide_curve
from ulvent.core.guides.drawn import Node, drawn_line
from ulvent.core.guides.freehand import fitted_nodes
from ulvent.core.guides.kinds.drawn_guide import DrawnGuide, with_handle, with_node
from ulvent.core.guides.nodes import (
    closed_up,
    drawn_from,
    joined,
    split_at,
    with_joint,
    with_node_added,
    without_node,
)


def nodes(*points: tuple[float, float], **changes: object) -> tuple[Node, ...]:
    return tuple(Node(at=point, **changes) for point in points)


def drawn(*points: tuple[float, float], closed: bool = False) -> DrawnGuide:
    return DrawnGuide(id="g", kind="drawn", nodes=nodes(*points), closed=closed)


WAVY = ((0, 0), (30, 25), (70, 5), (95, 30), (130, 0))


class ThroughPoints(unittest.TestCase):
    def test_four_points_of_a_circle_give_it_within_0_014_mm(self) -> None:
        """At radius 50; Hobby's paper claims the like for its splines."""
        ring = drawn_line(nodes((50, 0), (0, 50), (-50, 0), (0, -50)), closed=True)
        radii = np.hypot(*ring.points(np.linspace(0, ring.length, 1000)).T)
        self.assertLess(np.abs(radii - 50).max(), 0.014)

    def test_curvature_goes_through_the_points_unbroken(self) -> None:
        ring = ((0, 0), (60, 10), (90, 50), (40, 70), (-10, 55))
        for points, closed in ((WAVY, False), (ring, True)):
            line = drawn_line(nodes(*points), closed)
            at = nearest(line, np.array(points[1:4], dtype=float))
            before, after = line.curvatures(at - 1e-5), line.curvatures(at + 1e-5)
            np.testing.assert_allclose(before, after, atol=1e-4)
            self.assertEqual(len(line.corners.stations), 0)

    @settings(max_examples=60)
    @given(st.lists(st.tuples(st.integers(-80, 80), st.integers(-80, 80)), min_size=2, max_size=12,
                    unique=True), st.booleans())  # fmt: skip
    def test_passes_through_every_point(self, points: list[tuple[int, int]], closed: bool) -> None:
        line = drawn_line(nodes(*points), closed and len(points) > 2)
        found = line.points(nearest(line, np.array(points, dtype=float)))
        np.testing.assert_allclose(found, points, atol=1e-6)

    def test_a_sharp_turn_becomes_a_corner(self) -> None:
        self.assertEqual(len(drawn_line(nodes((0, 0), (50, 0), (5, 8)), False).corners.stations), 1)

    def test_corners_without_handles_are_joined_straight(self) -> None:
        line = drawn_line(nodes((0, 0), (40, 0), (40, 30), joint="corner"), closed=True)
        self.assertAlmostEqual(line.length, 120)

    def test_points_on_each_other_are_named(self) -> None:
        with self.assertRaisesRegex(CurveError, "points 2 and 3"):
            drawn_line(nodes((0, 0), (5, 5), (5, 5)), False)


class Freehand(unittest.TestCase):
    """The truth is a smooth line; a hand's tremble is added to its samples."""

    @staticmethod
    def truth(t: np.ndarray) -> np.ndarray:
        return 200 * t - 100 + 1j * (30 * np.sin(7 * t) + 9 * np.cos(13 * t))

    def test_within_its_tolerance_between_the_samples(self) -> None:
        rng = np.random.default_rng(7)
        for noise, count, tolerance in ((0.0, 160, 0.3), (0.1, 240, 0.5), (0.3, 400, 1.0)):
            with self.subTest(noise=noise):
                tremble = noise * (rng.normal(size=count) + 1j * rng.normal(size=count)) / 2
                samples = self.truth(np.linspace(0, 1, count)) + tremble
                found = [Node(**node) for node in fitted_nodes(samples, tolerance)]
                self.assertLessEqual(len(found), count / 4)
                line = drawn_line(tuple(found), closed=False)
                between = self.truth((np.arange(count - 1) + 0.5) / (count - 1))
                points = np.stack([between.real, between.imag], axis=1)
                off = np.hypot(*(line.points(nearest(line, points)) - points).T)
                self.assertLess(off.max(), tolerance)

    def test_a_smooth_line_has_few_points_and_no_corner(self) -> None:
        found = fitted_nodes(self.truth(np.linspace(0, 1, 300)), 0.3)
        self.assertLess(len(found), 14)
        self.assertNotIn("corner", [node["joint"] for node in found])

    def test_a_corner_is_kept(self) -> None:
        t = np.linspace(0, 1, 100)
        samples = np.concatenate([60 * t, 60 + 50j * t[1:]])
        found = fitted_nodes(samples, 0.5)
        self.assertEqual([node["joint"] for node in found].count("corner"), 1)

    def test_two_samples_are_a_straight_line(self) -> None:
        line = drawn_line(
            tuple(Node(**n) for n in fitted_nodes(np.array([0, 30 + 40j]), 0.5)), False
        )
        self.assertAlmostEqual(line.length, 50)


class Points(unittest.TestCase):
    def assert_same_line(self, one: DrawnGuide, other: DrawnGuide, atol: float = 1e-3) -> None:
        a, b = guide_curve(one), guide_curve(other)
        shares = np.linspace(0, 1, 60)
        points = b.points(shares * b.length)
        np.testing.assert_allclose(a.points(nearest(a, points)), points, atol=atol)
        self.assertAlmostEqual(a.length, b.length, delta=atol)

    def test_adding_a_point_leaves_the_line_as_it_was(self) -> None:
        for guide in (drawn(*WAVY), drawn(*WAVY, closed=True)):
            near = tuple(guide_curve(guide).points(60)[0])
            more, index = with_node_added(guide, near)
            self.assertEqual(len(more.nodes), 6)
            np.testing.assert_allclose(more.nodes[index].at, near, atol=1e-3)
            self.assert_same_line(more, guide)

    def test_an_even_point_has_equal_handles_that_stay_equal(self) -> None:
        guide = with_handle(with_joint(drawn(*WAVY), 2, "even"), 2, "after", 12 + 5j)
        self.assertEqual(guide.nodes[2].after, (12, 5))
        self.assertEqual(guide.nodes[2].before, (-12, -5))

    def test_a_smooth_point_keeps_the_other_handles_length(self) -> None:
        guide = with_joint(with_joint(drawn(*WAVY), 2, "even"), 2, "smooth")
        size = abs(complex(*guide.nodes[2].before))
        turned = with_handle(guide, 2, "after", 20j)
        np.testing.assert_allclose(turned.nodes[2].before, (0, -size), atol=1e-3)
        self.assertEqual(len(guide_curve(turned).corners.stations), 0)

    def test_a_corner_lets_the_line_turn(self) -> None:
        corner = with_handle(with_joint(drawn(*WAVY), 2, "corner"), 2, "after", 20j)
        self.assertEqual(len(guide_curve(corner).corners.stations), 1)

    def test_splitting_leaves_the_line_as_it_was(self) -> None:
        guide = drawn(*WAVY)
        parts = split_at(guide, 2, "other")
        self.assertEqual([part.id for part in parts], ["g", "other"])
        lengths = [guide_curve(part).length for part in parts]
        self.assertAlmostEqual(sum(lengths), guide_curve(guide).length, delta=1e-3)
        self.assert_same_line(joined(*parts), guide)

    def test_opening_a_ring_leaves_the_line_as_it_was(self) -> None:
        ring = zoo.guide("drawn and closed")
        (opened,) = split_at(ring, 1, "other")
        self.assertFalse(guide_curve(opened).closed)
        self.assert_same_line(opened, ring)
        self.assertTrue(guide_curve(closed_up(opened)).closed)
        self.assertEqual(len(closed_up(opened).nodes), 4)

    def test_an_end_cannot_be_split_nor_the_last_two_points_deleted(self) -> None:
        with self.assertRaises(PieceError):
            split_at(drawn(*WAVY), 0, "other")
        with self.assertRaises(PieceError):
            without_node(drawn((0, 0), (1, 1)), 0)

    def test_joining_turns_the_other_round_where_its_far_end_is_nearer(self) -> None:
        one, other = drawn((0, 0), (40, 10)), drawn((90, 0), (40.2, 10))
        line = joined(one, other)
        self.assertEqual([node.at for node in line.nodes], [(0, 0), (40, 10), (90, 0)])

    def test_moving_a_point_moves_no_other(self) -> None:
        moved = with_node(drawn(*WAVY), 1, at=(30, 40))
        self.assertEqual(moved.nodes[2:], drawn(*WAVY).nodes[2:])

    def test_any_guide_can_become_a_drawn_one(self) -> None:
        for name in zoo.RECIPES:
            with self.subTest(name):
                guide = zoo.guide(name, centre=[5, 6], turned=20)
                curve = guide_curve(guide)
                copy = guide_curve(drawn_from(guide, curve))
                points = curve.points(np.linspace(0, curve.length, 200))
                off = np.hypot(*(copy.points(nearest(copy, points)) - points).T)
                self.assertLess(off.max(), 0.003)
                self.assertEqual(copy.closed, curve.closed)


if __name__ == "__main__":
    unittest.main()

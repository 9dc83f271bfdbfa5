"""Curves by arc length, held against mpmath and against the laws they must obey."""

from __future__ import annotations

import contextlib
import math
import unittest

import mpmath
import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests import zoo
from ulvent.core.base.errors import CurveError
from ulvent.core.base.tolerances import ARC_LENGTH
from ulvent.core.curves import (
    BezierPath,
    Chain,
    CircularArc,
    CubicSegment,
    Curve,
    Line,
    LineSegment,
    nearest,
    parallel_of,
)
from ulvent.core.guides import guide_curve


def exact_length(segment: CubicSegment, end: float = 1.0) -> float:
    """Arc length by mpmath's quadrature, 30 digits, split where the speed is least."""
    a, b, c, d = (mpmath.mpc(x, y) for x, y in segment)
    d0, d1, d2 = 3 * (b - a), 6 * (c - 2 * b + a), 3 * (d - 3 * c + 3 * b - a)

    def speed(t: mpmath.mpf) -> mpmath.mpf:
        return abs(d0 + t * (d1 + t * d2))

    # |B'|² is a quartic; it is least where its derivative, a cubic, is nil.
    quartic = np.polynomial.polynomial.polymul(
        [complex(d0), complex(d1), complex(d2)],
        np.conj([complex(d0), complex(d1), complex(d2)]),
    ).real
    slow = np.polynomial.polynomial.polyroots(np.polynomial.polynomial.polyder(quartic))
    stops = sorted({float(t.real) for t in slow if abs(t.imag) < 1e-3 and 0 < t.real < end})
    with mpmath.workdps(30):
        return float(mpmath.quad(speed, [0, *stops, end], maxdegree=12))


class ArcLength(unittest.TestCase):
    """Witness: mpmath quadrature with 30 digits."""

    def test_length_of_awkward_cubics(self) -> None:
        for name, segment in zoo.CUBICS.items():
            with self.subTest(name):
                exact = exact_length(segment)
                self.assertLessEqual(abs(BezierPath([segment]).length / exact - 1), ARC_LENGTH)

    def test_point_at_a_length_has_that_length_before_it(self) -> None:
        for name, segment in zoo.CUBICS.items():
            with self.subTest(name):
                self._check_inverse(segment)

    def _check_inverse(self, segment: CubicSegment) -> None:
        path = BezierPath([segment])
        a, b, c, d = (complex(*point) for point in segment)
        for share in (0.1, 0.37, 0.5, 0.93):
            x, y = path.points(share * path.length)[0]
            # Solve for the parameter from the exact length, then compare the points.
            t = float(
                mpmath.findroot(
                    lambda u, want=share * path.length: exact_length(segment, float(u)) - want,
                    (0.0, 1.0),
                    solver="anderson",
                    tol=1e-18 * path.length**2,
                )
            )
            u = 1 - t
            exact = u**3 * a + 3 * u * u * t * b + 3 * u * t * t * c + t**3 * d
            self.assertLessEqual(abs(complex(x, y) - exact), 10 * ARC_LENGTH * path.length)

    def test_length_of_a_circle(self) -> None:
        self.assertAlmostEqual(CircularArc.circle((0, 0), 120, 90, True).length, 240 * math.pi)

    def test_quarter_circle_as_one_cubic(self) -> None:
        """Control length 0.5522847 r, radial error at most 0.0273 %: from memory."""
        k = 0.5522847
        path = BezierPath([CubicSegment((1, 0), (1, k), (k, 1), (0, 1))])
        radii = np.hypot(*path.points(np.linspace(0, path.length, 2001)).T)
        self.assertAlmostEqual(float(np.abs(radii - 1).max()), 0.000273, delta=5e-7)


class Protocol(unittest.TestCase):
    """What every curve must obey, whatever its kind."""

    def each(self) -> list[tuple[str, Curve, np.ndarray]]:
        shares = np.array([0.013, 0.21, 0.386, 0.49, 0.671, 0.9, 0.987])
        return [(name, curve, shares * curve.length) for name, curve in zoo.curves().items()]

    def test_points_move_at_unit_speed_along_the_tangent(self) -> None:
        for name, curve, stations in self.each():
            with self.subTest(name):
                step = 1e-5
                moved = (curve.points(stations + step) - curve.points(stations - step)) / (2 * step)
                np.testing.assert_allclose(moved, curve.tangents(stations), atol=1e-6)

    def test_curvature_is_the_turning_of_the_tangent(self) -> None:
        for name, curve, stations in self.each():
            with self.subTest(name):
                step = 1e-4
                turned = curve.turnings(stations + step) - curve.turnings(stations - step)
                np.testing.assert_allclose(
                    turned / (2 * step), curve.curvatures(stations), atol=1e-5
                )

    def test_turning_carries_the_first_tangent_to_every_other(self) -> None:
        for name, curve, stations in self.each():
            with self.subTest(name):
                x, y = curve.tangents(0.0)[0]
                angles = math.atan2(y, x) + curve.turnings(stations)
                expected = np.stack([np.cos(angles), np.sin(angles)], axis=1)
                np.testing.assert_allclose(curve.tangents(stations), expected, atol=1e-9)

    def test_reversed_is_the_same_line_the_other_way(self) -> None:
        for name, curve, stations in self.each():
            with self.subTest(name):
                back = curve.reversed()
                at, there = curve.frames(stations), back.frames(curve.length - stations)
                np.testing.assert_allclose(there.points, at.points, atol=1e-8)
                np.testing.assert_allclose(there.tangents, -at.tangents, atol=1e-8)
                np.testing.assert_allclose(there.curvatures, -at.curvatures, atol=1e-6)

    def test_nearest_station_of_a_point_on_the_curve_is_its_own(self) -> None:
        for name, curve, stations in self.each():
            with self.subTest(name):
                np.testing.assert_allclose(
                    nearest(curve, curve.points(stations)), stations, atol=1e-6
                )

    def test_closed_curves_wrap_and_open_ones_go_straight_on(self) -> None:
        circle, line = zoo.curves()["circle"], zoo.curves()["line"]
        np.testing.assert_allclose(circle.points(circle.length + 7), circle.points(7), atol=1e-9)
        np.testing.assert_allclose(
            line.points(-10), [[1 - 10 * 60 / math.hypot(60, 40), 2 - 10 * 40 / math.hypot(60, 40)]]
        )

    def test_a_closed_simple_curve_turns_once(self) -> None:
        self.assertAlmostEqual(zoo.curves()["rectangle"].total_turning, 2 * math.pi)
        self.assertAlmostEqual(zoo.curves()["circle"].total_turning, -2 * math.pi)


class Parallels(unittest.TestCase):
    def test_every_point_is_at_the_distance_along_the_normal(self) -> None:
        # Of a spiral the next turn, or its own start, may be nearer than the foot.
        others = {name: one for name, one in zoo.curves().items() if "spiral" not in name}
        for name, curve in others.items():
            for distance in (-2.5, 2.5):
                with self.subTest(f"{name} at {distance}"):
                    parallel = parallel_of(curve, distance)
                    stations = np.linspace(0.001, parallel.length - 0.001, 120)
                    points = parallel.points(stations)
                    evenly = np.linspace(0, curve.length, 40001)
                    dense = curve.points(np.append(evenly, curve.corners.stations))
                    nearest = [np.hypot(*(dense - point).T).min() for point in points]
                    np.testing.assert_allclose(nearest, 2.5, atol=2e-5)

    def test_stations_on_the_parallel_are_its_own_arc_length(self) -> None:
        for name, curve in zoo.curves().items():
            with self.subTest(name):
                parallel = parallel_of(curve, 2.0)
                points = parallel.points(np.linspace(0, parallel.length, 20001))
                walked = np.hypot(*np.diff(points, axis=0).T).sum()
                self.assertAlmostEqual(walked / parallel.length, 1.0, delta=3e-5)

    def test_foot_undoes_carry(self) -> None:
        for name, curve in zoo.curves().items():
            with self.subTest(name):
                parallel = parallel_of(curve, -2.0)
                stations = np.array([0.11, 0.29, 0.47, 0.83]) * curve.length
                np.testing.assert_allclose(
                    parallel.foot(parallel.carry(stations)), stations, atol=1e-7
                )

    def test_reversed_it_is_the_same_line_to_the_last_digits(self) -> None:
        """Corners of chains in chains, fans at a seam, and loops that were cut off too."""
        lines = dict(zoo.curves()) | {name: guide_curve(zoo.guide(name)) for name in zoo.RECIPES}
        for name, curve in lines.items():
            for distance in (-12.0, -6.0, -2.0, 2.0, 6.0):
                with self.subTest(f"{name} at {distance}"), contextlib.suppress(CurveError):
                    parallel = parallel_of(curve, distance)
                    backwards = parallel.reversed()
                    self.assertAlmostEqual(backwards.length, parallel.length)
                    stations = np.linspace(0.0, parallel.length, 301)[1:-1] + 1e-4
                    np.testing.assert_allclose(
                        backwards.points(parallel.length - stations),
                        parallel.points(stations),
                        atol=1e-6,
                    )
                    np.testing.assert_allclose(
                        parallel.length - backwards.corners.stations[::-1],
                        parallel.corners.stations,
                        atol=1e-6,
                    )

    def test_sides_of_a_star_are_alike_beside_it(self) -> None:
        """Tips are rounded and valleys sharp: corners within chains, which rounding displaced."""
        star = guide_curve(zoo.guide("star"))
        parallel = parallel_of(star, -2.0)
        valleys = parallel.carry(np.array([*star.corners.stations, star.length]))
        np.testing.assert_allclose(np.diff(valleys), parallel.length / 9.0, atol=1e-6)

    def test_parallel_of_a_circle_is_the_larger_circle(self) -> None:
        outer = parallel_of(CircularArc.circle((0, 0), 120, 90, clockwise=True), 18)
        self.assertAlmostEqual(outer.length, 2 * math.pi * 138)
        np.testing.assert_allclose(np.hypot(*outer.points([0, 50, 300]).T), 138)

    def test_round_an_opening_corner_and_through_a_closing_one(self) -> None:
        rectangle = zoo.curves()["rectangle"]
        self.assertAlmostEqual(parallel_of(rectangle, -3).length, 160 + 2 * math.pi * 3)
        self.assertAlmostEqual(parallel_of(rectangle, 3).length, 160 - 8 * 3)

    def test_too_tight_a_bend_is_refused_with_its_place(self) -> None:
        circle = CircularArc.circle((0, 0), 10, 0, clockwise=False)
        with self.assertRaisesRegex(CurveError, "radius of 10 mm at station"):
            parallel_of(circle, 10.5)
        with self.assertRaisesRegex(CurveError, "too short between its corners"):
            parallel_of(zoo.curves()["polygon"], 31)


class Construction(unittest.TestCase):
    def test_curves_that_are_none_are_refused(self) -> None:
        point = LineSegment((1, 1), (1, 1))
        wrong = {
            "no length": lambda: BezierPath([point]),
            "nothing": lambda: Chain([]),
            "apart": lambda: BezierPath([LineSegment((0, 0), (1, 0)), LineSegment((2, 0), (3, 0))]),
            "not closed": lambda: BezierPath([LineSegment((0, 0), (1, 0))], closed=True),
            "not a number": lambda: BezierPath([LineSegment((0, 0), (math.inf, 0))]),
            "same point": lambda: Line((1, 1), (1, 1)),
            "no radius": lambda: CircularArc((0, 0), 0, 0, 90),
            "no sweep": lambda: CircularArc((0, 0), 1, 0, 0),
        }
        for name, build in wrong.items():
            with self.subTest(name), self.assertRaises(CurveError):
                build()


coordinate = st.floats(-500, 500).map(lambda value: round(value, 3))
point = st.tuples(coordinate, coordinate)


class AnyCubic(unittest.TestCase):
    def test_a_stretch_smaller_than_any_atom_has_no_length(self) -> None:
        speck = CubicSegment((0, 0), (5e-324, 0), (5e-324, 5e-324), (0, 5e-324))
        with self.assertRaises(CurveError):
            BezierPath([speck])

    @given(st.builds(CubicSegment, point, point, point, point), st.floats(0, 1))
    def test_length_splits_anywhere(self, segment: CubicSegment, share: float) -> None:
        """Splitting by de Casteljau's rule gives two curves as long as the whole."""
        if max(math.dist(segment.start, other) for other in segment[1:]) < 1e-3:
            return
        whole = BezierPath([segment])
        a, b, c, d = (np.array(p) for p in segment)
        ab, bc, cd = (p + share * (q - p) for p, q in ((a, b), (b, c), (c, d)))
        abc, bcd = ab + share * (bc - ab), bc + share * (cd - bc)
        middle = abc + share * (bcd - abc)
        lengths = []
        for part in ((a, ab, abc, middle), (middle, bcd, cd, d)):
            try:
                lengths.append(BezierPath([CubicSegment(*(tuple(p) for p in part))]).length)
            except CurveError:
                lengths.append(0.0)
        self.assertLessEqual(abs(sum(lengths) / whole.length - 1), ARC_LENGTH)


if __name__ == "__main__":
    unittest.main()

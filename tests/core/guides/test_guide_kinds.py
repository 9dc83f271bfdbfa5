"""Every kind of guide against something outside: closed forms, handbooks, other libraries."""

from __future__ import annotations

import math
import unittest
from fractions import Fraction

import mpmath
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.special import ellipe, ellipeinc

from tests import zoo
from ulvent.core.base.errors import PieceError
from ulvent.core.base.fields import WrongRecipeError
from ulvent.core.curves import Curve, EllipseArc, SineWave, Superellipse, nearest
from ulvent.core.guides import guide_curve, guide_curves
from ulvent.core.guides.kinds.arc_through_guide import arc_through
from ulvent.core.guides.sizes import given_as
from ulvent.core.recipe import parse_guide, parse_piece


def curve(name: str, **changes: object) -> Curve:
    return guide_curve(zoo.guide(name, **changes))


class Circles(unittest.TestCase):
    def test_by_length_round(self) -> None:
        """25.305 mm round is a circle of 8.0548 mm: common practice, no source."""
        ring = zoo.guide("circle by length")
        self.assertAlmostEqual(guide_curve(ring).length, 25.305, places=12)
        self.assertAlmostEqual(given_as(ring, ("diameter",)).diameter, 8.0548, places=4)

    def test_by_radius_is_by_diameter(self) -> None:
        self.assertEqual(
            curve("circle", diameter=None, radius=45).length, curve("circle", diameter=90).length
        )

    def test_two_sizes_contradict_each_other(self) -> None:
        with self.assertRaisesRegex(PieceError, "radius: is one too many"):
            zoo.guide("circle", radius=4)


class Arcs(unittest.TestCase):
    def test_arch_by_chord_and_rise(self) -> None:
        """Radius by r = c²/8h + h/2, the segment formula of machinists' handbooks."""
        for chord, rise in ((120, 30), (190, 46), (10, 1), (60, -45), (20, 10)):
            with self.subTest(chord=chord, rise=rise):
                arch = curve("arch", chord=chord, rise=rise)
                radius = chord**2 / (8 * abs(rise)) + abs(rise) / 2
                np.testing.assert_allclose(1 / np.abs(arch.curvatures(1)), radius)
                ends = arch.points([0, arch.length])
                np.testing.assert_allclose(ends, [(-chord / 2, 0), (chord / 2, 0)], atol=1e-9)
                np.testing.assert_allclose(arch.points(arch.length / 2), [(0, rise)], atol=1e-9)

    def test_segment_table(self) -> None:
        """Circle of radius 1, from a handbook's table of segments (from memory; exact by formula):
        60 degrees have chord 1.0000 and height 0.1340, 90 degrees 1.4142 and 0.2929."""
        for degrees, chord, height in ((60, 1.0, 0.1340), (90, 1.4142, 0.2929)):
            arch = curve("arch", chord=chord, rise=height)
            self.assertAlmostEqual(arch.length, math.radians(degrees), delta=2e-4)

    def test_through_three_points_exactly(self) -> None:
        """The centre is the rational solution of the two equations of equal distance."""
        points = ((-30.0, 0.0), (5.0, 22.0), (40.0, -3.0))
        arc = arc_through(points)
        (ax, ay), (bx, by), (cx, cy) = ((Fraction(x), Fraction(y)) for x, y in points)
        # Cramer's rule on the perpendicular bisectors.
        a1, b1, c1 = bx - ax, by - ay, (bx**2 - ax**2 + by**2 - ay**2) / 2
        a2, b2, c2 = cx - bx, cy - by, (cx**2 - bx**2 + cy**2 - by**2) / 2
        d = a1 * b2 - a2 * b1
        centre = (float((c1 * b2 - c2 * b1) / d), float((a1 * c2 - a2 * c1) / d))
        np.testing.assert_allclose(arc.centre, centre, rtol=1e-14)
        np.testing.assert_allclose(arc.points([0, arc.length]), [points[0], points[2]], atol=1e-12)
        middle = nearest(arc, [points[1]])
        np.testing.assert_allclose(arc.points(middle), [points[1]], atol=1e-12)

    def test_three_points_on_a_line_are_refused(self) -> None:
        with self.assertRaisesRegex(WrongRecipeError, "straight line"):
            arc_through(((0, 0), (1, 1), (2, 2)))


class Ellipses(unittest.TestCase):
    def test_whole(self) -> None:
        """4aE(k), NIST DLMF 19.30(i); witness: scipy.special.ellipe."""
        for width, height in ((120, 70), (70, 120), (100, 100), (300, 4)):
            with self.subTest(width=width, height=height):
                a, b = max(width, height) / 2, min(width, height) / 2
                expected = 4 * a * ellipe(1 - (b / a) ** 2)
                found = curve("ellipse", width=width, height=height).length
                self.assertLessEqual(abs(found / expected - 1), 1e-9)

    def test_arc(self) -> None:
        """Witness: scipy.special.ellipeinc, on eccentric angles from the short axis."""
        arc = EllipseArc((0, 0), 50, 20, 90, 75)
        m = 1 - (20 / 50) ** 2
        self.assertAlmostEqual(arc.length, 50 * ellipeinc(math.radians(75), m), places=9)

    def test_begins_where_it_is_seen_from_the_centre(self) -> None:
        arc = curve("ellipse arc", start=150, angle=200)
        start, end = arc.points([0, arc.length])
        self.assertAlmostEqual(math.degrees(math.atan2(start[1], start[0])), 150)
        self.assertAlmostEqual(math.degrees(math.atan2(end[1], end[0])) % 360, 310)


class WavesAndSuperellipses(unittest.TestCase):
    def test_wave_against_quadrature(self) -> None:
        """Witness: mpmath at 30 digits."""
        wave = SineWave(40, 5, 3, 30)
        with mpmath.workdps(30):
            rate = 2 * mpmath.pi / 40
            length = mpmath.quad(
                lambda x: mpmath.sqrt(1 + (5 * rate * mpmath.cos(rate * x + mpmath.pi / 6)) ** 2),
                mpmath.linspace(0, 120, 13),
            )
        self.assertLessEqual(abs(wave.length / float(length) - 1), 1e-9)

    def test_superellipse_of_exponent_two_is_the_ellipse(self) -> None:
        soft = Superellipse(60, 35, 2, 180, clockwise=True)
        self.assertAlmostEqual(soft.length, curve("ellipse").length, places=8)

    def test_every_point_satisfies_the_equation(self) -> None:
        soft = Superellipse(50, 30, 3.3, 180, clockwise=True)
        x, y = np.abs(soft.points(np.linspace(0, soft.length, 777)).T)
        np.testing.assert_allclose((x / 50) ** 3.3 + (y / 30) ** 3.3, 1, rtol=1e-9)


class Spirals(unittest.TestCase):
    def test_length_by_the_closed_form(self) -> None:
        """r = bθ: s = b/2 · (θ√(1+θ²) + asinh θ), standard mathematical tables."""
        b, turns = 8 / (2 * math.pi), 12
        theta = 2 * math.pi * turns
        expected = b / 2 * (theta * math.hypot(1, theta) + math.asinh(theta))
        found = curve("spiral by length", gain=8, length=None, turns=turns).length
        self.assertLessEqual(abs(found / expected - 1), 1e-12)

    def test_from_an_inner_diameter_against_quadrature(self) -> None:
        """Witness: mpmath."""
        spiral = curve("spiral", inner=20, outer=140, turns=3.5)
        b = mpmath.mpf(60) / (7 * mpmath.pi)
        length = mpmath.quad(
            lambda t: mpmath.sqrt((10 + b * t) ** 2 + b**2), mpmath.linspace(0, 7 * mpmath.pi, 15)
        )
        self.assertLessEqual(abs(spiral.length / float(length) - 1), 1e-9)

    def test_growing_spiral_by_the_closed_form(self) -> None:
        """s = a√(1+b²)/b · (e^{bθ} − 1)."""
        b, theta = math.log(1.7) / (2 * math.pi), 2.25 * 2 * math.pi
        expected = 6 * math.hypot(1, b) / b * math.expm1(b * theta)
        self.assertAlmostEqual(curve("growing spiral").length, expected, places=9)

    def test_any_two_figures_give_the_same_spiral(self) -> None:
        by = zoo.guide("spiral", inner=20, outer=140, turns=3.5)
        for figures in (("gain", "turns"), ("gain", "length"), ("turns", "length"),
                        ("outer", "length"), ("outer", "gain")):  # fmt: skip
            with self.subTest(figures):
                other = given_as(by, ("inner", *figures))
                stations = np.linspace(0, guide_curve(by).length, 50)
                np.testing.assert_allclose(
                    guide_curve(other).points(stations), guide_curve(by).points(stations), atol=1e-3
                )

    def test_a_given_length_is_kept(self) -> None:
        for name in ("spiral by length",):
            self.assertAlmostEqual(curve(name).length, 700, places=8)
        grown = curve("growing spiral", turns=None, length=321.5)
        self.assertAlmostEqual(grown.length, 321.5, places=8)

    def test_inward_starts_outside(self) -> None:
        spiral = curve("spiral", inner=20, outer=140, turns=3.5, inward=True)
        radii = np.hypot(*spiral.points([0, spiral.length]).T)
        np.testing.assert_allclose(radii, [70, 10])

    def test_figures_that_give_no_spiral_are_named(self) -> None:
        wrong = {
            "outer": {"inner": 20, "outer": 10, "turns": 2},
            "length": {"inner": 20, "outer": 100, "length": 30},
        }
        for field, figures in wrong.items():
            recipe = {"kind": "spiral", "id": "g", **figures}
            with self.subTest(field), self.assertRaises(PieceError) as caught:
                guide_curves(parse_piece({"ulvent": 1, "guides": [recipe]}).guides)
            self.assertEqual(caught.exception.problems[0].field, f"guides[0].{field}")


class Extremes(unittest.TestCase):
    def test_figures_beyond_all_measure_are_named(self) -> None:
        wrong: dict[str, dict[str, object]] = {
            "height": {"kind": "superellipse", "width": 50, "height": 1e-8, "exponent": 40},
            "growth": {"kind": "growing-spiral", "start_radius": 200, "growth": 70, "turns": 180},
        }
        for field, figures in wrong.items():
            recipe = {"id": "g", **figures}
            with self.subTest(field), self.assertRaises(PieceError) as caught:
                guide_curves(parse_piece({"ulvent": 1, "guides": [recipe]}).guides)
            self.assertEqual(caught.exception.problems[0].field, f"guides[0].{field}")

    def test_what_is_shorter_than_a_joint_is_still_drawn(self) -> None:
        tiny = curve("wave", length=0.5, height=200, waves=1e-9)
        self.assertLess(tiny.length, 1e-5)
        (line,) = tiny.segments()
        np.testing.assert_allclose(line[-1], tiny.points([tiny.length])[0], atol=1e-9)


class ClosedFigures(unittest.TestCase):
    def test_polygon_sides_are_chords(self) -> None:
        """Chord for N divisions of a circle of diameter 1: 7 is 0.433884, 9 is 0.342020, 12 is
        0.258819 (machinist's handbook, from memory; exact by the formula)."""
        for sides, chord in ((7, 0.433884), (9, 0.342020), (12, 0.258819)):
            polygon = curve("polygon", sides=sides, across=1, radius=0)
            self.assertAlmostEqual(polygon.length / sides, chord, places=6)

    def test_rounding_takes_two_tangents_and_gives_an_arc(self) -> None:
        plain, soft = curve("rectangle").length, curve("rounded rectangle").length
        self.assertAlmostEqual(plain - soft, 4 * (2 * 12 - math.pi * 12 / 2))

    def test_a_star_whose_valleys_lie_in_its_sides_is_a_polygon(self) -> None:
        """Three tips, valleys half as far out: an equilateral triangle, side R sqrt 3."""
        star = {"id": "g", "kind": "star", "tips": 3, "outer": 40, "inner": 20}
        triangle = guide_curve(parse_guide(star))
        self.assertAlmostEqual(triangle.length, 3.0 * 20.0 * math.sqrt(3.0), places=9)

    def test_a_rounded_star_has_no_corner_left(self) -> None:
        star = curve("star", tip_radius=3, valley_radius=5)
        self.assertEqual(len(star.corners.stations), 0)
        self.assertAlmostEqual(star.seam_turn, 0)
        self.assertGreater(
            float(np.hypot(*star.points(np.linspace(0, star.length, 500)).T).min()), 40
        )

    def test_a_radius_that_does_not_fit_is_said_with_the_one_that_does(self) -> None:
        with self.assertRaisesRegex(WrongRecipeError, r"at most 43.\d+"):
            curve("polygon", sides=6, across=100, radius=60)

    def test_each_starts_left_and_reads_upright_along_its_top(self) -> None:
        for name in ("ellipse", "rectangle", "rounded rectangle", "superellipse"):
            with self.subTest(name):
                line = curve(name)
                self.assertLess(float(line.points(0)[0, 0]), -49)
                np.testing.assert_allclose(
                    line.frames(line.length / 4).normals, [[0, 1]], atol=1e-9
                )


class Laws(unittest.TestCase):
    """What holds for every kind, however it is placed."""

    kinds = st.sampled_from(sorted(zoo.RECIPES))
    shares = st.floats(0.001, 0.999)

    @settings(max_examples=60)
    @given(kinds, shares)
    def test_reversed(self, name: str, share: float) -> None:
        along, back = curve(name), curve(name, reverse=True)
        self.assertAlmostEqual(back.length, along.length, places=9)
        station = share * along.length
        np.testing.assert_allclose(
            back.points(along.length - station), along.points(station), atol=1e-8
        )

    @settings(max_examples=60)
    @given(kinds, shares, st.floats(-360, 360), st.floats(0.1, 9), st.floats(-80, 80))
    def test_moved_turned_and_scaled(
        self, name: str, share: float, turned: float, scaled: float, x: float
    ) -> None:
        plain = curve(name, centre=[0, 0])
        placed = curve(name, turned=turned, scaled=scaled, centre=[x, 7])
        self.assertAlmostEqual(placed.length / plain.length, scaled, places=9)
        (px, py) = plain.points(share * plain.length)[0]
        where = scaled * complex(px, py) * np.exp(1j * math.radians(turned)) + complex(x, 7)
        np.testing.assert_allclose(
            placed.points(share * placed.length), [(where.real, where.imag)], atol=1e-7
        )

    @settings(max_examples=120)
    @given(kinds, shares)
    def test_station_to_point_to_nearest_station(self, name: str, share: float) -> None:
        line = curve(name)
        station = share * line.length
        self.assertAlmostEqual(float(nearest(line, line.points(station))[0]), station, places=6)

    @settings(max_examples=60)
    @given(kinds, shares, shares)
    def test_a_part_is_that_part(self, name: str, one: float, other: float) -> None:
        begin, end = sorted((one, other))
        if end - begin < 1e-3:
            return
        line = curve(name)
        part = curve(name, part=[begin * line.length, end * line.length])
        self.assertFalse(part.closed)
        self.assertAlmostEqual(part.length, (end - begin) * line.length, places=6)
        stations = np.linspace(0, part.length, 9)
        np.testing.assert_allclose(
            part.points(stations), line.points(begin * line.length + stations), atol=1e-6
        )

    @settings(max_examples=40)
    @given(st.sampled_from(["circle", "ellipse", "rounded rectangle", "drawn and closed"]), shares)
    def test_a_closed_guide_can_start_anywhere(self, name: str, share: float) -> None:
        line = curve(name)
        moved = curve(name, seam=share * line.length)
        np.testing.assert_allclose(moved.points(0), line.points(share * line.length), atol=1e-6)
        self.assertAlmostEqual(moved.length, line.length, places=6)
        self.assertTrue(moved.closed)


class Segments(unittest.TestCase):
    def test_what_is_drawn_and_written_lies_on_the_curve(self) -> None:
        """The cubics that stand for a guide in files, measured by their own length and points."""
        from ulvent.core.outlines import FileOutline, curve_of

        for name in zoo.RECIPES:
            with self.subTest(name):
                line = curve(name)
                written = curve_of(FileOutline(line.segments(), line.closed))
                self.assertAlmostEqual(written.length, line.length, delta=0.01)
                points = written.points(np.linspace(0, written.length, 400))
                on_line = line.points(nearest(line, points))
                self.assertLess(float(np.hypot(*(points - on_line).T).max()), 0.002)


if __name__ == "__main__":
    unittest.main()

"""Where letters stand, and the laws that placing must obey."""

from __future__ import annotations

import math
import unittest
from typing import Any

import numpy as np
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests import zoo
from ulvent.core.base.errors import CurveError
from ulvent.core.curves import BezierPath, CircularArc, CubicSegment, Curve, Line
from ulvent.core.recipe import Lettering
from ulvent.core.setting import Setting, Standing, set_lettering
from ulvent.shipped_faces import shipped_face

CIRCLE = CircularArc.circle((0, 0), 120, 90, clockwise=True)


def lettering(text: str = "QUILLMERE", **changes: Any) -> Lettering:
    fields = {"id": "x", "guide": "g", "text": text, "face": "lato-bold", "height": 18, **changes}
    return Lettering.model_validate(fields)


def placed(guide: Curve, text: str = "QUILLMERE", **changes: Any) -> Setting:
    wanted = lettering(text, **changes)
    (found,) = set_lettering(wanted, Standing(guide), shipped_face(wanted.face))
    return found


class Height(unittest.TestCase):
    def test_flat_capitals_are_as_high_as_asked(self) -> None:
        line = Line((0, 0), (1000, 0))
        for face in ("lato-bold", "eb-garamond", "alfa-slab-one", "hershey-sans"):
            with self.subTest(face):
                found = placed(line, "H", face=face, height=25.4)
                _, low, _, high = found.placed_outline(0).bounds()
                # The face states its cap height; one design's H overshoots that by 1.3 %.
                self.assertAlmostEqual(high - low, 25.4, delta=0.013 * 25.4)


class TouchLines(unittest.TestCase):
    """Each touch line lies on the guide, and standoff moves it away from the feet."""

    def heights_on_a_line(self, **changes: Any) -> tuple[float, float]:
        found = placed(Line((0, 0), (1000, 0)), "H", **changes)
        _, low, _, high = found.placed_outline(0).bounds()
        return low, high

    def test_each_line_touches(self) -> None:
        face = shipped_face("lato-bold")
        scale = 18 / face.metrics.cap_height
        expected = {
            "ascender": -scale * face.metrics.ascender,
            "capital": -18.0,
            "middle": -9.0,
            "baseline": 0.0,
            "descender": -scale * face.metrics.descender,
        }
        for touch, foot in expected.items():
            with self.subTest(touch):
                self.assertAlmostEqual(self.heights_on_a_line(touch=touch)[0], foot, places=6)

    def test_standoff_lifts_the_letters(self) -> None:
        self.assertAlmostEqual(self.heights_on_a_line(standoff=4)[0], 4)
        self.assertAlmostEqual(self.heights_on_a_line(touch="capital", standoff=-3)[1], -3)

    def test_on_a_circle_the_feet_stand_on_the_larger_circle(self) -> None:
        found = placed(CIRCLE, standoff=7)
        np.testing.assert_allclose(np.hypot(*found.frames.points.T), 127)

    def test_two_lines_share_one_band_of_a_ring(self) -> None:
        """Reading along with the feet, against with the heads: both between r and r + height."""
        outward = placed(CIRCLE, "HHH", at=0.0, align="centre")
        inward = placed(CIRCLE, "HHH", at=0.5, at_in="share", align="centre", reading="against",
                        touch="capital")  # fmt: skip
        np.testing.assert_allclose(np.hypot(*outward.frames.points.T), 120)
        np.testing.assert_allclose(np.hypot(*inward.frames.points.T), 138)
        self.assertGreater(outward.frames.normals[1] @ (0, 1), 0.99)
        self.assertGreater(inward.frames.normals[1] @ (0, 1), 0.99)

    def test_a_guide_too_tight_for_the_standoff_is_refused(self) -> None:
        with self.assertRaisesRegex(CurveError, "bends to a radius"):
            placed(CircularArc.circle((0, 0), 10, 90, clockwise=False), standoff=12)


class Place(unittest.TestCase):
    def test_start_middle_and_end_stand_at_the_station(self) -> None:
        line = Line((0, 0), (400, 0))
        for align, share in (("start", 0.0), ("centre", 0.5), ("end", 1.0)):
            with self.subTest(align):
                found = placed(line, at=200, align=align)
                self.assertAlmostEqual(found.start + share * found.length, 200)

    def test_against_the_guide_the_station_is_still_the_guides(self) -> None:
        line = Line((0, 0), (400, 0))
        found = placed(line, "H", at=150, align="centre", reading="against")
        self.assertAlmostEqual(found.frames.points[0][0], 150)
        self.assertAlmostEqual(found.stations[0], 150)
        self.assertAlmostEqual(abs(found.angles[0]), 180)

    def test_a_share_follows_the_size_of_the_guide(self) -> None:
        for radius in (60.0, 120.0):
            circle = CircularArc.circle((0, 0), radius, 180, clockwise=True)
            found = placed(circle, "H", at=0.25, at_in="share", align="centre", height=9)
            np.testing.assert_allclose(found.frames.points[0], [0, radius], atol=1e-9)

    def test_letters_pass_the_seam_like_any_other_place(self) -> None:
        over = placed(CIRCLE, at=0.0, align="centre")
        clear = placed(CIRCLE, at=200.0, align="centre")
        turn = 200.0 / 120.0
        cos, sin = math.cos(-turn), math.sin(-turn)
        moved = over.frames.points @ np.array([[cos, -sin], [sin, cos]]).T
        np.testing.assert_allclose(moved, clear.frames.points, atol=1e-9)
        self.assertTrue((over.stations >= 0).all() and (over.stations < CIRCLE.length).all())
        self.assertTrue(over.drawn.all())

    def test_tracking_is_added_between_letters_only(self) -> None:
        plain, loose = placed(CIRCLE), placed(CIRCLE, tracking=2.0)
        self.assertAlmostEqual(loose.length - plain.length, 2.0 * 8)
        np.testing.assert_allclose(np.diff(loose.middles) - np.diff(plain.middles), 2.0)


class Overflow(unittest.TestCase):
    def test_room_is_what_is_left(self) -> None:
        found = placed(CIRCLE)
        self.assertAlmostEqual(found.room, CIRCLE.length - found.length)
        self.assertEqual(found.letters_without_room(), [])

    def test_past_an_open_end(self) -> None:
        line = Line((0, 0), (100, 0))
        found = placed(line, "HHHH", at=60, height=10)
        self.assertAlmostEqual(found.room, 100 - (60 + found.length))
        off = [c.text for c, fits in zip(found.clusters, found.has_room, strict=True) if not fits]
        self.assertEqual(found.letters_without_room(), off)
        self.assertTrue(off)
        # A letter whose middle is off the guide is not drawn (SVG 2, text on a path).
        np.testing.assert_array_equal(found.drawn, found.middles <= 100)

    def test_before_the_start(self) -> None:
        found = placed(Line((0, 0), (500, 0)), at=-10)
        self.assertAlmostEqual(found.room, -10)

    def test_more_than_a_lap(self) -> None:
        small = CircularArc.circle((0, 0), 12, 90, clockwise=True)
        found = placed(small, "QUILLMERE ORCHARD", align="centre")
        self.assertAlmostEqual(found.room, small.length - found.length)
        self.assertEqual(found.words_without_room()[0][0], "Q")
        self.assertEqual(found.words_without_room()[-1][-1], "D")
        self.assertLessEqual(np.ptp(found.middles[found.drawn]), small.length)

    def test_no_words_have_all_the_room(self) -> None:
        for text in ("", "   "):
            with self.subTest(repr(text)):
                found = placed(CIRCLE, text)
                self.assertEqual(found.clusters, ())
                self.assertAlmostEqual(found.room, CIRCLE.length - found.length)


class OutsideFigures(unittest.TestCase):
    def test_letters_spread_over_a_circle_stand_a_chord_apart(self) -> None:
        """Chord for N divisions: D·sin(180°/N); a machinist's handbook table, from memory."""
        table = {7: 0.433884, 9: 0.342020, 12: 0.258819}
        circle = CircularArc.circle((0, 0), 0.5, 90, clockwise=True)
        for count, chord in table.items():
            with self.subTest(count):
                advance = placed(circle, "I", height=0.01).advances[0]
                spread = placed(
                    circle, "I" * count, height=0.01, tracking=circle.length / count - advance
                )
                apart = np.hypot(*np.diff(spread.frames.points, axis=0).T)
                np.testing.assert_allclose(apart, chord, atol=1e-6)


coordinates = st.floats(-80, 80).map(lambda value: round(value, 2))
points = st.tuples(coordinates, coordinates)


def _curve(controls: tuple[tuple[float, float], ...]) -> BezierPath:
    return BezierPath([CubicSegment(*controls)])


def _is_regular(controls: tuple[tuple[float, float], ...]) -> bool:
    """Whether a cubic keeps moving: at a cusp it is rounding that says which way it turns."""
    a, b, c, d = (complex(*point) for point in controls)
    size = max(abs(point - a) for point in (b, c, d))
    t = np.linspace(0, 1, 400)
    u = 1 - t
    speed = np.abs(3 * u * u * (b - a) + 6 * u * t * (c - b) + 3 * t * t * (d - c))
    return size > 5 and speed.min() > 0.02 * size


cubics = st.tuples(points, points, points, points).filter(_is_regular)
words = st.text(alphabet="ABCdefgh Ré&1", min_size=1, max_size=12)


class Laws(unittest.TestCase):
    """What holds for any guide, any words."""

    @given(cubics, words, st.floats(0, 1))
    def test_reversing_guide_and_reading_gives_the_same_letters(
        self, controls: Any, text: str, share: float
    ) -> None:
        guide = _curve(controls)
        at = share * guide.length
        one = placed(guide, text, at=at, align="centre", height=4)
        two = placed(guide.reversed(), text, at=guide.length - at, align="centre", height=4,
                     reading="against")  # fmt: skip
        np.testing.assert_allclose(two.matrices, one.matrices, atol=1e-6)

    @settings(max_examples=40)
    @given(cubics, words, st.floats(0.01, 50), st.sampled_from(["baseline", "middle", "capital"]))
    def test_scaling_a_piece_scales_every_placement(
        self, controls: Any, text: str, k: float, touch: str
    ) -> None:
        small = _curve(controls)
        large = _curve(tuple((k * x, k * y) for x, y in controls))
        try:
            one = placed(small, text, at=3, height=4, touch=touch, tracking=0.5)
        except CurveError:
            with self.assertRaises(CurveError):
                placed(large, text, at=3 * k, height=4 * k, touch=touch, tracking=0.5 * k)
            return
        two = placed(large, text, at=3 * k, height=4 * k, touch=touch, tracking=0.5 * k)
        # A letter whose middle lies in a kink stands before or behind it by a rounding.
        beside = [one.baseline.frames(one.middles + off).tangents for off in (-1e-6, 1e-6)]
        assume(np.abs(beside[1] - beside[0]).max(initial=0.0) < 1e-2)
        # Where the parallel crosses itself, the crossing is found to some millionths of a mm.
        np.testing.assert_allclose(two.matrices, k * one.matrices, atol=2e-5 * max(k, 1))

    @given(words, st.floats(-900, 900), st.sampled_from(["along", "against"]),
           st.sampled_from(["circle", "rectangle"]))  # fmt: skip
    def test_sliding_a_closed_guides_length_changes_nothing(
        self, text: str, at: float, reading: str, kind: str
    ) -> None:
        guide = zoo.curves()[kind]
        one = placed(guide, text, at=at, reading=reading, height=4)
        two = placed(guide, text, at=at + guide.length, reading=reading, height=4)
        # At a corner rounding decides on which side a letter stands; elsewhere nothing may change.
        corners = np.append(guide.corners.stations, [0.0, guide.length])
        clear = (np.abs(one.stations[:, None] - corners) > 1e-6).all(axis=1)
        np.testing.assert_allclose(two.matrices[clear], one.matrices[clear], atol=1e-6)


if __name__ == "__main__":
    unittest.main()

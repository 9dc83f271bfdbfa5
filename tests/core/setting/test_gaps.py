"""The gap of two neighbours, against a plain slow computation and the faces' own spacing."""

from __future__ import annotations

import math
import unittest

import numpy as np
from fontTools.ttLib import TTFont
from shapely.geometry import Polygon, box
from shapely.ops import unary_union

from tests.makings import LINE, line
from ulvent.core.curves import CircularArc, Curve, Line
from ulvent.core.faces import Face
from ulvent.core.recipe import Lettering
from ulvent.core.setting import Setting, Standing, set_lettering
from ulvent.core.setting.gaps.profiles import softening
from ulvent.shipped_faces import FONTS, shipped_face


def gaps(text: str, guide: Curve, face: str = "lato-bold", height: float = 10.0, **more: float):
    wanted = Lettering(id="x", guide="g", text=text, face=face, height=height, **more)
    (found,) = set_lettering(wanted, Standing(guide), shipped_face(face))
    return found.gaps


STRAIGHT = Line((0, 0), (2000, 0))


def slow_gap(face: Face, pair: str, height: float, radius: float) -> float:
    """The measure of docs/even-gaps.md on a circle with heads outward, row by row and by hand.

    Letters are flattened finely, turned into place as rigid bodies, and their points
    taken in polar coordinates: no circle of curvature, no interpolation over rows.
    """
    scale = height / face.metrics.cap_height
    shaped = face.shape(pair).clusters
    rows, band = 20, face.metrics.cap_height

    def softened(text_cluster, side: int, c: float) -> np.ndarray:
        extreme = np.full(rows, -math.inf)
        for points, _ in face.cluster_outline(text_cluster.glyphs).flattened(400):
            closed = np.vstack([points, points[:1]])
            t = np.linspace(0, 1, 200)[:, None, None]
            dense = (closed[:-1] + t * (closed[1:] - closed[:-1])).reshape(-1, 2)
            for index in range(rows):
                low, high = index / rows * band, (index + 1) / rows * band
                inside = dense[(dense[:, 1] >= low) & (dense[:, 1] <= high)]
                if len(inside):
                    extreme[index] = max(extreme[index], (side * inside[:, 0]).max())
        y = (np.arange(rows) + 0.5) / rows * band
        eased = np.array(
            [max(extreme[j] - abs(y[i] - y[j]) for j in range(rows)) for i in range(rows)]
        )
        top = eased.max()
        return side * (top - c * (1 - np.exp(-(top - eased) / c)))

    stem = face.shape("HH").clusters[0]
    h_right, h_left = (_edge_at(face, stem, side, 0.3 * band, band / rows) for side in (1, -1))
    g = stem.advance - h_right + h_left
    sides = softened(shaped[0], 1, 1.4 * g), softened(shaped[1], -1, 1.4 * g)
    y = (np.arange(rows) + 0.5) / rows * band * scale
    middle = [0.0, (shaped[0].advance + shaped[1].advance) * scale / 2]
    polar = []
    for cluster, profile, station in zip(shaped, sides, middle, strict=True):
        x = (profile - cluster.advance / 2) * scale
        angle = station / radius + np.arctan2(x, radius + y)
        polar.append((angle, np.hypot(x, radius + y) - radius))
    white = []
    for row in y:
        a, b = (np.interp(row, heights, angles) for angles, heights in polar)
        white.append((b - a) * (radius + row))
    c, e = 1.4 * g * scale, g * scale / 2
    white = np.array(white)
    white = white.min() + c * (1 - np.exp(-(white - white.min()) / c))
    eased = np.maximum(white, -0.6 * e) + e
    return 1 / np.mean(1 / eased) - e


def _edge_at(face: Face, cluster, side: int, height: float, row: float) -> float:
    best = -math.inf
    for points, _ in face.cluster_outline(cluster.glyphs).flattened(64):
        closed = np.vstack([points, points[:1]])
        t = np.linspace(0, 1, 400)[:, None, None]
        dense = (closed[:-1] + t * (closed[1:] - closed[:-1])).reshape(-1, 2)
        inside = dense[np.abs(dense[:, 1] - height) <= row]
        best = max(best, (side * inside[:, 0]).max())
    return side * best


class Straight(unittest.TestCase):
    def test_the_gap_of_two_straight_stems_is_their_distance(self) -> None:
        """Read from the file with fontTools: H's side bearings are the white on both sides."""
        font = TTFont(FONTS / "lato-bold.ttf")
        advance, left = font["hmtx"]["H"]
        right = advance - font["glyf"]["H"].xMax
        scale = 10 / font["OS/2"].sCapHeight
        found = gaps("HH", STRAIGHT).found[0]
        self.assertAlmostEqual(found, (left + right) * scale, delta=1e-6)

    def test_on_a_straight_guide_every_gap_is_its_designers(self) -> None:
        for face in ("lato-bold", "eb-garamond", "kaushan-script", "hershey-sans"):
            with self.subTest(face):
                measured = gaps("Quillmere Orchard, AVOWAL 12", STRAIGHT, face)
                np.testing.assert_allclose(measured.found, measured.designed, atol=1e-9)

    def test_tracking_moves_what_is_wanted_as_well(self) -> None:
        plain, loose = gaps("HIH", STRAIGHT), gaps("HIH", STRAIGHT, tracking=1.5)
        np.testing.assert_allclose(loose.designed, plain.designed + 1.5)

    def test_scales_with_the_letters(self) -> None:
        small, large = gaps("ORCHARD", STRAIGHT), gaps("ORCHARD", STRAIGHT, height=37.0)
        np.testing.assert_allclose(large.found, 3.7 * small.found, rtol=1e-9)

    def test_a_word_space_counts_as_white(self) -> None:
        self.assertGreater(gaps("H H", STRAIGHT).found[0], 2 * gaps("HH", STRAIGHT).found[0])


class OnCurves(unittest.TestCase):
    def test_agrees_with_a_plain_slow_computation(self) -> None:
        for face_id in ("lato-bold", "zilla-slab-semibold"):
            face = shipped_face(face_id)
            for pair in ("HH", "AV", "LO", "TO"):
                with self.subTest(f"{face_id} {pair}"):
                    circle = CircularArc.circle((0, 0), 25, 180, clockwise=True)
                    found = gaps(pair, circle, face_id).found[0]
                    self.assertAlmostEqual(found, slow_gap(face, pair, 10, 25), delta=0.02)

    def test_heads_fan_out_on_the_outside_and_crowd_on_the_inside(self) -> None:
        circle = CircularArc.circle((0, 0), 25, 180, clockwise=True)
        outside, inside = gaps("HH", circle), gaps("HH", circle.reversed())
        self.assertGreater(outside.found[0], outside.designed[0] + 0.5)
        self.assertLess(inside.found[0], inside.designed[0] - 0.5)

    def test_too_tight_to_be_measured_is_said(self) -> None:
        inward = CircularArc.circle((0, 0), 8, 90, clockwise=False)
        self.assertTrue(np.isnan(gaps("HH", inward).found).all())


class TurnedAndStacked(unittest.TestCase):
    """Letters that stand otherwise, row by row with shapely's intersections of placed areas."""

    def slow(self, setting: Setting, pair: int, low: float, high: float) -> float:
        """On a straight guide along x: the white across 20 slabs between two heights."""
        how = softening(setting.face, "capital")
        scale = setting.scales[pair]
        c, e = how.recess * scale, how.easing * scale
        rows = low + (np.arange(20) + 0.5) / 20 * (high - low)
        sides = []
        for index, sign in ((pair, 1), (pair + 1, -1)):
            contours = setting.placed_outline(index).flattened(64)
            area = unary_union([Polygon(points).buffer(0) for points, _ in contours])
            edge = np.full(20, -np.inf)
            for row, y in enumerate(rows):
                half = (high - low) / 40
                slab = area.intersection(box(-1e4, y - half, 1e4, y + half))
                if not slab.is_empty:
                    edge[row] = slab.bounds[2] if sign > 0 else -slab.bounds[0]
            eased = np.array([(edge - abs(rows - y)).max() for y in rows])
            sides.append(sign * (eased.max() - c * (1 - np.exp(-(eased.max() - eased) / c))))
        white = sides[1] - sides[0]
        white = white.min() + c * (1 - np.exp(-(white - white.min()) / c))
        return float(1 / np.mean(1 / (white + e)) - e)

    def test_a_letter_turned_and_moved_by_hand(self) -> None:
        hand = [{"letter": 1, "turn": 25, "across": 1.5, "along": 2}, {"letter": 3, "turn": -40}]
        found = line(LINE, text="QUILL", hand=hand, hand_words="QUILL")
        plain = line(LINE, text="QUILL").gaps.found
        for pair in range(4):
            wanted = self.slow(found, pair, 0, found.capital)
            self.assertAlmostEqual(found.gaps.found[pair], wanted, delta=1e-3)
        self.assertGreater(np.abs(found.gaps.found - plain).min(), 0.01)

    def test_stacked_letters_are_measured_from_foot_to_head(self) -> None:
        """Flat letters: the white between them is the distance of their areas."""
        found = line({"kind": "line", "length": 200, "turned": -90}, text="HEH", shape="stacked")
        areas = [
            unary_union(
                [Polygon(points).buffer(0) for points, _ in found.placed_outline(i).flattened(8)]
            )
            for i in range(3)
        ]
        straight = [areas[i].distance(areas[i + 1]) for i in range(2)]
        self.assertAlmostEqual(found.gaps.found[1], straight[1], delta=0.35 * straight[1])
        self.assertTrue((found.gaps.found >= np.array(straight) - 1e-6).all())
        np.testing.assert_allclose(found.gaps.designed, found.gaps.found.mean())

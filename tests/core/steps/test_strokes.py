"""Hatching, rings and middle lines, looked at on a raster as a pen would draw them."""

from __future__ import annotations

import unittest

import numpy as np
import shapely
from shapely.geometry import LineString, MultiLineString

from tests.areas import polygons_of, word
from ulvent.core.outlines import Polyline
from ulvent.core.shapes import Region, refitted_lines
from ulvent.core.steps.hatching import hatched, rings_until_full
from ulvent.core.steps.middle_lines import middle_line
from ulvent.shipped_faces import shipped_face


def letters(face: str, text: str, height: float = 20.0) -> list[Region]:
    return [Region.of(letter) for letter in word(shipped_face(face), text, height)]


def drawn(lines: list[Polyline], pen: float) -> shapely.Geometry:
    shapes = [LineString(np.vstack([p, p[:1]]) if closed else p) for p, closed in lines]
    return MultiLineString(shapes).buffer(pen / 2.0)


def covered(lines: list[Polyline], pen: float, region: Region) -> tuple[float, float]:
    """Shares of a region that the pen covers, and of what it covers that is outside."""
    polygons, ink = polygons_of(region), drawn(lines, pen)
    return (
        ink.intersection(polygons).area / polygons.area,
        ink.difference(polygons).area / polygons.area,
    )


class Hatching(unittest.TestCase):
    def test_with_their_outline_lines_cover_the_letter(self) -> None:
        for angle in (0.0, 30.0, 45.0, 90.0):
            for region in letters("zilla-slab-semibold", "Rg&"):
                lines = hatched(region, 0.4, angle, 0.45)
                lines += [(ring, True) for ring in region.offset(-0.225).rings]
                inside, outside = covered(lines, 0.45, region)
                with self.subTest(angle=angle):
                    self.assertGreater(inside, 0.98)
                    self.assertLess(outside, 1e-3)

    def test_a_square_is_hatched_by_as_many_lines_as_fit_at_the_very_pitch(self) -> None:
        (chain,) = hatched(Region.box((0.0, 0.0, 10.0, 10.0)), 1.0, 0.0, 0.0)
        points, closed = chain
        self.assertFalse(closed)
        levels = np.unique(np.round(points[:, 1], 6))
        self.assertEqual(levels.tolist(), [0.5 + k for k in range(10)])

    def test_links_run_along_the_outline_and_not_across(self) -> None:
        (o,) = letters("lato-bold", "O")
        hull = polygons_of(o.offset(1e-4))
        for points, _ in hatched(o, 0.8, 20.0, 0.0):
            self.assertTrue(hull.covers(LineString(points)))

    def test_the_total_length_is_the_area_by_the_pitch(self) -> None:
        """Each line stands for a strip a pitch wide: area / pitch, as thin strips get thin."""
        (region,) = letters("archivo-black", "S")
        lines = hatched(region, 0.05, 0.0, 0.0)
        along = sum(
            float(np.abs(np.diff(p[:, 0]))[np.abs(np.diff(p[:, 1])) < 1e-9].sum()) for p, _ in lines
        )
        self.assertAlmostEqual(along * 0.05 / region.area, 1.0, delta=0.01)


class Rings(unittest.TestCase):
    def test_rings_fill_the_letter_and_stay_inside(self) -> None:
        for region in letters("lato-bold", "aQ"):
            lines = rings_until_full(region, 0.3, 0.3)
            inside, outside = covered(lines, 0.32, region)
            self.assertGreater(inside, 0.96)
            self.assertLess(outside, 0.02)


class MiddleLines(unittest.TestCase):
    def test_a_bars_middle_line_is_its_middle(self) -> None:
        found = middle_line(Region.box((0.0, 0.0, 40.0, 4.0)))
        self.assertAlmostEqual(found.width, 4.0, delta=0.05)
        ((points, closed),) = found.lines
        self.assertFalse(closed)
        self.assertLess(np.abs(points[:, 1] - 2.0).max(), 0.02)
        self.assertGreater(np.ptp(points[:, 0]), 34.0)

    def test_a_rings_middle_line_is_a_closed_circle(self) -> None:
        ring = Region.disc(np.zeros(2), 30.0).minus(Region.disc(np.zeros(2), 24.0))
        ((points, closed),) = middle_line(ring).lines
        self.assertTrue(closed)
        self.assertLess(np.abs(np.hypot(*points.T) - 13.5).max(), 0.02)

    def test_a_monoline_face_is_covered_and_a_heavy_one_is_said_to_be_a_poor_fit(self) -> None:
        light = [middle_line(region).cover for region in letters("lato-regular", "Quill")]
        self.assertGreater(min(light), 0.85)
        heavy = [middle_line(region).cover for region in letters("alfa-slab-one", "gKB")]
        self.assertLess(min(heavy), 0.85)

    def test_every_stroke_stays_inside_its_letter_also_when_fitted(self) -> None:
        for region in letters("eb-garamond", "Rg&"):
            found = middle_line(region)
            polygons = polygons_of(region.offset(0.05))
            for outline in refitted_lines(found.lines, 0.02):
                for points, _ in outline.flattened(20):
                    self.assertTrue(polygons.covers(LineString(points)))

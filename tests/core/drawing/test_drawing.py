"""What is drawn over a piece: strips, dimensions, measures, bands, endings, judged gaps."""

from __future__ import annotations

import math
import unittest
from typing import Any

import numpy as np
import shapely

from tests import zoo
from tests.makings import LINE, RING, document, laid, line, with_lettering
from ulvent.core.drawing.bands import bands
from ulvent.core.drawing.dimensions import dimensions
from ulvent.core.drawing.endings import ending
from ulvent.core.drawing.judged_gaps import JudgedGaps, judged
from ulvent.core.drawing.measured_marks import measured
from ulvent.core.drawing.strip import StripGap, StripLettering, pull_straight
from ulvent.core.drawing.tight_lines import tight_lines
from ulvent.core.layout import lay_out
from ulvent.core.recipe import parse_piece
from ulvent.demo import barrel_head, demo_pieces
from ulvent.shipped_faces import shipped_face


def on_nothing(*guides: dict[str, Any]) -> dict[str, Any]:
    return document(guides=list(guides), letterings=[])


class Strips(unittest.TestCase):
    def test_letters_stand_at_their_feet_as_wide_as_the_guide_under_them(self) -> None:
        layout = laid(with_lettering(standoff=12, at=200))
        strip = pull_straight(layout, layout.guides[0], against=False)
        line, setting = strip.letterings[0], layout.settings[0]
        # A ring of 132 pulled down on one of 120: widths shrink by that, heights stay.
        np.testing.assert_allclose(line.matrices[:, 0, 0], setting.scale * 120 / 132)
        np.testing.assert_allclose(line.matrices[:, 1, 1], setting.scale)
        np.testing.assert_allclose(line.matrices[:, 1, 2], 12)
        middles = line.matrices[:, 0, 2] + setting.advances / 2 * 120 / 132
        np.testing.assert_allclose(middles, setting.feet)

    def test_turned_so_that_a_line_against_the_guide_reads(self) -> None:
        layout = laid(with_lettering(reading="against", at=300))
        strip = pull_straight(layout, layout.guides[0], against=True)
        starts = strip.letterings[0].matrices[:, 0, 2]
        self.assertTrue((np.diff(starts) > 0).all())
        self.assertTrue(strip.letterings[0].upright)
        other = pull_straight(layout, layout.guides[0], against=False)
        self.assertFalse(other.letterings[0].upright)

    def test_what_is_free_and_what_is_taken_make_the_whole(self) -> None:
        layout = lay_out(barrel_head(), shipped_face)
        for against in (False, True):
            strip = pull_straight(layout, layout.guides[0], against)
            free = sum(end - begin for begin, end in strip.free)
            taken = sum(
                s.length * layout.guides[0].curve.length / s.baseline.length
                for s in layout.settings
            )
            self.assertAlmostEqual(free + taken, strip.guide.curve.length)


class Dimensions(unittest.TestCase):
    def test_each_is_as_long_on_the_drawing_as_it_says(self) -> None:
        """Those with a line: what the figure says is how far apart its ends are."""
        pieces = demo_pieces()
        pieces += [parse_piece(document(guides=[{"id": "rim", **recipe}]))
                   for recipe in zoo.RECIPES.values()]  # fmt: skip
        seen: set[str] = set()
        for piece in pieces:
            for found in dimensions(lay_out(piece, shipped_face)):
                drawn = float(np.hypot(*np.subtract(found.end, found.start)))
                if drawn and found.unit == "mm":
                    seen.add(found.field)
                    with self.subTest(f"{piece.title} {found.owner} {found.field}"):
                        self.assertAlmostEqual(drawn, abs(found.value))
        self.assertLessEqual(
            {"diameter", "height", "rise", "chord", "outer", "radius", "distance"}, seen
        )

    def test_a_placed_guide_carries_its_dimensions_along(self) -> None:
        piece = document(guides=[{"id": "rim", **zoo.RECIPES["arch"], "turned": 90,
                                  "centre": [10, 20], "scaled": 2}])  # fmt: skip
        rise = next(d for d in dimensions(laid(piece)) if d.field == "rise")
        np.testing.assert_allclose([rise.start, rise.end], [(10, 20), (-50, 20)], atol=1e-9)


class Measuring(unittest.TestCase):
    def test_length_chord_and_radius(self) -> None:
        (ring,) = laid(
            on_nothing({"id": "g", "kind": "circle", "diameter": 100, "start": 0})
        ).guides
        quarter = math.pi * 25
        found = measured(ring, (0.0, quarter))
        self.assertAlmostEqual(found.length, quarter)
        self.assertAlmostEqual(found.chord, 50 * math.sqrt(2))
        self.assertAlmostEqual(found.radius, 50)
        self.assertIn("chord 70.711 mm", found.text)

    def test_from_points_and_past_the_seam(self) -> None:
        (ring,) = laid(
            on_nothing({"id": "g", "kind": "circle", "diameter": 100, "start": 90})
        ).guides
        found = measured(ring, ((-80.0, 0.0), (80.0, 0.0)))
        self.assertAlmostEqual(found.length, math.pi * 50)
        self.assertIsNone(measured(laid(on_nothing(
            {"id": "g", "kind": "line", "length": 9})).guides[0], (3.0,)).radius)  # fmt: skip


class FilledStrip(unittest.TestCase):
    def test_a_filled_shape_lies_line_by_line_as_it_stands(self) -> None:
        words = {"id": "t", "guide": "rim", "text": "pears and plums ", "face": "lato-bold",
                 "height": 9, "fill": {"again": True}}  # fmt: skip
        layout = laid(document(letterings=[words]))
        strip = pull_straight(layout, layout.guides[0], against=False)
        self.assertTrue(strip.filled)
        self.assertEqual(len(strip.letterings), len(layout.settings))
        self.assertGreater(len(strip.letterings), 8)
        # From letter to letter it is as far as on the drawing, and from the leftmost as well.
        lefts = [row.setting.poses.feet[:, 0].min() for row in strip.letterings]
        for row in strip.letterings:
            feet = row.setting.poses.feet[:, 0]
            middles = (np.array(row.starts) + np.array(row.ends)) / 2.0
            np.testing.assert_allclose(np.diff(middles), np.diff(feet), atol=1e-6)
            np.testing.assert_allclose(middles - middles.min(), feet - feet.min(), atol=1e-6)
        offs = [np.array(row.starts).min() for row in strip.letterings]
        np.testing.assert_allclose(np.diff(offs), np.diff(lefts), atol=4.0)
        rows = [row.foot for row in strip.letterings]
        self.assertTrue((np.diff(rows) > 0.0).all())


class Bands(unittest.TestCase):
    def test_on_a_ring_they_are_parts_of_an_annulus(self) -> None:
        found = line(RING, text="QUILLMERE ORCHARD", height=12)
        (band,) = bands(found)
        margin = 0.15 * found.capital
        angle = (found.end - found.start + 2 * margin) / 100
        expected = angle / 2 * (112**2 - 100**2)
        area = shapely.Polygon(band).area
        self.assertAlmostEqual(area / expected, 1.0, delta=0.002)

    def test_every_letter_stands_in_its_band(self) -> None:
        upright = {"kind": "line", "length": 300, "turned": -90}
        for guide, changes in (
            (RING, {}), (RING, {"shape": "stacked"}), (upright, {"shape": "stacked-upright"}),
            (RING, {"end_height": 5}), (RING, {"repeat": {"times": 3}}),
        ):  # fmt: skip
            with self.subTest(changes):
                found = line(guide, text="HALMI", height=12, **changes)
                # A band may cross itself: what it goes round is what its edges enclose.
                edges = shapely.union_all([shapely.LinearRing(band) for band in bands(found)])
                whole = shapely.union_all(shapely.get_parts(shapely.polygonize([edges])))
                for index in range(len(found.clusters)):
                    points = found.placed_outline(index).points
                    inside = shapely.contains(whole.buffer(0.5), shapely.points(points))
                    self.assertGreater(inside.mean(), 0.9)


class Endings(unittest.TestCase):
    def test_what_is_left_after_the_words(self) -> None:
        found = line({"kind": "line", "length": 400}, text="PRESS", height=20, align="start", at=30)
        length = sum(c.advance for c in found.face.shape("PRESS").clusters) * found.scale
        last = ending(found)
        self.assertAlmostEqual(last.left, 400 - 30 - length)
        np.testing.assert_allclose(last.at, (-200 + 30 + length, 0), atol=1e-9)

    def test_closed_guides_and_dials_have_none(self) -> None:
        self.assertIsNone(ending(line(RING)))
        dial = {"labels": {"kind": "figures", "first": 1, "last": 4}, "divisions": 4}
        self.assertIsNone(ending(line(LINE, text="", dial=dial)))


class JudgedShares(unittest.TestCase):
    def judged(self, *gaps: tuple[float, float, bool]) -> JudgedGaps:
        """Gaps as found and designed, and whether they are held apart."""
        made = tuple(
            StripGap(float(x), x, found, designed, held)
            for x, (found, designed, held) in enumerate(gaps)
        )
        return judged(StripLettering(line(RING), np.empty((0, 2, 3)), True, made, [], [], False))

    def test_the_middle_share_is_usual_and_what_differs_stands_out(self) -> None:
        found = self.judged((2.2, 2.0, False), (3.3, 3.0, False), (1.5, 1.0, False))
        np.testing.assert_allclose([found.usual, found.spread], [1.1, 1.5 / 1.1 - 1.0])
        self.assertEqual(found.worst, [2])
        np.testing.assert_allclose(found.excess, [0.0, 0.0, 0.4], atol=1e-12)

    def test_what_is_held_apart_is_no_unevenness(self) -> None:
        found = self.judged((2.0, 2.0, False), (2.0, 2.0, False), (3.0, 1.0, True))
        self.assertEqual((found.worst, found.spread, found.held_apart), ([], 0.0, 1))

    def test_of_designed_overlaps_the_difference_counts(self) -> None:
        found = self.judged((-0.2, -0.3, False))
        self.assertAlmostEqual(found.share[0], 1.1)


class TightLines(unittest.TestCase):
    def test_where_the_guide_bends_more_than_letters_can_follow(self) -> None:
        """Heads inward on a ring as wide as the letters are high have no room."""
        tight = {"kind": "circle", "diameter": 20, "turn": "counterclockwise"}
        found = line(tight, text="HI", height=12)
        (stretch,) = tight_lines(found.guide, [found])
        np.testing.assert_allclose(np.hypot(*stretch.T), 10)
        self.assertEqual(len(tight_lines(found.guide, [line(RING)])), 0)


if __name__ == "__main__":
    unittest.main()

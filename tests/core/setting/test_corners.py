"""Lettering at corners, and where a guide is too tight for its letters."""

from __future__ import annotations

import unittest

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.makings import document, found_in
from ulvent.core.drawing.strip import pull_straight
from ulvent.core.layout import Layout, lay_out
from ulvent.core.recipe import parse_piece
from ulvent.core.setting import Setting, tight_stretches
from ulvent.shipped_faces import shipped_face

WORDS = "GINGER BISCUITS BAKED ON FRIDAY"


def laid(guide: dict[str, object], **lettering: object) -> Layout:
    base = {"id": "name", "guide": "rim", "text": WORDS, "face": "lato-bold", "height": 9}
    return lay_out(
        parse_piece(document(guides=[{"id": "rim", **guide}], letterings=[{**base, **lettering}])),
        shipped_face,
    )


RECTANGLE = {"kind": "rectangle", "width": 120, "height": 80}


def reaches_over(setting: Setting, corners: list[float]) -> list[float]:
    """By how much each corner lies inside the advance of a letter, mm."""
    begins = setting.baseline.foot(setting.middles - setting.advances / 2)
    ends = setting.baseline.foot(setting.middles + setting.advances / 2)
    length = setting.guide.length
    return [
        min(corner + lap * length - begin, end - corner - lap * length)
        for corner in corners
        for lap in (-1, 0, 1)
        for begin, end in zip(begins, ends, strict=True)
        if begin + 1e-6 < corner + lap * length < end - 1e-6
    ]


class Corners(unittest.TestCase):
    def test_a_rectangle_keeps_whole_letters_off_unless_told(self) -> None:
        kept = laid(RECTANGLE).settings[0]
        corners = kept.guide.corners.stations.tolist()
        self.assertEqual(reaches_over(kept, corners), [])
        passing = laid({**RECTANGLE, "corners": "pass"}).settings[0]
        self.assertNotEqual(reaches_over(passing, corners), [])

    @settings(max_examples=40)
    @given(st.floats(0, 400), st.sampled_from(["start", "centre", "end"]),
           st.sampled_from(["along", "against"]),
           st.sampled_from(["baseline", "middle", "capital"]),
           st.floats(-6, 6))  # fmt: skip
    def test_no_letters_run_into_each_other_at_a_corner(
        self, at: float, align: str, reading: str, touch: str, standoff: float
    ) -> None:
        setting = laid(
            RECTANGLE, at=at, align=align, reading=reading, touch=touch, standoff=standoff,
            text="HIN HIN HIN HIN HIN", tracking=0.5,
        ).settings[0]  # fmt: skip
        shapes = [
            shapely.Polygon(setting.placed_outline(index).polylines[0][0])
            for index in range(len(setting.clusters))
        ]
        for one, other in zip(shapes[:-1], shapes[1:], strict=True):
            self.assertFalse(one.overlaps(other))

    def test_what_holds_it_stays_where_it_is(self) -> None:
        setting = laid(RECTANGLE, at=100, align="start", text="ABC").settings[0]
        self.assertAlmostEqual(setting.start, 100, places=6)

    def test_rounded_letters_follow_the_arc(self) -> None:
        rounded = laid({**RECTANGLE, "corners": "round", "corner_radius": 14}).settings[0]
        self.assertEqual(len(rounded.guide.corners.stations), 0)
        soft = laid({**RECTANGLE, "radius": 14}).settings[0]
        np.testing.assert_allclose(rounded.matrices, soft.matrices, atol=1e-9)

    def test_a_polyline_that_stands_for_a_curve_has_no_corners_for_letters(self) -> None:
        t = np.linspace(0, np.pi, 400)
        data = "M" + "L".join(
            f"{x:.4f} {y:.4f}" for x, y in zip(-60 * np.cos(t), 60 * np.sin(t), strict=True)
        )
        passing = laid({"kind": "path", "d": data}).settings[0]
        kept = laid({"kind": "path", "d": data, "corners": "keep-off"}).settings[0]
        np.testing.assert_array_equal(passing.matrices, kept.matrices)

    def test_the_strip_shows_them(self) -> None:
        layout = laid(RECTANGLE)
        strip = pull_straight(layout, layout.guides[0], against=False)
        np.testing.assert_allclose(strip.corners, [40, 160, 240, 360])
        turned = pull_straight(layout, layout.guides[0], against=True)
        np.testing.assert_allclose(turned.corners, [360, 240, 160, 40])


class TightBends(unittest.TestCase):
    def test_a_bend_toward_the_heads_that_is_tighter_than_they_are_high(self) -> None:
        hollow = laid({"kind": "arc", "radius": 30, "angle": 120}, reading="against", height=31,
                      text="I")  # fmt: skip
        (finding,) = [f for f in found_in(hollow) if f.kind == "tight-bend"]
        self.assertEqual(finding.severity, "warning")
        self.assertAlmostEqual(finding.figure, 30)
        enough = laid({"kind": "arc", "radius": 30, "angle": 120}, reading="against", height=29,
                      text="I")  # fmt: skip
        self.assertEqual([f for f in found_in(enough) if f.kind == "tight-bend"], [])

    def test_a_ring_that_words_go_round_many_times_is_tight_once(self) -> None:
        """Also where its baseline is a mere speck, and the words go round it without end."""
        for standoff in (0, 1.9999999):
            ring = {"kind": "circle", "diameter": 4, "turn": "counterclockwise"}
            layout = laid(ring, text="QUILLMERE ORCHARD", height=6, standoff=standoff)
            (stretch,) = tight_stretches(layout.settings[0])
            self.assertLessEqual(stretch.end - stretch.begin, layout.guides[0].curve.length + 1e-9)

    def test_only_under_the_lettering(self) -> None:
        path = {"kind": "path", "d": "M0 0L80 0A4 4 0 0 1 80 8L0 8"}
        self.assertEqual(
            [f for f in found_in(laid(path, text="A", at=2)) if f.kind == "tight-bend"], []
        )
        found = found_in(laid(path, text="A", at=82, height=20))
        self.assertEqual([f.kind for f in found if f.severity == "warning"], ["tight-bend"])

    def test_lettering_on_a_bend_too_tight_for_its_baseline_still_stands(self) -> None:
        """The baseline's loop is cut off; the piece can still be laid out, and says so."""
        tight = {
            "kind": "drawn",
            "nodes": [{"at": a} for a in ([0, 0], [40, 16], [58, -14], [100, 0])],
        }
        layout = laid(tight, touch="capital", standoff=-4, height=14, text="ORCHARD")
        self.assertTrue(np.isfinite(layout.settings[0].matrices).all())
        self.assertIn("tight-bend", [finding.kind for finding in found_in(layout)])


if __name__ == "__main__":
    unittest.main()

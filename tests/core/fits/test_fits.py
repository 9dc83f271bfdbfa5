"""Fits: one figure solved from one condition, exactly, or a clear answer why not."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.makings import ELLIPSE, LINE, RING, SPIRAL, found_in, laid_out, line, lines
from ulvent.core.base.errors import PieceError
from ulvent.core.setting import Setting
from ulvent.core.setting.gaps.gap import GapMeter
from ulvent.shipped_faces import shipped_face

ARCH = {"kind": "arch", "chord": 180, "rise": 40}
SHORT = {"kind": "line", "length": 150}
EXACT = 1e-6


def fit(kind: str, **fields: Any) -> dict[str, Any]:
    return {"fit": {"kind": kind, **fields}}


class Heights(unittest.TestCase):
    def test_on_the_straight_it_is_the_plain_division(self) -> None:
        """Advances grow with the height: h = L / advances of a height of 1."""
        face = shipped_face("lato-bold")
        advances = sum(c.advance for c in face.shape("QUILLMERE").clusters)
        found = line(SHORT, **fit("height"))
        self.assertAlmostEqual(found.lettering.height,
                               150 / advances * face.metrics.cap_height, delta=EXACT)  # fmt: skip

    def test_words_fill_the_room_exactly(self) -> None:
        for guide in (ARCH, RING, ELLIPSE, SPIRAL):
            for changes in ({}, {"spacing": "even"}, {"touch": "capital"}, {"tracking": 1.5},
                            {"reading": "against", "standoff": 3}):  # fmt: skip
                with self.subTest(f"{guide['kind']} {changes}"):
                    found = line(guide, text="PRESSED BY HAND", **changes, **fit("height"))
                    # Letters that hang into a spiral are stopped by its middle first.
                    if not (guide is SPIRAL and "touch" in changes):
                        apart = found.baseline.length - found.length
                        self.assertAlmostEqual(apart, 0.0, delta=EXACT)
                    self.assertGreaterEqual(found.room, 0.0)
                    self.assertTrue(found.has_room.all())

    def test_margins_stay_free(self) -> None:
        found = line(SHORT, **fit("height", margin=12))
        self.assertAlmostEqual(found.start, 12, delta=EXACT)
        self.assertAlmostEqual(found.end, 138, delta=EXACT)

    def test_the_fullest_line_decides_and_ratios_stay(self) -> None:
        own = [{}, {"height": 6}]
        found = lines(SHORT, text="ORCHARD\nPLEASE SHUT THE GATE", lines=own, **fit("height"))
        self.assertAlmostEqual(min(one.room for one in found), 0.0, delta=EXACT)
        self.assertAlmostEqual(found[1].scale / found[0].scale, 0.5)
        grown = line(SHORT, end_height=24, **fit("height"))
        self.assertAlmostEqual(grown.lettering.end_height / grown.lettering.height, 2.0)

    @settings(max_examples=25)
    @given(st.floats(40, 2000), st.floats(1, 60))
    def test_it_does_not_depend_on_the_height_it_starts_from(
        self, length: float, height: float
    ) -> None:
        guide = {"kind": "line", "length": length}
        one, two = (line(guide, height=start, **fit("height")) for start in (height, 10.0))
        self.assertAlmostEqual(one.lettering.height, two.lettering.height, delta=EXACT)

    def test_bounds_are_kept_and_said(self) -> None:
        most = line(SHORT, **fit("height", most=9))
        self.assertEqual(most.lettering.height, 9)
        layout = laid_out(SHORT, text="QUILLMERE ORCHARD FAIR", **fit("height", least=20))
        (finding,) = found_in(layout)
        self.assertEqual((finding.kind, finding.severity), ("fit", "fault"))
        self.assertIn("less than 20 mm", finding.message)


class Gaps(unittest.TestCase):
    def over_seam(self, found: Setting) -> tuple[float, float]:
        """The gap over the seam, and what it would be on the straight at the same tracking."""
        ends = [len(found.clusters) - 1, 0]
        meter = GapMeter(found.face, tuple(found.clusters[e] for e in ends), found.scales[ends])
        middles = found.middles[ends] + np.array([0.0, found.baseline.length])
        gap = meter.on_curve(middles, found.baseline.frames(middles))[0]
        starts = np.array([0.0, found.widths[-1] + found.lettering.tracking])
        return float(gap), float(meter.on_straight(starts)[0])

    def test_words_fill_an_open_guide(self) -> None:
        for guide in (SHORT, ARCH, SPIRAL):
            for spacing in ("font", "even"):
                with self.subTest(f"{guide['kind']} {spacing}"):
                    found = line(guide, text="OPEN DAY", spacing=spacing, **fit("gap", margin=4))
                    self.assertAlmostEqual(found.start, 4, delta=EXACT)
                    self.assertAlmostEqual(found.end, found.baseline.length - 4, delta=EXACT)

    def test_on_a_ring_the_seam_is_a_gap_like_the_others(self) -> None:
        for guide in (RING, ELLIPSE):
            own = line(guide, text="ORCHARD", **fit("gap"))
            seam = own.baseline.length - own.length
            self.assertAlmostEqual(seam, own.lettering.tracking, delta=EXACT)
            even = line(guide, text="ORCHARD", spacing="even", **fit("gap"))
            gap, wanted = self.over_seam(even)
            self.assertAlmostEqual(gap, wanted, delta=EXACT)
            solved = np.isfinite(even.targets)
            np.testing.assert_allclose(even.gaps.found[solved], even.targets[solved], atol=EXACT)

    def test_what_cannot_be_filled_is_said_with_its_figure(self) -> None:
        layout = laid_out({"kind": "line", "length": 20}, **fit("gap"))
        found = {finding.kind: finding for finding in found_in(layout)}
        self.assertIn("too long even when they are pushed together", found["fit"].message)
        one = laid_out(LINE, text="A", **fit("gap"))
        self.assertIn("no gap", found_in(one)[0].message)
        wide = laid_out(LINE, text="QUILL", **fit("gap", most=5))
        self.assertIn("more than 5 mm", found_in(wide)[0].message)


class Seams(unittest.TestCase):
    """Where words that fill a ring meet again there is a gap of its own, whatever is typed."""

    TEXT = "OLD BARN LOW"

    def filled(self, seam: str, spacing: str = "font", text: str = TEXT, **fit: Any) -> Setting:
        return line(RING, text=text, height=9, spacing=spacing, at=30,
                    fit={"kind": "gap", "seam": seam, **fit})  # fmt: skip

    def white(self, found: Setting, first: int, second: int, laps: int = 0) -> float:
        """From the end of one letter's advance to the beginning of another's, mm."""
        ends = found.middles + found.widths / 2.0
        begins = found.middles - found.widths / 2.0 + laps * found.baseline.length
        return float(begins[second] - ends[first])

    def test_a_word_gap_is_that_of_the_words(self) -> None:
        found = self.filled("word")
        self.assertEqual("".join(one.text for one in found.clusters), "OLDBARNLOW")
        over = self.white(found, 9, 0, laps=1)
        self.assertAlmostEqual(over, self.white(found, 2, 3), delta=EXACT)
        self.assertAlmostEqual(over, self.white(found, 6, 7), delta=EXACT)
        letter = self.filled("letter")
        self.assertAlmostEqual(self.white(letter, 9, 0, laps=1), letter.lettering.tracking,
                               delta=EXACT)  # fmt: skip

    def test_with_even_gaps_it_is_what_it_would_be_on_the_straight(self) -> None:
        """Twice round, as three repeats of the words on the straight have it in their middle."""
        for spacing in ("even", "same"):
            with self.subTest(spacing):
                found = self.filled("word", spacing)
                tracking = found.lettering.tracking
                thrice = line(LINE, text=" ".join([self.TEXT] * 3), height=9, spacing=spacing,
                              tracking=tracking, at=300)  # fmt: skip
                ends = np.array([9, 0])
                meter = GapMeter(found.face, tuple(found.clusters[e] for e in ends),
                                 found.scales[ends])  # fmt: skip
                middles = found.middles[ends] + np.array([0.0, found.baseline.length])
                over = meter.on_curve(middles, found.baseline.frames(middles))[0]
                self.assertAlmostEqual(over, thrice.gaps.found[9], delta=1e-6)

    def test_a_space_at_the_end_changes_nothing(self) -> None:
        for spacing in ("font", "even", "same"):
            for seam in ("letter", "word"):
                with self.subTest(spacing=spacing, seam=seam):
                    plain = self.filled(seam, spacing)
                    spaced = self.filled(seam, spacing, self.TEXT + "  ")
                    np.testing.assert_allclose(spaced.middles, plain.middles, atol=1e-9)
                    assert spaced.fitted is not None
                    self.assertEqual(spaced.fitted.note, "")

    def test_a_mark_stands_in_the_middle_of_the_gap(self) -> None:
        found = self.filled("word", mark={"kind": "dot"})
        self.assertEqual(len(found.clusters), 11)
        before, after = self.white(found, 9, 10), self.white(found, 10, 0, laps=1)
        self.assertAlmostEqual(before, after, delta=EXACT)


class AsData(unittest.TestCase):
    def test_it_is_solved_again_when_the_words_change(self) -> None:
        for text in ("ONE", "ONE MORE", "ONE MORE APPLE"):
            found = line(SHORT, text=text, **fit("height"))
            self.assertAlmostEqual(found.room, 0.0, delta=EXACT)

    def test_what_does_not_go_together_is_refused(self) -> None:
        for kind, wrong in (("gap", {"repeat": {"times": 2}}), ("taper", {"laps": {"pitch": 9}}),
                            ("repeats", {}), ("height", {"with_guide": True}),
                            ("height", {"dial": {"labels": {"kind": "months"}}})):  # fmt: skip
            with self.assertRaises(PieceError) as caught:
                line(RING, **fit(kind), **wrong)
            self.assertEqual(caught.exception.problems[0].field, "letterings[0].fit")
        with self.assertRaisesRegex(PieceError, "fit.least"):
            line(RING, **fit("height", least=9, most=3))

"""Everything that can be said with words on a line, and the laws it obeys."""

from __future__ import annotations

import math
import unittest
from typing import Any

import numpy as np
import roman
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.spatial import cKDTree

from tests.makings import (
    ELLIPSE,
    GROWING,
    LINE,
    RING,
    ROUNDED,
    SPIRAL,
    document,
    joint_gaps,
    laid,
    laid_out,
    line,
    lines,
)
from ulvent.core.acts.pasted_labels import pasted_labels
from ulvent.core.base.errors import PieceError
from ulvent.core.recipe import Names, Numbers
from ulvent.core.recipe.arrangements import LINE_TO_LINE
from ulvent.core.setting import place_map
from ulvent.core.setting.letters.sequences import label_texts, letters
from ulvent.shipped_faces import shipped_face

ALPHABET = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"


class Place(unittest.TestCase):
    def test_named_places_hold_whatever_the_guide_s_start_is(self) -> None:
        for start in (0, 90, 200):
            ring = {**RING, "start": start}
            top = line(ring, text="H", at_in="top", align="centre")
            np.testing.assert_allclose(top.frames.points, [[0, 100]], atol=1e-6)
            bottom = line(ring, text="H", at_in="bottom", align="centre", reading="against")
            np.testing.assert_allclose(bottom.poses.feet, [[0, -100]], atol=1e-6)

    def test_a_named_place_counts_on_in_mm(self) -> None:
        middle = line(LINE, text="H", at_in="middle", at=25, align="centre")
        np.testing.assert_allclose(middle.poses.feet, [[25, 0]], atol=1e-9)
        end = line(LINE, text="H", at_in="end", at=-30, align="end")
        self.assertAlmostEqual(end.end, 1970)

    def test_a_turned_ring_takes_its_letterings_along(self) -> None:
        """By the angle typed, about the ring's centre: against sin and cos."""
        before, after = (line({**RING, "turned": turned}, at=40) for turned in (0, 33))
        angle = math.radians(33)
        turn = np.array([[math.cos(angle), -math.sin(angle)], [math.sin(angle), math.cos(angle)]])
        np.testing.assert_allclose(after.poses.feet, before.poses.feet @ turn.T, atol=1e-9)


class Heights(unittest.TestCase):
    def test_each_measure_is_what_is_asked(self) -> None:
        """Against the metrics in the file's own tables, read by fontTools."""
        face = shipped_face("lato-bold")
        x = line(LINE, text="x", measured="x-height", height=9).placed_outline(0).bounds()
        self.assertAlmostEqual(x[3], 9, delta=0.1)
        scale = line(LINE, text="x", measured="ascender", height=30).scale
        self.assertAlmostEqual(scale * (face.metrics.ascender - face.metrics.descender), 30)
        em = line(LINE, text="x", measured="type", height=30)
        self.assertAlmostEqual(em.scale * face.metrics.units_per_em, 30)

    def test_width_and_slant_act_on_the_letters_alone(self) -> None:
        plain = line(LINE, text="H").placed_outline(0).bounds()
        wide = line(LINE, text="H", width=1.5).placed_outline(0).bounds()
        self.assertAlmostEqual(wide[2] - wide[0], 1.5 * (plain[2] - plain[0]))
        self.assertAlmostEqual(wide[3], plain[3])
        slanted = line(LINE, text="l", slant=20).placed_outline(0).bounds()
        upright = line(LINE, text="l").placed_outline(0).bounds()
        lean = (slanted[2] - slanted[0]) - (upright[2] - upright[0])
        self.assertAlmostEqual(lean, math.tan(math.radians(20)) * (upright[3] - upright[1]))

    def test_a_mirrored_line_is_the_mirror_image_of_the_plain_one(self) -> None:
        plain = line(LINE, text="Apfel", at_in="middle", align="centre")
        mirrored = line(LINE, text="Apfel", at_in="middle", align="centre", mirrored=True)
        count = len(plain.clusters)
        for index in range(count):
            x0, y0, x1, y1 = plain.placed_outline(index).bounds()
            np.testing.assert_allclose(
                mirrored.placed_outline(count - 1 - index).bounds(), (-x1, y0, -x0, y1), atol=1e-9
            )

    def test_growing_letters_begin_and_end_as_asked_and_grow_evenly(self) -> None:
        found = line(LINE, text="nnnnnnnnnnnn", face="zilla-slab-semibold", end_height=30)
        cap = found.face.metrics.cap_height
        ends = np.stack([found.middles - found.advances / 2, found.middles + found.advances / 2])
        # The letters that are drawn first and last are as high as asked.
        tall = [found.scales[index] * cap for index in (0, -1)]
        np.testing.assert_allclose(tall, [12, 30], rtol=1e-9)
        # Height is linear along the line: an advance of natural width w is the integral.
        widths = found.face.shape("n").clusters[0].advance / cap
        slopes = np.log(ends[1, 1:] / ends[1, :-1])
        middles = ends.mean(axis=0)
        rise = np.polyfit(middles, found.scales * cap, 1)
        np.testing.assert_allclose(np.polyval(rise, middles), found.scales * cap, rtol=1e-6)
        self.assertGreater(slopes.min(), 0.0)
        np.testing.assert_allclose(found.advances / (found.scales * cap), widths, rtol=1e-9)

    def test_letters_keep_their_ratio_to_a_growing_spiral(self) -> None:
        """Height over distance from the centre is the same at every letter."""
        text = "FROM BLOSSOM TO BOUGH TO BASKET"
        for align in ("start", "centre", "end"):
            at = {"start": 10.0, "centre": 250.0, "end": 400.0}[align]
            found = line(GROWING, text=text, height=6, with_guide=True, at=at, align=align)
            ratios = found.scales / np.hypot(*found.frames.points.T)
            np.testing.assert_allclose(ratios / ratios.mean(), 1, atol=2e-3)

    def test_letters_round_a_band_are_as_high_as_it_is_wide_where_they_stand(self) -> None:
        """Its width goes from the front to the back as (1 + cos θ)/2, θ being arc over radius; a
        letter keeps its proportions."""
        band = {"kind": "band", "inner": 38, "width": 22, "back_width": 10, "thickness": 3}
        belt = {"id": "g", "kind": "belt", "girth": 100, "centre": [0, 0]}
        for change in (
            {}, {"align": "centre"}, {"reading": "against"},
            {"spacing": "even", "fit": {"kind": "gap"}},
        ):  # fmt: skip
            lettering = {"id": "t", "guide": "g", "face": "lato-bold", "height": 6,
                         "text": "QUILLMERE ORCHARD", "at": 0.5, "at_in": "share",
                         "with_guide": True} | change  # fmt: skip
            with self.subTest(**change):
                (found,) = laid(
                    document(blank=band, guides=[belt], letterings=[lettering])
                ).settings
                angles = (found.middles - math.pi * 22.0) / 22.0
                widths = 10.0 + 12.0 * (1.0 + np.cos(angles)) / 2.0
                heights = found.scales * found.face.metrics.cap_height
                np.testing.assert_allclose(heights, 6.0 * widths / 22.0, rtol=2e-4)
                self.assertGreater(np.ptp(heights), 1.0)
                wide = np.array([one.advance for one in found.clusters]) * found.scales
                np.testing.assert_allclose(found.advances, wide, rtol=1e-9)
        lettering["with_guide"] = False
        plain = laid(document(blank=band, guides=[belt], letterings=[lettering])).settings[0]
        self.assertEqual(float(np.ptp(plain.scales)), 0.0)

    def test_growing_with_the_guide_needs_a_growing_spiral(self) -> None:
        with self.assertRaisesRegex(PieceError, "growing spiral"):
            lines(SPIRAL, with_guide=True)


class ByHand(unittest.TestCase):
    def test_each_change_does_what_it_says(self) -> None:
        def hand(**nudge: Any) -> Any:
            return line(LINE, hand_words="QUILLMERE", hand=[{"letter": 2, **nudge}])

        plain = line(LINE)
        along = hand(along=0.4).poses.feet - plain.poses.feet
        np.testing.assert_allclose(along, [[0.4 * (i == 2), 0] for i in range(9)], atol=1e-12)
        across = hand(across=1.5).poses.feet - plain.poses.feet
        np.testing.assert_allclose(across, [[0, 1.5 * (i == 2)] for i in range(9)], atol=1e-12)
        opened = hand(gap=2).poses.feet - plain.poses.feet
        np.testing.assert_allclose(opened, [[2.0 * (i > 2), 0] for i in range(9)], atol=1e-12)
        turned = hand(turn=30)
        self.assertAlmostEqual(turned.angles[2], 30)
        np.testing.assert_allclose(np.delete(turned.angles, 2), 0, atol=1e-12)
        middle = turned.poses.feet[2] + turned.poses.ups[2] * 6
        np.testing.assert_allclose(middle, plain.poses.feet[2] + [0, 6], atol=1e-9)
        large = hand(size=1.5)
        self.assertAlmostEqual(large.scales[2], 1.5 * large.scale)
        self.assertAlmostEqual(large.advances[2], 1.5 * plain.advances[2])

    def test_it_survives_a_change_of_face_and_guide(self) -> None:
        for guide in (LINE, RING, SPIRAL):
            for face in ("lato-bold", "eb-garamond", "hershey-sans"):
                common: dict[str, Any] = {"face": face, "hand_words": "QUILLMERE"}
                moved = line(guide, hand=[{"letter": 4, "across": 3}], **common)
                plain = line(guide, **common)
                apart = np.linalg.norm(moved.poses.feet - plain.poses.feet, axis=1)
                np.testing.assert_allclose(apart, [3.0 * (i == 4) for i in range(9)], atol=1e-9)

    @settings(max_examples=200)
    @given(
        st.permutations(list(ALPHABET)).map(lambda found: "".join(found[:12])),
        st.integers(0, 11),
        st.integers(0, 12),
        st.integers(0, 4),
        st.text(alphabet="0123456789 ", max_size=5),
    )
    def test_it_finds_its_letter_when_words_change_elsewhere(
        self, words: str, letter: int, at: int, removed: int, inserted: str
    ) -> None:
        """Whatever is put in or taken out, letters that are still there keep what was done."""
        after = words[:at] + inserted + words[at + removed :]
        found = place_map(words, after)
        if at <= letter < at + removed:
            self.assertNotIn(letter, found)
        else:
            self.assertEqual(after[found[letter]], words[letter])

    def test_a_letter_that_comes_back_has_its_change_again(self) -> None:
        hand: dict[str, Any] = {"hand_words": "QUILL", "hand": [{"letter": 1, "turn": 10}]}
        gone, back = (line(LINE, text=text, **hand) for text in ("QILL", "QUILLMERE"))
        self.assertEqual(np.count_nonzero(gone.angles), 0)
        self.assertAlmostEqual(back.angles[1], 10)

    def test_on_lines_and_laps_letters_are_counted_through_the_whole_words(self) -> None:
        hand: dict[str, Any] = {"hand": [{"letter": 4, "across": 2}], "hand_words": "ABC\nDEF"}
        for guide in (LINE, RING):
            first, second = lines(guide, text="ABC\nDEF", **hand)
            self.assertEqual(first.places.tolist(), [0, 1, 2])
            raised = np.einsum("ni,ni->n", second.poses.feet - second.frames.points,
                               second.frames.normals)  # fmt: skip
            np.testing.assert_allclose(raised, [2, 0, 0], atol=1e-9)


class SeveralLines(unittest.TestCase):
    def test_every_line_is_measured_on_its_own_arc(self) -> None:
        """A line's letters take up their own advances there: nothing is stretched."""
        text = "\n".join(["SEVERAL LINES"] * 3)
        found = lines({"kind": "arch", "chord": 300, "rise": 60}, text=text, at_in="middle",
                      align="centre", line_pitch=25, shape="bent")  # fmt: skip
        self.assertEqual(len(found), 3)
        for number, one in enumerate(found):
            self.assertAlmostEqual(one.baseline.distance, -25.0 * number)
            self.assertAlmostEqual(one.length, found[0].length)
            np.testing.assert_allclose(one.middles - one.start, found[0].middles - found[0].start)

    def test_a_line_may_have_its_own_height_and_alignment(self) -> None:
        own = [{}, {"height": 5, "align": "end"}]
        first, second = lines(LINE, text="ONE\nTWO", at=500, align="start", lines=own)
        self.assertAlmostEqual(second.scale / first.scale, 5 / 12)
        self.assertAlmostEqual(first.start, 500)
        self.assertAlmostEqual(second.end, 500)
        self.assertAlmostEqual(second.baseline.distance, -LINE_TO_LINE * 12)


class RoundAndRound(unittest.TestCase):
    """A repeat is even, the seam included."""

    def test_every_joint_is_the_same_seam_included(self) -> None:
        for name, guide in (("circle", RING), ("ellipse", ELLIPSE), ("rounded", ROUNDED)):
            for separator in (None, {"kind": "leaf", "size": 0.8}, {"kind": "letter", "letter": "&",
                                                                   "size": 1}):  # fmt: skip
                with self.subTest(f"{name}, {separator}"):
                    repeat = {"times": 5, "separator": separator}
                    found = line(guide, text="HONEY", repeat=repeat, at=17)
                    gaps = joint_gaps(found)
                    self.assertEqual(len(gaps), 10 if separator else 5)
                    self.assertLessEqual(np.ptp(gaps), 1e-6)

    @settings(max_examples=25)
    @given(st.integers(2, 9), st.sampled_from(["BEE", "To", "oak leaf"]))
    def test_n_repeats_are_one_turned_n_times(self, times: int, text: str) -> None:
        found = line(RING, text=text, height=6, repeat={"times": times})
        size = len(found.clusters) // times
        first = found.poses.feet[:size]
        for number in range(1, times):
            angle = -2 * math.pi * number / times
            turn = np.array(
                [[math.cos(angle), -math.sin(angle)], [math.sin(angle), math.cos(angle)]]
            )
            mine = found.poses.feet[number * size : (number + 1) * size]
            np.testing.assert_allclose(mine, first @ turn.T, atol=1e-6)

    def test_as_often_as_fits_leaves_no_room_for_one_more(self) -> None:
        found = line(RING, text="HONEY", repeat={"separator": {"kind": "star"}})
        times = len(np.unique(found.runs)) // 2
        self.assertGreaterEqual(found.room, 0)
        (more,) = lines(RING, text="HONEY", repeat={"times": times, "separator": {"kind": "star"}})
        np.testing.assert_allclose(more.middles, found.middles)
        unit = found.length / times
        self.assertLess(found.room, unit + 2 * 0.5 * 12)

    def test_a_ring_of_marks_by_number_and_by_pitch(self) -> None:
        """Chords of 12 dots on a circle, D·sin(180°/N): 0.258819 for D = 1 (machinist's
        table of chords, from memory)."""
        dot = {"kind": "dot"}
        found = line(RING, text="", repeat={"times": 12, "separator": dot})
        chords = np.linalg.norm(np.diff(found.poses.feet, axis=0), axis=1)
        np.testing.assert_allclose(chords, 200 * 0.258819, atol=2e-4)
        by_pitch = line(RING, text="", repeat={"pitch": 10, "separator": dot})
        self.assertEqual(len(by_pitch.clusters), round(math.pi * 200 / 10))
        straight = line({"kind": "line", "length": 95}, text="",
                        repeat={"pitch": 10, "separator": dot}, at=5)  # fmt: skip
        np.testing.assert_allclose(np.diff(straight.middles), 10)

    def test_too_many_repeats_are_an_overflow(self) -> None:
        found = line(RING, text="HONEY", repeat={"times": 40})
        self.assertAlmostEqual(found.room, math.pi * 200 - found.length)
        self.assertLess(found.room, 0)

    def test_marks_stand_at_both_ends(self) -> None:
        found = line(LINE, text="FAIR", ends={"kind": "star"}, at=100)
        self.assertEqual([c.text for c in found.clusters], ["", "F", "A", "I", "R", ""])
        self.assertEqual(found.places.tolist(), [-1, 0, 1, 2, 3, -1])

    def test_a_mark_from_an_outline_keeps_its_hole_and_its_height(self) -> None:
        data = "M0 0H10V10H0ZM3 3V7H7V3Z"
        mark = {"kind": "outline", "d": data, "size": 0.5}
        found = line(LINE, text="A", ends=mark).placed_outline(0)
        self.assertEqual(found.operations.count("M"), 2)
        x0, y0, x1, y1 = found.bounds()
        self.assertAlmostEqual(y1 - y0, 6)
        self.assertAlmostEqual(x1 - x0, 6)
        self.assertAlmostEqual((y0 + y1) / 2, 6)


class InLaps(unittest.TestCase):
    WORDS = "THE APPLES OF THE ORCHARD ARE PRESSED BY HAND IN AUTUMN AND SHARED WITH THE BEES"

    def test_laps_joined_end_to_end_are_as_long_as_the_words(self) -> None:
        for way in ("inward", "outward"):
            found = lines(RING, text=self.WORDS, laps={"pitch": 18, "way": way})
            self.assertGreater(len(found), 1)
            self.assertEqual("".join(one.lettering.text for one in found), self.WORDS)
            whole = line({"kind": "line", "length": 5000}, text=self.WORDS)
            # A break parts two letters that may have been kerned across its space.
            self.assertAlmostEqual(sum(one.length for one in found), whole.length, delta=0.2)
            for number, one in enumerate(found):
                self.assertGreaterEqual(one.room, 0)
                radius = 100 + 18 * number * (1 if way == "outward" else -1)
                np.testing.assert_allclose(np.hypot(*one.poses.feet.T), radius)

    def test_laps_of_a_line_that_reads_against_go_the_way_they_say(self) -> None:
        found = lines(
            RING, text=self.WORDS, reading="against", laps={"pitch": 18, "way": "outward"}
        )
        np.testing.assert_allclose(np.hypot(*found[1].poses.feet.T), 118)

    def test_where_there_is_no_further_lap_it_is_said(self) -> None:
        found = lines({"kind": "circle", "diameter": 50}, text=self.WORDS, laps={"pitch": 15})
        self.assertEqual("".join(one.lettering.text for one in found), self.WORDS)
        self.assertLess(min(one.room for one in found), 0)


class Dials(unittest.TestCase):
    def dial(self, guide: dict[str, Any] = RING, dial: Any = None, **changes: Any) -> Any:
        usual = {"labels": {"kind": "figures", "first": 1, "last": 12}, "divisions": 12}
        return line(guide, text="", dial={**usual, **(dial or {})}, **changes)

    def middles_of(self, found: Any) -> np.ndarray:
        """The middle of each label's advances, at half the height of a capital."""
        points = []
        for run in np.unique(found.runs):
            mine = np.flatnonzero(found.runs == run)
            half = (found.poses.rights * (found.widths / 2)[:, None])[mine]
            ends = found.poses.feet[mine]
            middle = (ends[0] - half[0] + ends[-1] + half[-1]) / 2
            points.append(middle + found.poses.ups[mine[0]] * found.capital / 2)
        return np.array(points)

    def test_labels_stand_at_sine_and_cosine(self) -> None:
        """A dial of 12 on a 200 mm disc with figures 15 mm high: common practice, no source."""
        for count in (7, 12, 60):
            labels = {"kind": "figures", "first": 1, "last": count}
            for stand in ("on-guide", "upright"):
                dial = {"labels": labels, "divisions": count, "stand": stand, "curved": False}
                found = self.dial(dial=dial, height=15 if count < 60 else 3)
                radius = 100 + found.capital / 2
                turns = math.pi / 2 - 2 * math.pi * np.arange(count) / count
                expected = radius * np.stack([np.cos(turns), np.sin(turns)], axis=1)
                np.testing.assert_allclose(self.middles_of(found), expected, atol=1e-9)

    def test_their_chords_are_those_of_the_table(self) -> None:
        """Chords for D = 1 at N = 7 and 9: 0.433884, 0.342020 (machinist's table, from memory)."""
        for count, chord in ((7, 0.433884), (9, 0.342020)):
            labels = {"kind": "letters", "last": count}
            found = self.dial(dial={"labels": labels, "divisions": count, "stand": "upright"},
                              touch="middle", standoff=0)  # fmt: skip
            apart = np.linalg.norm(np.diff(self.middles_of(found), axis=0), axis=1)
            np.testing.assert_allclose(apart, 200 * chord, atol=2e-4)

    def test_labels_turn_as_asked(self) -> None:
        angles = {
            stand: self.dial(dial={"stand": stand}, at=math.pi * 50).angles[0]
            for stand in ("on-guide", "upright", "away", "toward")
        }
        # A quarter round a clockwise ring that starts at the top: the right-hand side.
        self.assertAlmostEqual(angles["upright"], 0)
        self.assertAlmostEqual(angles["away"], 0)
        self.assertAlmostEqual(abs(angles["toward"]), 180)
        self.assertAlmostEqual(angles["on-guide"], -90, delta=5)

    def test_one_label_is_changed_and_the_others_stay(self) -> None:
        plain = self.dial()
        changes = [{"label": 5, "text": "VI", "height": 20, "across": 4, "turn": 15}]
        changed = self.dial(dial={"changes": changes})
        self.assertEqual(changed.labels[5].text, "VI")
        kept, same = (np.isin(one.runs, [0, 1, 2, 3, 4, 6, 7, 8, 9, 10, 11])
                      for one in (plain, changed))  # fmt: skip
        np.testing.assert_allclose(plain.matrices[kept], changed.matrices[same])
        mine = changed.runs == 5
        self.assertAlmostEqual(changed.scales[mine][0] / plain.scale, 20 / 12)
        left_out = self.dial(dial={"changes": [{"label": 0, "hidden": True}]})
        self.assertEqual(left_out.labels[0].text, "2")

    def test_the_way_round_and_the_first_place(self) -> None:
        forward, back = (self.dial(dial={"way": way, "stand": "upright"}) for way in
                         ("along", "against"))  # fmt: skip
        mirrored = self.middles_of(back) * [-1, 1]
        np.testing.assert_allclose(mirrored, self.middles_of(forward), atol=1e-9)

    def test_listed_angles_and_stations(self) -> None:
        labels = {"kind": "list", "words": ["A", "B", "C"]}
        for places, places_in in (((0, 90, 135), "degrees"), ((0, 157.07963, 235.61945), "mm")):
            dial = {"labels": labels, "places": places, "places_in": places_in, "divisions": None,
                    "stand": "upright"}  # fmt: skip
            found = self.middles_of(self.dial(dial=dial))
            turns = np.radians([90, 0, -45])
            expected = 106 * np.stack([np.cos(turns), np.sin(turns)], axis=1)
            np.testing.assert_allclose(found, expected, atol=1e-4)
        with self.assertRaisesRegex(PieceError, "need a circle"):
            self.dial(ELLIPSE, {"labels": labels, "places": (0, 9), "divisions": None})

    def test_ticks_lie_where_they_should(self) -> None:
        ticks = {"major": {"length": 8, "width": 2}, "middle": {"length": 6}, "parts": 10,
                 "minor": {"length": 4}, "side": "inside"}  # fmt: skip
        found = self.dial(dial={"ticks": ticks}).ticks
        self.assertEqual(found.areas.operations.count("M"), 12)
        self.assertEqual(found.strokes.operations.count("M"), 12 * 9)
        radii = np.hypot(*found.strokes.points.T).reshape(-1, 2)
        lengths = np.sort(np.abs(np.diff(radii, axis=1)).ravel())
        np.testing.assert_allclose(lengths[:96], 4)
        np.testing.assert_allclose(lengths[96:], 6)
        np.testing.assert_allclose(radii.max(axis=1), 100)
        corners = np.hypot(*found.areas.points.T)
        np.testing.assert_allclose(np.sort(corners)[-1], math.hypot(100, 1))

    def test_a_ruler_is_a_dial_on_a_straight_guide(self) -> None:
        labels = {"kind": "figures", "first": 0, "step": 10, "unit": " mm"}
        ticks = {"major": {"length": 5}, "minor": {"length": 3}, "parts": 10, "side": "both"}
        dial = {"labels": labels, "divisions": 10, "ticks": ticks}
        found = self.dial({"kind": "line", "length": 100}, dial, height=4)
        self.assertEqual([label.text for label in found.labels][::5], ["0 mm", "50 mm", "100 mm"])
        x = (found.ticks.strokes.points[::2, 0] + 50) % 1.0
        np.testing.assert_allclose(np.minimum(x, 1 - x), 0, atol=1e-9)
        self.assertEqual(found.ticks.strokes.operations.count("M"), 101)

    def test_crowded_labels_are_an_overflow(self) -> None:
        labels = {"kind": "months", "short": False}
        found = self.dial(dial={"labels": labels}, height=14)
        self.assertLess(found.room, 0)


class Sequences(unittest.TestCase):
    def test_roman_figures(self) -> None:
        """Against the public library `roman`."""
        found = label_texts(Numbers(kind="roman", first=1, last=700), None)
        self.assertEqual(found, [roman.toRoman(number) for number in range(1, 701)])
        for number in (1994, 2026, 3999):
            (one,) = label_texts(Numbers(kind="roman", first=number, last=number), None)
            self.assertEqual(one, roman.toRoman(number))

    def test_counting(self) -> None:
        def count(**fields: Any) -> list[str]:
            return label_texts(Numbers(kind="figures", **fields), fields.pop("count", None))

        self.assertEqual(count(first=10, step=-5, last=-10), ["10", "5", "0", "−5", "−10"])
        self.assertEqual(count(first=0, step=0.25, last=0.5, decimals=2), ["0.00", "0.25", "0.50"])
        self.assertEqual(count(first=8, last=10, pad=2, unit="°"), ["08°", "09°", "10°"])
        self.assertEqual(count(first=-1, last=1, sign=True), ["−1", "0", "+1"])
        self.assertEqual(letters(26), "Z")
        self.assertEqual(letters(27), "AA")
        self.assertEqual(letters(703), "AAA")

    def test_names(self) -> None:
        self.assertEqual(label_texts(Names(kind="compass", points=8), None),
                         ["N", "NE", "E", "SE", "S", "SW", "W", "NW"])  # fmt: skip
        long = label_texts(Names(kind="compass", points=32, short=False), None)
        self.assertEqual(long[1:3], ["North by East", "NorthNorthEast"])
        self.assertEqual(len(set(long)), 32)
        self.assertEqual(label_texts(Names(kind="months"), 2), ["Jan", "Feb"])

    def test_a_step_that_leads_nowhere_is_refused(self) -> None:
        for wrong in ({"step": 0}, {"first": 5, "last": 1}):
            with self.assertRaises(PieceError) as caught:
                lines(RING, text="", dial={"labels": {"kind": "figures", **wrong}})
            self.assertIn("dial.labels", caught.exception.problems[0].field)

    def test_a_pasted_table(self) -> None:
        dial = laid_out(RING, text="", dial={"labels": {"kind": "figures", "last": 3}})
        lettering = dial.piece.letterings[0]
        for table, places, unit, words in (
            ("0\tN\n22,5°\tNNE\n45°: NE", (0, 22.5, 45), "degrees", ("N", "NNE", "NE")),
            ("10 mm: in\n 20mm:out", (10, 20), "mm", ("in", "out")),
            ("spring\nsummer", (), "degrees", ("spring", "summer")),
            ("12 V\n\n5 A: fuse\n20 mm", (), "degrees", ("12 V", "", "5 A: fuse", "20 mm")),
        ):
            found = pasted_labels(lettering, table).dial
            assert found is not None and isinstance(found.labels, Names)
            self.assertEqual((found.places, found.places_in, found.labels.words),
                             (places, unit, words))  # fmt: skip
        for table, reason in (
            ("0° : N\nE", "line 2"),
            ("", "empty"),
            ("1°:a\n2mm:b", "degrees and"),
        ):
            with self.assertRaisesRegex(PieceError, reason):
                pasted_labels(lettering, table)


class Places(unittest.TestCase):
    """Labels, and letters of a phrase, one a place; none is lost without a word."""

    WORDS = "QUILLMERE ORCHARD"

    def dial(self, guide: dict[str, Any], text: str = "", **dial: Any) -> Any:
        return line(guide, text=text, dial=dial)

    def phrase(self, guide: dict[str, Any], text: str = WORDS, spaces: bool = True,
               **dial: Any) -> Any:  # fmt: skip
        return self.dial(guide, text, labels={"kind": "phrase", "spaces": spaces}, **dial)

    def test_labels_without_a_place_are_named(self) -> None:
        words = list("ABCDEFGH")
        found = self.dial(RING, labels={"kind": "list", "words": words}, divisions=6)
        self.assertEqual(found.unplaced, ("G", "H"))
        off_the_end = line(LINE, text="", at=1500, dial={
            "labels": {"kind": "list", "words": words}, "pitch": 100})  # fmt: skip
        self.assertEqual(off_the_end.unplaced, ("G", "H"))
        round_again = self.dial(RING, labels={"kind": "figures", "last": 9}, pitch=math.pi * 25)
        self.assertEqual(round_again.unplaced, ("9",))

    def test_what_is_left_out_on_purpose_is_not_missed(self) -> None:
        labels = {"kind": "list", "words": ["A", "", "B", "C"]}
        found = self.dial(RING, labels=labels, divisions=3,
                          changes=[{"label": 3, "hidden": True}])  # fmt: skip
        self.assertEqual(found.unplaced, ())

    def test_on_an_open_guide_they_go_from_its_start_to_its_end(self) -> None:
        found = self.dial(LINE, labels={"kind": "list", "words": list("ABCDE")})
        np.testing.assert_allclose(found.frames.points[:, 0], np.linspace(-1000, 1000, 5), atol=3)
        self.assertEqual([label.station for label in found.labels], [0, 500, 1000, 1500, 2000])

    def test_the_letters_of_a_phrase_stand_one_a_place(self) -> None:
        found = self.phrase(RING)
        self.assertEqual("".join(c.text for c in found.clusters), self.WORDS.replace(" ", ""))
        turns = np.degrees(np.unwrap(np.arctan2(*found.frames.points.T)))
        steps = np.delete(np.arange(17), 9) * 360 / 17
        np.testing.assert_allclose(turns - turns[0], steps, atol=1e-6)

    def test_spaces_hold_a_place_or_not(self) -> None:
        without = self.phrase(RING, spaces=False)
        turns = np.degrees(np.unwrap(np.arctan2(*without.frames.points.T)))
        np.testing.assert_allclose(np.diff(turns), 360 / 16, atol=1e-6)

    def test_a_letter_is_a_letter_with_its_marks(self) -> None:
        """Extended grapheme clusters of UAX 29: e + U+0301 is one letter."""
        found = self.phrase(RING, "cafe\u0301")
        self.assertEqual([label.text for label in found.labels], ["c", "a", "f", "e\u0301"])

    def test_sixteen_letters_fourteen_places(self) -> None:
        found = self.phrase(RING, spaces=False, divisions=14)
        self.assertEqual(found.unplaced, ("R", "D"))

    def test_places_are_the_corners_of_the_guide(self) -> None:
        hexagon = {"kind": "polygon", "sides": 6, "across": 200, "corners": "pass"}
        found = self.phrase(hexagon, "TURNIP", on="corners", stand="upright")
        stations = np.array([label.station for label in found.labels])
        np.testing.assert_allclose(np.diff(stations), 100, atol=1e-9)
        corners = found.guide.points(stations)
        np.testing.assert_allclose(np.hypot(*corners.T), 100, atol=1e-9)

    def test_places_are_the_points_of_a_drawn_guide(self) -> None:
        at = [[-60, 0], [-20, 25], [25, -10], [60, 5]]
        nodes = [{"at": point} for point in at]
        found = self.phrase({"kind": "drawn", "nodes": nodes}, "PEAR", on="points")
        stations = np.array([label.station for label in found.labels])
        np.testing.assert_allclose(found.guide.points(stations), at, atol=1e-9)
        with self.assertRaisesRegex(PieceError, "no points"):
            self.phrase(RING, on="points")


class Bent(unittest.TestCase):
    def test_every_point_lies_within_a_hundredth_of_the_exact_map(self) -> None:
        """Against the map itself in dense numpy: X = R·(sin, cos) of the arc, on a circle of
        40 mm, where an outline's point at height y goes to radius 40 + y."""
        for face in ("lato-bold", "eb-garamond", "alfa-slab-one"):
            found = line({"kind": "circle", "diameter": 80}, text="Rag&b", face=face, shape="bent")
            for index in range(len(found.clusters)):
                source, bent = found.outline(index), found.placed_outline(index)
                offset = found.middles[index] - found.widths[index] / 2
                self.assertLessEqual(len(bent.operations), 1.5 * len(source.operations) + 1)
                dense = cKDTree(np.concatenate([p for p, _ in bent.flattened(400)]))
                for points, _ in source.flattened(60):
                    angle = (offset + points[:, 0] * found.scale) / 40
                    radius = 40 + points[:, 1] * found.scale
                    exact = radius[:, None] * np.stack([np.sin(angle), np.cos(angle)], axis=1)
                    far, _ = dense.query(exact)
                    self.assertLessEqual(far.max(), 0.01 + 0.005)

    def test_on_a_straight_guide_they_are_what_they_were(self) -> None:
        rigid, bent = (line(LINE, text="Rg", shape=shape) for shape in ("rigid", "bent"))
        for index in range(2):
            np.testing.assert_allclose(bent.placed_outline(index).bounds(),
                                       rigid.placed_outline(index).bounds(), atol=1e-9)  # fmt: skip

    def test_joined_letters_stay_joined_on_a_tight_curve(self) -> None:
        """Where one letter ends, the next begins: bending maps both by the same rule."""
        found = line({"kind": "circle", "diameter": 60}, text="nn", shape="bent",
                     face="dancing-script-bold", height=14)  # fmt: skip
        one, two = (np.concatenate([p for p, _ in found.placed_outline(i).flattened(64)])
                    for i in range(2))  # fmt: skip
        nearest = np.sqrt(((one[:, None] - two[None]) ** 2).sum(axis=2)).min()
        self.assertLess(nearest, 0.2)


DOWN = {"kind": "line", "length": 300, "turned": -90}


class Stacked(unittest.TestCase):
    def test_letters_stand_head_up_one_below_the_other(self) -> None:
        found = line(DOWN, text="HEN", shape="stacked")
        np.testing.assert_allclose(found.poses.ups, [[0, 1]] * 3, atol=1e-12)
        boxes = [found.placed_outline(index).bounds() for index in range(3)]
        for x0, _, x1, _ in boxes:
            self.assertAlmostEqual((x0 + x1) / 2, 0, delta=0.6)
        whites = [above[1] - below[3] for above, below in zip(boxes, boxes[1:], strict=False)]
        self.assertAlmostEqual(whites[0], whites[1], places=6)
        self.assertGreater(whites[0], 0)

    def test_upright_to_the_page_on_a_spiral(self) -> None:
        turned, upright = (line(SPIRAL, text="ORCHARD", shape=shape, at=30) for shape in
                           ("stacked", "stacked-upright"))  # fmt: skip
        np.testing.assert_allclose(upright.angles, 0, atol=1e-9)
        self.assertGreater(np.ptp(turned.angles), 20)


class JoinedScripts(unittest.TestCase):
    def pairs(self, face: str, text: str, **changes: Any) -> np.ndarray:
        found = line(LINE, text=text, face=face, **changes)
        return np.diff(found.meant)

    def test_tracking_does_not_part_what_joins(self) -> None:
        for face, text in (("dancing-script-bold", "minimum"), ("amiri", "بستان"),
                           ("mukta-semibold", "बगीचा")):  # fmt: skip
            with self.subTest(face):
                loose = self.pairs(face, text, tracking=2) - self.pairs(face, text)
                self.assertGreaterEqual((np.abs(loose) < 1e-9).sum(), 1)
                told = self.pairs(face, text, tracking=2, spread_joined=True)
                np.testing.assert_allclose(told - self.pairs(face, text), 2)

    def test_what_does_not_join_is_parted(self) -> None:
        for face, text in (("lato-bold", "minimum"), ("frank-ruhl-libre-medium", "בוסתן")):
            loose = self.pairs(face, text, tracking=2) - self.pairs(face, text)
            np.testing.assert_allclose(loose, 2)

    def test_alef_and_what_follows_it_are_not_joined(self) -> None:
        """Alef joins only to the letter before it (Unicode, Arabic joining types)."""
        found = line(LINE, text="تان", face="amiri", tracking=2)
        plain = line(LINE, text="تان", face="amiri")
        loose = dict(zip([c.text for c in found.clusters],
                         np.diff(found.meant) - np.diff(plain.meant), strict=False))  # fmt: skip
        # Visual order: noon, alef, teh. The white after noon is between alef and noon.
        self.assertAlmostEqual(loose["ن"], 2)
        self.assertAlmostEqual(loose["ا"], 0)


class Combinations(unittest.TestCase):
    def test_what_does_not_go_together_names_the_field(self) -> None:
        dial = {"labels": {"kind": "months"}}
        for wrong, field in (
            ({"repeat": {"times": 2}, "dial": dial}, "dial"),
            ({"repeat": {"times": 2, "pitch": 3}}, "repeat.pitch"),
            ({"laps": {"pitch": 9}, "end_height": 5}, "end_height"),
            ({"text": "", "repeat": {}}, "text"),
            ({"ends": {"kind": "letter"}}, "ends.letter"),
            ({"ends": {"kind": "outline", "d": "M0 0Q"}}, "ends.d"),
            ({"dial": dial, "shape": "stacked"}, "shape"),
            ({"axes": {"weight": 3}}, "axes.weight"),
            ({"face": "bitter-variable", "axes": {"wght": 1200}}, "axes"),
        ):
            with self.subTest(field), self.assertRaises(PieceError) as caught:
                lines(RING, **wrong)
            self.assertIn(f"letterings[0].{field}",
                          [problem.field for problem in caught.exception.problems])  # fmt: skip

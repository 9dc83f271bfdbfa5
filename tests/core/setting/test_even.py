"""Even gaps: every pair has, on the curve, the gap that it should have."""

from __future__ import annotations

import math
import unittest
from itertools import pairwise
from typing import Any
from unittest.mock import patch

import mpmath
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import STRtree
from shapely.geometry import MultiPolygon, Polygon
from shapely.ops import unary_union

from tests.makings import ELLIPSE, LINE, RING, ROUNDED, SPIRAL, found_in, joint_gaps, laid_out, line
from ulvent.core.layout import lay_out
from ulvent.core.recipe import parse_piece
from ulvent.core.setting import Setting
from ulvent.core.setting.gaps.clearance import clearance_of
from ulvent.core.setting.gaps.giving_way import MOST_GIVEN
from ulvent.core.setting.gaps.profiles import softening
from ulvent.core.setting.gaps.spacing import FLOOR, NEAR_AS_DESIGNED, forget_rows
from ulvent.shipped_faces import catalogue, shipped_face

WORDS = "Tower AVENUE by Wolf"
GUIDES: dict[str, dict[str, Any]] = {
    "ring": RING,
    "ellipse": ELLIPSE,
    "rounded": ROUNDED,
    "spiral": SPIRAL,
    "wave": {"kind": "wave", "length": 160, "height": 30, "waves": 3},
    "cornered": {"kind": "path", "d": "M0 0L200 0L300 120L500 120"},
}


def shares(setting: Setting) -> np.ndarray:
    """Gap over target of every pair that is solved for and not held at the floor."""
    solved = np.isfinite(setting.targets + setting.gaps.found) & ~setting.at_floor
    return setting.gaps.found[solved] / setting.targets[solved]


def even(guide: dict[str, Any], text: str = WORDS, **changes: Any) -> Setting:
    return line(guide, text=text, **{"spacing": "even", **changes})


class OnTheStraight(unittest.TestCase):
    def test_even_is_the_face_s_own_spacing(self) -> None:
        for face in catalogue():
            with self.subTest(face):
                own = line(LINE, text="Tower Ayk Quill", face=face)
                found = even(LINE, "Tower Ayk Quill", face=face)
                np.testing.assert_allclose(found.middles, own.middles, atol=1e-6)

    def test_with_tracking_and_word_spaces_too(self) -> None:
        fields: dict[str, Any] = {"tracking": 0.7, "word_space": 2.0, "align": "centre", "at": 500}
        own, found = line(LINE, text=WORDS, **fields), even(LINE, **fields)
        np.testing.assert_allclose(found.middles, own.middles, atol=1e-6)

    def test_one_gap_for_all(self) -> None:
        """Every pair of letters has the same gap; words stay apart as they are."""
        found = line(LINE, text="HAMBURG", spacing="same").gaps.found
        self.assertLess(np.ptp(found), 1e-9)
        own = line(LINE, text="HAMBURG").gaps.found
        self.assertGreater(np.ptp(own), 0.05)
        self.assertTrue(own.min() < found[0] < own.max())


class OnCurves(unittest.TestCase):
    def test_every_gap_is_its_target_within_a_thousandth(self) -> None:
        for name, guide in GUIDES.items():
            for changes in ({}, {"reading": "against"}, {"shape": "bent"}, {"standoff": -9},
                            {"face": "zilla-slab-semibold"}, {"face": "eb-garamond", "slant": 12},
                            {"end_height": 20}):  # fmt: skip
                with self.subTest(f"{name} {changes}"):
                    found = even(guide, align="centre", at_in="middle", **changes)
                    self.assertGreater(len(shares(found)), 10)
                    self.assertLess(np.ptp(shares(found)), 1e-3)

    def test_where_a_row_was_before_does_not_matter(self) -> None:
        """A row that is pulled begins where it stood last; what it comes to is the same."""
        for name, guide in GUIDES.items():
            with self.subTest(name):
                fresh = even(guide, at=60)
                for at in (10, 80, 61):
                    even(guide, at=at)
                again = even(guide, at=60)
                np.testing.assert_allclose(again.middles, fresh.middles, atol=1e-7)
                np.testing.assert_array_equal(again.at_floor, fresh.at_floor)

    def test_across_the_seam_as_anywhere(self) -> None:
        found = even(RING, at=0, align="centre")
        self.assertLess(np.ptp(shares(found)), 1e-9)

    @settings(max_examples=20)
    @given(st.floats(0, 628), st.sampled_from(["along", "against"]))
    def test_on_a_circle_it_does_not_matter_where(self, at: float, reading: str) -> None:
        there, here = (even(RING, at=place, reading=reading) for place in (at, 0.0))
        np.testing.assert_allclose(
            there.middles - there.middles[0], here.middles - here.middles[0], atol=1e-7
        )

    def test_circles_without_limit_tend_to_the_straight(self) -> None:
        own = line(LINE, text=WORDS)
        straight = own.middles - own.middles[0]
        apart = []
        for radius in (200, 2000, 20_000):
            found = even({"kind": "circle", "radius": radius})
            apart.append(np.abs(found.middles - found.middles[0] - straight).max())
        self.assertGreater(apart[0], 0.5)
        for nearer, farther in zip(apart[1:], apart, strict=False):
            self.assertAlmostEqual(nearer / farther, 0.1, delta=0.02)

    def test_reading_against_mirrors_reading_along(self) -> None:
        """A guide that runs the other way, read against, is the same line."""
        turned = {**ELLIPSE, "turn": "counterclockwise"}
        one = even(ELLIPSE, at_in="top", align="centre")
        two = even(turned, at_in="top", align="centre", reading="against")
        np.testing.assert_allclose(one.poses.feet, two.poses.feet, atol=1e-6)

    def test_outward_letters_come_together_and_inward_ones_go_apart(self) -> None:
        outward = even(RING).length, line(RING, text=WORDS).length
        inward = {**RING, "turn": "counterclockwise"}
        inside = even(inward).length, line(inward, text=WORDS).length
        self.assertLess(outward[0], outward[1])
        self.assertGreater(inside[0], inside[1])


class AgainstTheFormula(unittest.TestCase):
    """The gap of straight stems bent round a circle, by the formula of `docs/even-gaps.md`.

    A bent stem lies on a radius, so that the white between two grows with its distance from the
    middle. Stems are read off the placed outlines, the face's white off its own outline of H, and
    mpmath integrates; nothing is taken from the code that measures gaps. Its twenty rows stand
    for the integral to a thousandth of a millimetre here.
    """

    def test_bent_letters_on_circles(self) -> None:
        for turn, outward in (("clockwise", 1), ("counterclockwise", -1)):
            ring = {"kind": "circle", "diameter": 120, "turn": turn}
            found = line(ring, text="HHIH", shape="bent")
            with self.subTest(turn):
                for index in range(3):
                    self.assertAlmostEqual(
                        found.gaps.found[index], self._gap(found, index, outward), delta=0.002
                    )

    def _gap(self, found: Setting, index: int, outward: int) -> float:
        angles = []
        for place in (index, index + 1):
            x, y = found.placed_outline(place).points.T
            angles.append(np.unwrap(np.arctan2(y, x)) * -outward)
        between = (angles[1].min() - angles[0].max()) % (2 * math.pi)
        stem = found.face.cluster_outline(found.face.shape("H").clusters[0].glyphs)
        left, _, right, _ = stem.bounds()
        own = (found.face.shape("H").clusters[0].advance - (right - left)) * found.scale
        easing, curb = 0.5 * own, 1.4 * own
        heights = [0, found.capital]
        nearest = between * min(60 + outward * height for height in heights)

        def white(height: mpmath.mpf) -> mpmath.mpf:
            over = between * (60 + outward * height) - nearest
            return nearest + curb * (1 - mpmath.exp(-over / curb)) + easing

        mean = mpmath.quad(lambda height: 1 / white(height), heights) / found.capital
        return float(1 / mean) - easing


class LeftAlone(unittest.TestCase):
    def test_letters_that_join_keep_their_advances(self) -> None:
        found = even(RING, "minimum", face="dancing-script-bold")
        own = line(RING, text="minimum", face="dancing-script-bold")
        np.testing.assert_allclose(np.diff(found.middles), np.diff(own.middles), atol=1e-9)

    def test_figures_and_punctuation_unless_asked(self) -> None:
        own = line(RING, text="TO 1917.")
        found, every = (even(RING, "TO 1917.", space_all=all_) for all_ in (False, True))
        # T O move; the figures among themselves do not.
        self.assertGreater(abs(np.diff(found.middles)[0] - np.diff(own.middles)[0]), 0.01)
        np.testing.assert_allclose(np.diff(found.middles)[2:], np.diff(own.middles)[2:], atol=1e-9)
        self.assertGreater(
            np.abs(np.diff(every.middles)[2:] - np.diff(own.middles)[2:]).min(), 0.005
        )

    def test_hand_opened_gaps_are_offsets_of_the_target(self) -> None:
        """By as much as the same offset opens the gap on the straight, also in other words."""
        hand: dict[str, Any] = {"hand": [{"letter": 2, "gap": 1.5}], "hand_words": "HOTEL"}
        for text in ("HOTEL", "HOTELS"):
            opened = [
                even(guide, text, **hand).gaps.found - even(guide, text).gaps.found
                for guide in (LINE, RING, SPIRAL)
            ]
            self.assertAlmostEqual(opened[0][2], 1.5, delta=0.2)
            for one in opened[1:]:
                np.testing.assert_allclose(one, opened[0], atol=1e-6)


class Floor(unittest.TestCase):
    def outline(self, setting: Setting, index: int) -> Polygon | MultiPolygon:
        return unary_union(
            [Polygon(points).buffer(0) for points, _ in setting.placed_outline(index).polylines]
        )

    def test_no_two_letters_come_nearer_than_the_floor(self) -> None:
        """Whole outlines on tiny rings, by shapely: hats and tails too."""
        for text in ("RATTLE", "LOTTI", "Tyfjord", "QUA gyp"):
            for turn in ("clockwise", "counterclockwise"):
                for face in ("lato-bold", "zilla-slab-semibold", "cinzel-semibold"):
                    with self.subTest(f"{text} {turn} {face}"):
                        ring = {"kind": "circle", "diameter": 72, "turn": turn}
                        found = even(ring, text, face=face)
                        own = line(LINE, text=text, face=face)
                        least = FLOOR * softening(found.face, "capital").white * found.scale
                        for index in range(len(found.clusters) - 1):
                            apart = self.outline(found, index).distance(
                                self.outline(found, index + 1)
                            )
                            designed = self.outline(own, index).distance(
                                self.outline(own, index + 1)
                            )
                            if not found.too_near[index]:
                                allowed = min(least, NEAR_AS_DESIGNED * designed)
                                self.assertGreaterEqual(apart, allowed - 0.02)

    def test_a_pair_at_the_floor_is_where_it_would_be_without_having_been_pulled(self) -> None:
        ring = {"kind": "circle", "diameter": 72, "turn": "counterclockwise"}
        forget_rows()
        fresh = even(ring, "RATTLE LOTTI", at=40)
        self.assertTrue(fresh.at_floor.any())
        for at in (10, 25, 38, 39.5):
            even(ring, "RATTLE LOTTI", at=at)
        pulled = even(ring, "RATTLE LOTTI", at=40)
        np.testing.assert_allclose(pulled.middles, fresh.middles, atol=1e-6)
        np.testing.assert_array_equal(pulled.at_floor, fresh.at_floor)

    @settings(max_examples=40)
    @given(
        st.floats(18, 400),
        st.sampled_from(["clockwise", "counterclockwise"]),
        st.sampled_from(["Tyfjord", "QUA gyp", "AVATAR", "LOTTI"]),
    )
    def test_quick_distances_are_never_too_much(
        self, diameter: float, turn: str, text: str
    ) -> None:
        """What only rough shapes or rows are looked at for is no nearer by shapely."""
        found = line({"kind": "circle", "diameter": diameter, "turn": turn}, text=text, height=6)
        near = clearance_of(found.face, found.clusters, found.scales, bent=False)
        every = np.arange(len(found.clusters) - 1)
        outlines = [self.outline(found, index) for index in range(len(found.clusters))]
        true = [one.distance(two) for one, two in pairwise(outlines)]
        quick = np.maximum(near.apart(found.frames), 0.0)
        self.assertTrue((quick <= np.array(true) + 0.01).all(), (quick, true))
        exact = near.on_curve(found.frames, every)
        close = (exact > 0.05) & (exact < 0.1 * found.capital)
        np.testing.assert_allclose(exact[close], np.array(true)[close], atol=0.03)


class OtherTurns(unittest.TestCase):
    """A letter that would touch one of another turn or lap gives way, by shapely."""

    TEXT = 2 * (
        "Quillmere pressing by hand, jolly good apples and yellow quinces from the lower "
        "orchard, flying by night "
    )

    def least(self, lines: tuple[Setting, ...]) -> float:
        """The least distance between outlines on different turns or laps."""
        outlines, turnings, laps = [], [], []
        for lap, row in enumerate(lines):
            for index in range(len(row.clusters)):
                polygons = [Polygon(p).buffer(0) for p, _ in row.placed_outline(index).polylines]
                outlines.append(unary_union(polygons))
                turnings.append(row.frames.turnings[index])
                laps.append(lap)
        found = math.inf
        for one, two in STRtree(outlines).query(outlines, predicate="dwithin", distance=1.0).T:
            apart = abs(turnings[one] - turnings[two])
            if laps[one] != laps[two] or (apart > math.pi and len(lines) == 1):
                found = min(found, outlines[one].distance(outlines[two]))
        return found

    def both_ways(
        self, guide: dict[str, Any], **changes: Any
    ) -> tuple[tuple[Setting, ...], tuple[Setting, ...]]:
        """Without giving way, and with it."""
        with patch(
            "ulvent.core.setting.rows.placing.give_way",
            lambda _, middles, *more: np.zeros(len(middles)),
        ):
            stiff = laid_out(guide, **changes).settings
        return stiff, laid_out(guide, **changes).settings

    def held(self, stiff: tuple[Setting, ...], gives: tuple[Setting, ...]) -> None:
        white = softening(gives[0].face, "capital").white * gives[0].scale
        self.assertLess(self.least(stiff), FLOOR * white - 0.02)
        self.assertGreaterEqual(self.least(gives), FLOOR * white - 1e-3)
        for one, two in zip(stiff, gives, strict=True):
            moved = two.middles - one.middles
            self.assertLessEqual(np.abs(moved).max(), MOST_GIVEN * white + 1e-9)
            self.assertLess(np.count_nonzero(moved), 4)
            # Both of its gaps are said to be held apart, so that they count as no unevenness.
            beside = np.flatnonzero(moved)
            self.assertTrue(two.at_floor[beside].all() and two.at_floor[beside - 1].all())

    def test_on_a_spiral(self) -> None:
        spiral = {"kind": "spiral", "start_radius": 20, "gain": 6.32, "turns": 4}
        self.held(*self.both_ways(spiral, text=self.TEXT, height=5, spacing="even", at=1))

    def test_on_laps(self) -> None:
        fields: dict[str, Any] = {"text": self.TEXT, "height": 5, "spacing": "even", "at": 0}
        laps = {"pitch": 6.3, "way": "inward"}
        self.held(*self.both_ways({"kind": "circle", "diameter": 120}, laps=laps, **fields))

    def test_what_needs_more_stays_and_is_said(self) -> None:
        spiral = {"kind": "spiral", "start_radius": 20, "gain": 5.4, "turns": 4}
        stiff, gives = self.both_ways(spiral, text=self.TEXT, height=5, spacing="even", at=1)
        np.testing.assert_array_equal(stiff[0].middles, gives[0].middles)


class InHand(unittest.TestCase):
    def test_letters_in_hand_are_nearly_where_they_come_to_stand(self) -> None:
        """While a row is pulled its gaps may miss by a ten-thousandth of a mm."""
        for name, guide in GUIDES.items():
            with self.subTest(name):
                forget_rows()
                document = {"ulvent": 1, "guides": [{"id": "g", **guide}], "letterings": [{
                    "id": "x", "guide": "g", "text": WORDS, "face": "lato-bold", "height": 12,
                    "spacing": "even", "at": 60}]}  # fmt: skip
                (rough,) = lay_out(parse_piece(document), shipped_face, in_hand=True).settings
                (fine,) = lay_out(parse_piece(document), shipped_face).settings
                self.assertLess(np.abs(shares(rough) - 1.0).max(), 1e-3)
                np.testing.assert_allclose(rough.middles, fine.middles, atol=0.005)

    def test_a_fit_in_hand_leaves_a_ten_thousandth_over_and_never_lacks_room(self) -> None:
        for fit in ({"kind": "height"}, {"kind": "gap"}, {"kind": "guide", "figure": "diameter"}):
            with self.subTest(**fit):
                document = {"ulvent": 1, "guides": [{"id": "g", **RING}], "letterings": [{
                    "id": "x", "guide": "g", "text": WORDS, "face": "lato-bold", "height": 9,
                    "spacing": "even", "at": 60, "fit": {**fit, "margin": 30}}]}  # fmt: skip
                (rough,) = lay_out(parse_piece(document), shipped_face, in_hand=True).settings
                (fine,) = lay_out(parse_piece(document), shipped_face).settings
                assert rough.fitted and fine.fitted
                self.assertEqual((rough.fitted.note, fine.fitted.note), ("", ""))
                left = rough.room - fine.room
                self.assertTrue(-1e-6 <= left <= 2e-4, left)
                np.testing.assert_allclose(rough.fitted.value, fine.fitted.value, rtol=2e-6)


class RoundAndRound(unittest.TestCase):
    def test_inside_the_words_and_at_the_joints(self) -> None:
        for guide in (RING, ELLIPSE):
            for separator in (None, {"kind": "star", "size": 0.6}):
                repeat = {"times": 4, "separator": separator}
                found = even(guide, "HONEY", repeat=repeat, at=11)
                self.assertLess(np.ptp(shares(found)), 1e-3)
                self.assertLess(np.ptp(joint_gaps(found)), 1e-6)

    def test_labels_keep_their_middles(self) -> None:
        dial = {"labels": {"kind": "months", "short": False}, "divisions": 12}
        own, found = (line(RING, text="", height=5, dial=dial, spacing=spacing)
                      for spacing in ("font", "even"))  # fmt: skip
        for run in range(12):
            ends = [one.middles[one.runs == run][[0, -1]] for one in (own, found)]
            self.assertAlmostEqual(ends[0].mean(), ends[1].mean(), places=9)
        self.assertLess(np.ptp(shares(found)), 1e-3)


class Unsolvable(unittest.TestCase):
    def test_a_guide_too_tight_to_measure_is_said_and_letters_stay_apart(self) -> None:
        tight = {"kind": "circle", "diameter": 20, "turn": "counterclockwise"}
        layout = laid_out(tight, text="MERE", spacing="even")
        (found,) = layout.settings
        self.assertTrue(math.isnan(found.gaps.found[0]))
        self.assertTrue(np.isfinite(found.middles).all())
        self.assertIn("tight-bend", [finding.kind for finding in found_in(layout)])

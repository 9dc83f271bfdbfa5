"""What is done to letterings by hand, and what mends those that have no room."""

from __future__ import annotations

import itertools
import unittest
from typing import Any

import numpy as np

from tests.areas import as_shapely
from tests.makings import LINE, RING, done, found_in, laid_out, workpiece
from ulvent.core.base.errors import PieceError
from ulvent.core.layout import Layout, lay_out
from ulvent.core.proof import tried_remedies
from ulvent.core.recipe import Lettering, Piece, parse_piece
from ulvent.core.setting import Setting
from ulvent.shipped_faces import shipped_face


def piece(guide: dict[str, Any] = RING, **changes: Any) -> Piece:
    return laid_out(guide, **changes).piece


def acted(before: Piece, act: str, **fields: Any) -> Lettering:
    return done(before, act=act, lettering="x", **fields).letterings[0]


def laid(lettering: Lettering, before: Piece) -> Layout:
    return lay_out(before.model_copy(update={"letterings": (lettering,)}), shipped_face)


class Letters(unittest.TestCase):
    def test_nudges_add_up_and_are_put_back(self) -> None:
        before = piece()
        once = acted(before, "nudge", letters=[1, 3], along=0.1, size=1.1)
        again = before.model_copy(update={"letterings": (once,)})
        twice = acted(again, "nudge", letters=[3], along=0.2, turn=-2, size=1.1)
        found = {nudge.letter: nudge for nudge in twice.hand}
        self.assertEqual((found[1].along, found[1].size), (0.1, 1.1))
        self.assertAlmostEqual(found[3].along, 0.3)
        self.assertAlmostEqual(found[3].size, 1.21)
        self.assertEqual(found[3].turn, -2)
        after = before.model_copy(update={"letterings": (twice,)})
        self.assertEqual([n.letter for n in acted(after, "put-back", letters=[1]).hand], [3])
        self.assertEqual(acted(after, "put-back"), before.letterings[0])

    def test_a_typed_figure_is_what_is_typed(self) -> None:
        before = piece(hand=[{"letter": 0, "turn": 5}], hand_words="QUILLMERE")
        found = acted(before, "set-nudge", letters=[0, 1], gap=0.7).hand
        self.assertEqual([(n.letter, n.turn, n.gap) for n in found], [(0, 5, 0.7), (1, 0, 0.7)])
        back = acted(before, "set-nudge", letters=[0], turn=0)
        self.assertEqual((back.hand, back.hand_words), ((), ""))

    def test_what_is_kept_is_on_the_words_as_they_are_now(self) -> None:
        before = piece(text="THE MERE", hand=[{"letter": 5, "turn": 5}], hand_words="QUILLMERE")
        after = acted(before, "nudge", letters=[0], along=1)
        self.assertEqual(after.hand_words, "THE MERE")
        # The M has moved from the sixth place to the fifth.
        self.assertEqual([(n.letter, n.turn) for n in after.hand], [(0, 0), (4, 5)])

    def test_letters_follow_the_pointer(self) -> None:
        before = piece(LINE, at=100)
        plain = laid(before.letterings[0], before).settings[0].poses.feet
        moved = acted(before, "pull-letters", letters=[2, 4], start=(0, 0), end=(3, -2))
        apart = laid(moved, before).settings[0].poses.feet - plain
        expected = np.zeros((9, 2))
        expected[[2, 4]] = (3, -2)
        np.testing.assert_allclose(apart, expected, atol=1e-9)

    def test_letters_that_are_not_there_are_refused(self) -> None:
        for act, fields in (("nudge", {"letters": [9]}), ("set-nudge", {"letters": [400]})):
            with self.assertRaisesRegex(PieceError, "no such letter"):
                acted(piece(), act, **fields)
        with self.assertRaisesRegex(PieceError, "may not hold"):
            acted(piece(), "nudge", letters=[1], along=5000)


class Sides(unittest.TestCase):
    """A band is where capitals stand; these acts move it as a maker expects."""

    def radii(self, lettering: Lettering, before: Piece) -> tuple[float, float]:
        setting = laid(lettering, before).settings[0]
        feet = np.hypot(*setting.poses.feet.T)
        heads = np.hypot(*(setting.poses.feet + setting.poses.ups * setting.capital).T)
        return float(np.median(feet)), float(np.median(heads))

    def test_other_side_keeps_the_words_readable_and_as_far_off(self) -> None:
        before = piece(standoff=3, at_in="top", align="centre")
        after = acted(before, "other-side")
        self.assertEqual(after.reading, "along")
        np.testing.assert_allclose(self.radii(after, before), (85, 97), atol=1e-6)
        back = done(before.model_copy(update={"letterings": (after,)}), act="other-side",
                    lettering="x").letterings[0]  # fmt: skip
        np.testing.assert_allclose(self.radii(back, before), (103, 115), atol=1e-6)

    def test_turned_over_words_stand_in_the_same_place_head_down(self) -> None:
        before = piece(standoff=3, at_in="top", align="centre")
        after = acted(before, "turn-over")
        np.testing.assert_allclose(self.radii(after, before), (115, 103), atol=1e-6)
        middle = laid(after, before).settings[0]
        self.assertAlmostEqual(abs(float(np.median(middle.angles))), 180, delta=20)

    def test_turned_over_twice_they_are_as_before(self) -> None:
        for touch in ("ascender", "capital", "middle", "baseline", "descender"):
            for reading in ("along", "against"):
                with self.subTest(touch, reading=reading):
                    before = piece(touch=touch, standoff=2.5, at_in="top", align="start",
                                   reading=reading)  # fmt: skip
                    once = acted(before, "turn-over")
                    if touch == "middle":
                        self.assertEqual((once.touch, once.standoff), ("middle", -2.5))
                    feet, heads = self.radii(before.letterings[0], before)
                    np.testing.assert_allclose(self.radii(once, before), (heads, feet), atol=1e-5)
                    again = before.model_copy(update={"letterings": (once,)})
                    self.assertEqual(acted(again, "turn-over"), before.letterings[0])

    def test_the_labels_of_a_dial_turn_with_its_letters(self) -> None:
        before = piece(text="", dial={"labels": {"kind": "figures", "last": 12}})
        once = acted(before, "turn-over")
        for lettering, turn in ((before.letterings[0], -1.0), (once, 1.0)):
            points = laid(lettering, before).settings[0].frames.points
            around = np.unwrap(np.arctan2(points[:9, 1], points[:9, 0]))
            self.assertTrue((np.diff(around) * turn > 0).all())
            self.assertEqual(lettering.reading, "along" if turn < 0 else "against")

    def test_matched_bands_lie_between_the_same_two_circles_upright(self) -> None:
        upper = {"id": "up", "guide": "g", "text": "ORCHARD", "face": "lato-bold", "height": 14,
                 "touch": "middle", "standoff": 2, "at_in": "top", "align": "centre"}  # fmt: skip
        lower = {**upper, "id": "x", "face": "eb-garamond", "height": 9, "at_in": "bottom",
                 "measured": "x-height"}  # fmt: skip
        before = parse_piece(
            {"ulvent": 1, "guides": [{"id": "g", **RING}], "letterings": [upper, lower]}
        )
        after = done(before, act="match-band", lettering="x", other="up")
        up, down = lay_out(after, shipped_face).settings
        feet = np.hypot(*up.poses.feet.T), np.hypot(*down.poses.feet.T)
        np.testing.assert_allclose(feet[0] + up.capital, feet[1].mean(), atol=1e-5)
        np.testing.assert_allclose(feet[1] - down.capital, feet[0].mean(), atol=1e-5)
        for setting in (up, down):
            self.assertLess(np.abs(setting.angles).max(), 60)

    def test_a_place_kept_in_another_way_is_the_same_place(self) -> None:
        before = piece({"kind": "arch", "chord": 200, "rise": 40}, at=50)
        feet = laid(before.letterings[0], before).settings[0].poses.feet
        for at_in in ("share", "start", "middle", "end", "top", "mm"):
            after = acted(before, "keep-place-as", at_in=at_in)
            self.assertEqual(after.at_in, at_in)
            now = laid(after, before).settings[0].poses.feet
            np.testing.assert_allclose(now, feet, atol=2e-3)


class Arranged(unittest.TestCase):
    """Words that stand another way begin as one would have them."""

    def arranged(self, guide: dict[str, Any], way: str) -> Setting:
        piece = laid_out(guide, at=0.5, at_in="share", align="centre").piece
        changed = done(piece, act="arrange", lettering="x", way=way)
        return lay_out(changed, shipped_face).settings[0]

    def test_on_an_open_guide_labels_go_from_its_start_to_its_end(self) -> None:
        for way, count in (("phrase", 9), ("dial", 12)):
            found = self.arranged(LINE, way)
            stations = [label.station for label in found.labels]
            np.testing.assert_allclose(stations, np.linspace(0, 2000, count))
            self.assertEqual(found.unplaced, ())

    def test_places_said_another_way_hold_as_many(self) -> None:
        piece = done(laid_out(RING).piece, act="arrange", lettering="x", way="phrase")
        for way in ("parts", "pitch", "labels"):
            piece = done(piece, act="place-labels", lettering="x", way=way)
            (found,) = lay_out(piece, shipped_face).settings
            self.assertEqual((len(found.labels), found.unplaced), (9, ()), way)


class Fits(unittest.TestCase):
    """A fit is begun and ended by an act; what was typed before it is not lost."""

    def fitted(self, before: Piece, kind: str | None, **fit: Any) -> Piece:
        after = done(before, act="set-fit", lettering="x", kind=kind)
        if not fit:
            return after
        (lettering,) = after.letterings
        assert lettering.fit is not None
        changed = lettering.model_copy(update={"fit": lettering.fit.model_copy(update=fit)})
        return after.model_copy(update={"letterings": (changed,)})

    def test_as_typed_brings_back_what_was_typed(self) -> None:
        for kind in ("height", "gap", "taper", "guide"):
            with self.subTest(kind):
                before = piece({"kind": "circle", "diameter": 60}, height=9, tracking=0.3)
                during = self.fitted(before, kind)
                solved = workpiece(during).solved
                kept = done(solved, act="keep-figures", lettering="x")
                self.assertNotEqual((kept.letterings, kept.guides),
                                    (before.letterings, before.guides))  # fmt: skip
                # Something else is done meanwhile, which starts from the solved figures.
                slid = done(during, act="slide-by", lettering="x", by=0.0)
                after = self.fitted(slid, None)
                self.assertEqual(after.letterings[0], before.letterings[0])
                self.assertEqual(after.guides, before.guides)

    def test_another_fit_begins_from_what_was_typed(self) -> None:
        before = piece(RING, height=9)
        second = self.fitted(self.fitted(before, "height"), "gap")
        self.assertEqual(second.letterings[0].height, 9)

    def test_without_an_answer_the_typed_figures_stand_and_none_is_shown_as_solved(self) -> None:
        short = {"kind": "line", "length": 50}
        for kind, field, typed in (("height", "height", 9), ("gap", "tracking", 0.3)):
            with self.subTest(kind):
                begun = self.fitted(piece(short, height=9, tracking=0.3), kind, margin=30.0)
                work = workpiece(begun)
                (line,) = work.layout.settings
                assert line.fitted is not None
                self.assertTrue(line.fitted.note)
                self.assertEqual((line.fitted.figures, line.fitted.guide_figures), ({}, {}))
                self.assertEqual(getattr(line.lettering, field), typed)
                self.assertEqual(getattr(work.solved.letterings[0], field), typed)


class FillingLimits(unittest.TestCase):
    """Spread to fill begins with limits; beyond them it is said, held against shapely."""

    def begun(self, diameter: float, text: str) -> Layout:
        before = piece({"kind": "circle", "diameter": diameter}, text=text, height=10)
        return lay_out(done(before, act="set-fit", lettering="x", kind="gap"), shipped_face)

    def test_at_the_least_gap_two_letters_just_do_not_touch(self) -> None:
        layout = self.begun(100, "QUILLMERE FAIR")
        fit = layout.piece.letterings[0].fit
        assert fit is not None and fit.least is not None
        for tracking, touching in ((fit.least, False), (fit.least - 0.03, True)):
            at = laid_out({"kind": "circle", "diameter": 100}, text="QUILLMERE FAIR", height=10,
                          tracking=tracking)  # fmt: skip
            letters = [as_shapely(at.settings[0].placed_outline(index))
                       for index in range(len(at.settings[0].clusters))]  # fmt: skip
            met = any(a.intersects(b) for a, b in itertools.pairwise(letters))
            self.assertEqual(met, touching, tracking)

    def test_beyond_them_it_is_said(self) -> None:
        for diameter, word in ((24, "less"), (200, "more")):
            found = {one.kind: one for one in found_in(self.begun(diameter, "OLD PEAR TREE"))}
            self.assertEqual(found["fit"].severity, "fault")
            self.assertIn(word, found["fit"].message)
        self.assertEqual(found_in(self.begun(60, "OLD PEAR TREE BARN")), ())


class Remedies(unittest.TestCase):
    """Every remedy that is offered mends the finding it is offered for."""

    CASES = (
        ("too long for its arc", {"kind": "arch", "chord": 100, "rise": 20},
         {"text": "QUILLMERE ORCHARD", "at_in": "middle", "align": "centre"}),
        ("a little too long", {"kind": "line", "length": 92}, {}),
        ("short enough, but off the end", {"kind": "line", "length": 200}, {"at": 150}),
        ("against, off the end", {"kind": "line", "length": 200}, {"at": 20, "reading": "against"}),
        ("more than a lap", {"kind": "circle", "diameter": 60}, {"text": "QUILLMERE ORCHARD FAIR",
                                                               "tracking": 0.5}),
        ("too many repeats", RING, {"text": "HONEY", "repeat": {"times": 16}}),
        ("a crowded dial", RING, {"text": "", "height": 14, "dial": {"labels":
                                  {"kind": "months", "short": False}}}),
        ("letters that grow", {"kind": "line", "length": 150}, {"end_height": 30}),
        ("letters that hang", {"kind": "circle", "radius": 20}, {"touch": "capital",
                                                                "text": "QUILLMERE FAIR"}),
        ("several lines", {"kind": "line", "length": 90}, {"text": "QUILLMERE\nORCHARD FAIR",
                                                           "lines": [{}, {"height": 10}]}),
        ("more labels than places", RING, {"text": "", "height": 8, "dial": {
            "labels": {"kind": "list", "words": [*"ABCDEFGH"]}, "divisions": 6}}),
        ("labels off the end", {"kind": "line", "length": 200}, {"text": "", "at": 60, "dial": {
            "labels": {"kind": "figures", "last": 9}, "pitch": 30}}),
        ("a phrase on too few places", RING, {"text": "QUILL MERE", "dial": {
            "labels": {"kind": "phrase"}, "divisions": 9}}),
    )  # fmt: skip

    def test_each_mends(self) -> None:
        offered: set[str] = set()
        for name, guide, changes in self.CASES:
            layout = laid_out(guide, **changes)
            (finding,) = (one for one in found_in(layout) if one.kind == "overflow")
            self.assertTrue(finding.remedies, name)
            for remedy in finding.remedies:
                with self.subTest(f"{name}: {remedy.label}"):
                    document = layout.piece.model_dump(mode="json")
                    part = document["guides" if remedy.of == "guide" else "letterings"][0]
                    part.update(remedy.changes)
                    after = found_in(lay_out(parse_piece(document), shipped_face))
                    self.assertNotIn("overflow", [one.kind for one in after])
                offered.add(remedy.label.split(" ")[0].rstrip(":"))
        self.assertEqual(offered, {
            "slide", "tighter", "smaller", "go", "larger", "8", "9", "10", "one", "no", "leave",
            "stop",
        })  # fmt: skip

    def test_what_needs_no_mending_has_no_remedies(self) -> None:
        for guide in (LINE, RING):
            self.assertEqual(tried_remedies(laid_out(guide), "overflow", "x"), [])

    def test_smaller_is_as_large_as_fits(self) -> None:
        layout = laid_out({"kind": "line", "length": 80})
        (finding,) = found_in(layout)
        smaller = next(one for one in finding.remedies if one.label.startswith("smaller"))
        height = smaller.changes["height"]
        self.assertLess(laid_out({"kind": "line", "length": 80}, height=height + 0.11)
                        .settings[0].room, 0)  # fmt: skip

    def test_missing_letters_come_with_the_faces_that_have_them(self) -> None:
        layout = laid_out(LINE, text="בוסתן", face="lato-bold")
        (finding,) = found_in(layout)
        self.assertEqual([one.changes for one in finding.remedies],
                         [{"face": "frank-ruhl-libre-medium"}])  # fmt: skip

    def test_features_that_the_face_has_not_are_a_hint(self) -> None:
        (finding,) = found_in(laid_out(LINE, features={"smcp": 1}, axes={"wght": 400}))
        self.assertEqual((finding.kind, finding.severity), ("missing-feature", "hint"))
        self.assertIn("smcp, wght", finding.message)

"""One piece for many names: fields, lists, one height, sheets."""

from __future__ import annotations

import itertools
import math
import unittest
from typing import Any

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from ortools.sat.python import cp_model

from tests.makings import document
from ulvent.core.base.errors import PieceError
from ulvent.core.recipe import Piece, parse_piece
from ulvent.core.recipe.name_list import OwnOfRow
from ulvent.core.series import Matched, Pattern, matched, one_height, with_own
from ulvent.core.series.matched import words_of
from ulvent.core.series.nested_sheets import Nested, Sheet, nested
from ulvent.core.series.results import heights_that_fit, result_of
from ulvent.core.series.row_making import Series, file_name, made_row
from ulvent.core.setting import nudges_on
from ulvent.core.shapes import Region
from ulvent.core.workshop import Workshop
from ulvent.shipped_faces import shipped_face, shipped_faces

SHOP = Workshop(shipped_face, shipped_faces)
LINE = {"id": "g", "kind": "line", "length": 60}
REAL = [
    "Siobhán O’Neill-McGuinness",
    "Łukasz Żądło",
    "José María",
    "d'Artagnan",
    "محمد",
    "अनिल",
    "🍎",
    "",
]
"""Names as they are: double, accented, with apostrophes, in other scripts, a sign, none."""


def piece(*texts: str, **lettering: Any) -> Piece:
    letterings = [
        {"id": f"w{number}", "guide": "g", "text": text, "face": "lato-bold", "height": 5,
         "at": 0.5, "at_in": "share", "align": "centre", **lettering}
        for number, text in enumerate(texts)
    ]  # fmt: skip
    return parse_piece(document(blank=None, guides=[LINE], letterings=letterings))


def filled(text: str, **row: str) -> str:
    return Pattern(piece(text)).filled(row, "").letterings[0].text


class Fields(unittest.TestCase):
    def test_fields_are_filled_as_they_ask(self) -> None:
        for text, row, wanted in (
            ("{name}", {"name": "Ann"}, "Ann"),
            ("No. {n:000}", {"n": "7"}, "No. 007"),
            ("{name:capitals}", {"name": "straße"}, "STRASSE"),
            ("{name:small} {name:first}.", {"name": "Émile"}, "émile É."),
            ("{day:d MMMM yyyy}", {"day": "2026-11-09"}, "9 November 2026"),
            ("{day:dd.MM.yy}", {"day": "2026-11-09"}, "09.11.26"),
            ("{name}[, {town}]", {"name": "Ann", "town": ""}, "Ann"),
            ("{name}[, {town}]", {"name": "Ann", "town": "Mere"}, "Ann, Mere"),
            ("[sic] {name}", {"name": "Ann"}, "[sic] Ann"),
            ("{{{name}", {"name": "Ann"}, "{Ann"),
        ):
            with self.subTest(text):
                self.assertEqual(filled(text, **row), wanted)

    def test_a_first_letter_is_what_a_reader_takes_for_one(self) -> None:
        """Grapheme clusters of UAX #29: a letter with its marks, a flag."""
        self.assertEqual(filled("{n:first}", n="e\u0301clair"), "e\u0301")
        self.assertEqual(filled("{n:first}", n="🇬🇧 Ann"), "🇬🇧")

    def test_what_cannot_be_said_names_its_field(self) -> None:
        for text, row, where in (
            ("{town}", {"name": "Ann"}, "letterings[0].text"),
            ("{n:00}", {"n": "seven"}, "n"),
            ("{day:yyyy}", {"day": "9 Nov"}, "day"),
            ("{n:loud}", {"n": "Ann"}, "n"),
        ):
            with self.subTest(text), self.assertRaises(PieceError) as caught:
                filled(text, **row)
            self.assertEqual(caught.exception.problems[0].field, where)

    def test_labels_of_a_dial_have_fields_too(self) -> None:
        dial = {"labels": {"kind": "list", "words": ["{a}", "{b:capitals}"]}}
        pattern = Pattern(piece("", dial=dial))
        self.assertEqual(pattern.fields, ("a", "b"))
        made = pattern.filled({"a": "x", "b": "y"}, "").letterings[0].dial
        self.assertEqual(made.labels.words, ("x", "Y"))

    def test_a_piece_without_fields_gets_the_words_of_its_first_lettering(self) -> None:
        pattern = Pattern(piece("Old Russet", "row 7"))
        self.assertEqual(pattern.fields, ("name",))
        texts = [one.text for one in pattern.filled({"name": "Pippin"}, "").letterings]
        self.assertEqual(texts, ["Pippin", "row 7"])

    @settings(deadline=None, max_examples=60)
    @given(st.text(st.characters(codec="utf-8", exclude_categories=("Cc", "Cs", "Zl", "Zp")),
                   max_size=40))  # fmt: skip
    def test_names_come_through_as_they_are_typed(self, name: str) -> None:
        if any(ord(one) & 0xFFFE == 0xFFFE for one in name):
            return
        self.assertEqual(filled("{name}", name=name), name)


class Lists(unittest.TestCase):
    def test_columns_are_found_by_their_names_or_their_order(self) -> None:
        named = matched([["Town", "NAME"], ["Mere", "Ann"]], ["name", "town"])
        self.assertEqual(named.columns, ("town", "name"))
        self.assertEqual(words_of(named.columns, named.rows[0][1]), {"town": "Mere", "name": "Ann"})
        plain = matched([["Ann", "Mere"], ["Bea"]], ["name", "town"])
        words = [words_of(plain.columns, cells) for _, cells in plain.rows]
        self.assertEqual(words, [{"name": "Ann", "town": "Mere"}, {"name": "Bea", "town": ""}])
        by_hand = matched([["x", "Ann"]], ["name"], {0: "", 1: "name"})
        self.assertEqual(words_of(by_hand.columns, by_hand.rows[0][1]), {"name": "Ann"})

    def test_empty_rows_and_rows_that_come_twice_are_said(self) -> None:
        found = matched([["name"], ["Ann"], [" "], [], ["Ann"], ["Bea"]], ["name"])
        self.assertEqual((found.empty, found.twice), ((2, 3), (4,)))
        self.assertEqual([number for number, _ in found.rows], [1, 4, 5])

    def test_a_field_without_a_column_is_named(self) -> None:
        with self.assertRaisesRegex(PieceError, "{town}.*name"):
            matched([["name"], ["Ann"]], ["name", "town"])

    def test_file_names(self) -> None:
        self.assertEqual(file_name("{number}-{words}", 7, "O’Neill / Ann", 250), "007-ONeill-Ann")
        self.assertEqual(file_name("{words}", 7, "../..", 9), "007")


def series(pattern: Piece, names: list[str], **heights: float) -> tuple[Series, Matched]:
    found = Pattern(pattern)
    rows = matched([[name] for name in names], found.fields)
    return Series(found, rows.columns, OwnOfRow(heights=heights)), rows


class Rows(unittest.TestCase):
    def test_what_a_row_has_by_hand_stays_with_its_letters(self) -> None:
        """Whatever else of list and pattern changes; other rows have what the pattern has."""
        nudge = {"letter": 2, "along": 0.5, "turn": 4.0}
        own = OwnOfRow.model_validate({"hand": {"w0": {"letters": [nudge], "words": "Bea"}}})
        pattern = piece("{name}", hand=[{"letter": 0, "gap": 1.0}], hand_words="{name}")
        work, _ = series(pattern, ["Bea"])
        mine = Series(work.pattern, work.columns, own)
        for cells, letter in (("Bea", 2), ("Beatrice a", 2), ("Thea", 3), ("Bo", None)):
            made = nudges_on(mine.piece([cells]).letterings[0])
            self.assertEqual([(at, one.along, one.turn) for at, one in made.items()],
                             [] if letter is None else [(letter, 0.5, 4.0)], cells)  # fmt: skip
        plain = work.piece(["Bea"]).letterings[0]
        self.assertEqual([one.gap for one in plain.hand], [1.0])

    def test_real_names_are_made_or_said_to_lack_letters(self) -> None:
        """None is silently changed: its words are those that were typed, in the piece that is
        made, or it has a fault that names what is missing."""
        work, rows = series(piece("{name}", fit={"kind": "height"}), REAL)
        self.assertEqual(rows.empty, (8,))
        for number, cells in rows.rows:
            made, done = made_row(work, SHOP, number, cells)
            with self.subTest(cells[0]):
                assert done is not None and made.result is not None
                self.assertEqual((made.title, done.piece.letterings[0].text), (cells[0], cells[0]))
                lacking = cells[0] in ("محمد", "अनिल", "🍎")
                self.assertEqual("has no letter" in " ".join(made.result.faults), lacking)

    def test_the_guide_may_give_way_to_each_row(self) -> None:
        """A ring round each name: by the length of its words at the ring's own bend, from the
        layout, which leaves no room."""
        words = {"id": "w", "guide": "g", "text": "{name}", "face": "lato-bold", "height": 5,
                 "fit": {"kind": "guide"}}  # fmt: skip
        ring = {"id": "g", "kind": "circle", "diameter": 100}
        pattern = parse_piece(document(blank=None, guides=[ring], letterings=[words]))
        work, rows = series(pattern, ["Ann", "Bartholomew Christabel"])
        sizes: list[float] = []
        for number, cells in rows.rows:
            made, done = made_row(work, SHOP, number, cells)
            assert made.result is not None and done is not None
            (figures,) = made.result.figures
            (guide,) = done.solved.guides
            self.assertEqual((figures.height, round(figures.room, 2)), (5.0, 0.0))
            self.assertIn(f"{guide.diameter:.1f}"[:-1], figures.guide)
            sizes.append(guide.diameter)
        self.assertLess(4.0 * sizes[0], sizes[1])

    def test_one_height_is_the_least_of_single_fits(self) -> None:
        pattern = piece("{name}", fit={"kind": "height"})
        names = ["Ann", "Bartholomew", "Christabel Smith", "Di"]
        work, _ = series(pattern, names)
        single = [SHOP.in_passing(work.piece([name])).solved.letterings[0].height for name in names]
        found = one_height(pattern, [work.piece([name]) for name in names],
                           lambda one: SHOP.in_passing(one).solved)  # fmt: skip
        self.assertEqual(found, {"w0": min(single)})
        for name in names:
            made = with_own(work.piece([name]), OwnOfRow(heights=found))
            line = SHOP.in_passing(made).layout.settings[0]
            self.assertGreaterEqual(line.room, -1e-6)

    def test_what_does_not_fit_says_why(self) -> None:
        work, rows = series(piece("{name}"), ["Ann", "a name that is far too long for this line"])
        fits = [made_row(work, SHOP, number, cells)[0] for number, cells in rows.rows]
        self.assertEqual([one.fits for one in fits], [True, False])
        self.assertIn("do not fit", fits[1].reason)

    def test_smaller_letters_mend_what_has_no_room_and_are_no_smaller_than_they_must_be(
        self,
    ) -> None:
        work, rows = series(piece("{name}"), ["Ann", "a name that is far too long for this line"])
        short, long = (SHOP.in_passing(work.piece(cells)) for _, cells in rows.rows)
        self.assertEqual(heights_that_fit(short, SHOP.in_passing), {})
        heights = heights_that_fit(long, SHOP.in_passing)
        mended = with_own(long.piece, OwnOfRow(heights=heights))
        self.assertTrue(result_of(SHOP.in_passing(mended)).fits)
        larger = with_own(
            long.piece, OwnOfRow(heights={name: 1.01 * one for name, one in heights.items()})
        )
        self.assertEqual(result_of(SHOP.in_passing(larger)).kind, "overflow")


def box(width: float, height: float) -> Region:
    return Region.box((-width / 2, -height / 2, width / 2, height / 2))


class Sheets(unittest.TestCase):
    def assert_sound(self, parts: list[Region], sheet: Sheet, found: Nested) -> None:
        """By shapely: nothing over the margin, nothing nearer than the gap, and nothing lost."""
        self.assertEqual(len(found.placed), len(parts))
        lying: dict[int, list[Any]] = {}
        for part, placed in zip(parts, found.placed, strict=True):
            width, height = found.sizes[placed.sheet]
            room = shapely.box(sheet.margin, sheet.margin, width - sheet.margin,
                               height - sheet.margin).buffer(0.01)  # fmt: skip
            moved = part.transformed(placed.matrix)
            self.assertAlmostEqual(moved.area, part.area, places=3)
            shape = shapely.Polygon(max(moved.rings, key=len))
            self.assertTrue(room.contains(shape))
            lying.setdefault(placed.sheet, []).append(shape)
        self.assertEqual(set(lying), set(range(len(found.sizes))))
        for shapes in lying.values():
            for one, two in itertools.combinations(shapes, 2):
                self.assertGreaterEqual(one.distance(two), sheet.gap - 0.01)
        self.assertGreaterEqual(len(found.sizes) - found.offcuts, found.least)

    def test_tags_in_rows_and_a_block_turned_the_other_way(self) -> None:
        sheet = Sheet(600, 400, 5, 2)
        parts = [box(90, 40)] * 120
        found = nested(parts, sheet)
        self.assert_sound(parts, sheet, found)
        # 6 columns of 9 rows, 92 and 42 mm apart.
        self.assertEqual(len(found.sizes), math.ceil(120 / 54))

    def test_discs_lie_closer_than_in_rows(self) -> None:
        sheet = Sheet(312, 290, 3, 1, (0.0,))
        parts = [Region.disc(np.zeros(2), 60.0)] * 24
        found = nested(parts, sheet)
        self.assert_sound(parts, sheet, found)
        self.assertLessEqual(len(found.sizes), 2)

    def test_parts_of_several_kinds(self) -> None:
        sheet = Sheet(300, 200, 4, 2)
        parts = [box(40 + 7 * (k % 5), 20 + 11 * (k % 3)) for k in range(60)]
        self.assert_sound(parts, sheet, nested(parts, sheet))

    def test_small_cases_take_no_more_sheets_than_the_best_by_one(self) -> None:
        """An exact search by OR-Tools: boxes without overlap on each of a number of sheets."""
        sheet = Sheet(60, 40, 0, 0, (0.0,))
        for seed in range(4):
            random = np.random.default_rng(seed)
            sizes = random.integers(10, 31, (7, 2)).tolist()
            parts = [box(w, h) for w, h in sizes]
            found = nested(parts, sheet)
            self.assert_sound(parts, sheet, found)
            self.assertLessEqual(len(found.sizes), self.least(sizes, 60, 40) + 1)

    def least(self, sizes: list[list[int]], width: int, height: int) -> int:
        for sheets in range(1, len(sizes) + 1):
            model = cp_model.CpModel()
            across, up = [], []
            for w, h in sizes:
                # Sheets lie side by side, and no part over the line between two.
                on = model.new_int_var(0, sheets - 1, "")
                x, y = model.new_int_var(0, width - w, ""), model.new_int_var(0, height - h, "")
                start = model.new_int_var(0, sheets * width, "")
                model.add(start == x + width * on)
                across.append(model.new_fixed_size_interval_var(start, w, ""))
                up.append(model.new_fixed_size_interval_var(y, h, ""))
            model.add_no_overlap_2d(across, up)
            if cp_model.CpSolver().solve(model) in (cp_model.OPTIMAL, cp_model.FEASIBLE):
                return sheets
        return len(sizes)

    def test_offcuts_are_filled_first_the_smallest_before_others(self) -> None:
        """On 204 × 92 go four tags, by hand; on 100 × 50 one; on 50 × 50 none, so it stays."""
        sheet = Sheet(600, 400, 5, 2, offcuts=((204, 92), (50, 50), (100, 50)))
        parts = [box(90, 40)] * 110
        found = nested(parts, sheet)
        self.assert_sound(parts, sheet, found)
        self.assertEqual(found.sizes, ((100, 50), (204, 92), (600, 400), (600, 400)))
        on = [one.sheet for one in found.placed]
        self.assertEqual([on.count(k) for k in (0, 1)], [1, 4])
        # 110 × 3,600 mm² less 90 × 40, 40 × 40 and 194 × 82 mm, on 590 × 390 mm: no fewer than two.
        self.assertEqual((found.offcuts, found.least), (2, 2))
        few = nested(parts[:5], sheet)
        self.assertEqual((few.sizes, few.offcuts, few.least), (((100, 50), (204, 92)), 2, 0))

    @given(st.integers(0, 2**32 - 1))
    @settings(max_examples=15)
    def test_whatever_offcuts_there_are_every_part_lies_once(self, seed: int) -> None:
        pick = np.random.default_rng(seed)
        offcuts = tuple((float(w), float(h)) for w, h in pick.integers(5, 200, (4, 2)))
        sheet = Sheet(150, 120, 3, 2, offcuts=offcuts)
        kinds = [box(float(w), float(h)) for w, h in pick.integers(8, 80, (pick.integers(1, 4), 2))]
        parts = [kinds[k] for k in pick.integers(0, len(kinds), 25)]
        self.assert_sound(parts, sheet, nested(parts, sheet))

    def test_a_roll_is_one_sheet_as_high_as_its_parts_take(self) -> None:
        """Rows and columns by hand; kinds of parts on shelves; discs in less than rows."""
        sheet = Sheet(600, 0, 5, 2, roll=True)
        tags = [box(90, 40)] * 120
        found = nested(tags, sheet)
        self.assert_sound(tags, sheet, found)
        # 14 columns of turned tags, 42 mm apart: 9 rows of 92 mm are less than 20 of 42.
        self.assertEqual((found.sizes, found.least), (((600, 9 * 92 - 2 + 10),), 1))
        kinds = [box(40 + 7 * (k % 5), 20 + 11 * (k % 3)) for k in range(200)]
        several = nested(kinds, sheet)
        self.assert_sound(kinds, sheet, several)
        self.assertEqual(len(several.sizes), 1)
        # Four discs a row, and every other row half a disc aside: less than six rows of 61 mm.
        narrow = Sheet(282, 0, 3, 1, (0.0, 90.0), roll=True)
        discs = [Region.disc(np.zeros(2), 60.0)] * 24
        round_ones = nested(discs, narrow)
        self.assert_sound(discs, narrow, round_ones)
        self.assertLess(round_ones.sizes[0][1], 6 * 61 - 1 + 6)
        first = nested(tags, sheet._replace(offcuts=((100, 50),)))
        self.assertEqual((first.offcuts, first.sizes[0], len(first.sizes)), (1, (100, 50), 2))
        with self.assertRaisesRegex(PieceError, "roll with room for 80"):
            nested(tags, Sheet(90, 0, 5, 2, (0.0,), roll=True))

    def test_a_part_larger_than_a_sheet_is_refused(self) -> None:
        with self.assertRaisesRegex(PieceError, "does not go on"):
            nested([box(300, 300)], Sheet(200, 200))

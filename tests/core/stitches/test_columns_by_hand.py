"""Columns of a letter set by hand: they stay with the letter in that face, for every word."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np

from tests.makings import document, workpiece
from ulvent.core.base.errors import PieceError
from ulvent.core.stitches.columns_by_hand import columns_seen, set_by_hand
from ulvent.core.workshop import Workpiece


def words(text: str, height: float = 18.0, **sewing: Any) -> Workpiece:
    guide = {"id": "l", "kind": "circle", "diameter": 160}
    made = {"id": "t", "guide": "l", "text": text, "face": "lato-bold", "height": height}
    return workpiece(document(guides=[guide], letterings=[made], blank=None, sewing=sewing))


class ByHand(unittest.TestCase):
    def test_what_is_seen_lies_on_the_letter(self) -> None:
        work = words("AH")
        found = columns_seen(work.layout, work.groups, "t", 1)
        self.assertEqual((found.face, found.letter, found.by_hand), ("lato-bold", "H", False))
        self.assertEqual(len(found.columns), 3)
        (group,) = work.groups
        x0, y0, x1, y1 = group.areas_with(())[1][1].bounds()
        ends = np.array(found.columns[0]).reshape(-1, 2)
        self.assertTrue(((ends > (x0 - 0.1, y0 - 0.1)) & (ends < (x1 + 0.1, y1 + 0.1))).all())

    def test_a_pulled_line_turns_the_thread_of_that_letter_in_every_word(self) -> None:
        work = words("HOH")
        seen = columns_seen(work.layout, work.groups, "t", 0)
        a, _ = seen.columns[0][0]
        along = np.array(seen.columns[0][1][0]) - np.array(a)
        to = np.array(a) + 0.15 * along
        recipe = set_by_hand(
            work.layout, work.groups, "t", 0, "pull", column=0, line=0, side=0,
            at=(float(to[0]), float(to[1])),
        )  # fmt: skip
        (correction,) = recipe.corrections
        self.assertEqual((correction.face, correction.letter), ("lato-bold", "H"))
        changed = words("HOH", **recipe.model_dump(mode="json"))
        before, after = work.embroidery.sewn, changed.embroidery.sewn
        by_place = [
            [np.concatenate([one.points for one in some if one.place == place])
             for place in range(3)] for some in (before, after)
        ]  # fmt: skip
        for place, differs in ((0, True), (1, False), (2, True)):
            same = len(by_place[0][place]) == len(by_place[1][place]) and np.allclose(
                by_place[0][place], by_place[1][place]
            )
            self.assertEqual(not same, differs, place)
        again = columns_seen(changed.layout, changed.groups, "t", 2)
        self.assertTrue(again.by_hand)
        larger = words("AH", 30.0, **recipe.model_dump(mode="json"))
        self.assertTrue(columns_seen(larger.layout, larger.groups, "t", 1).by_hand)
        np.testing.assert_allclose(again.columns[0][0][1], columns_seen(
            work.layout, work.groups, "t", 2).columns[0][0][1], atol=1e-6)  # fmt: skip

    def test_what_was_set_can_be_forgotten_and_what_is_not_there_is_named(self) -> None:
        work = words("H")
        recipe = set_by_hand(work.layout, work.groups, "t", 0, "remove column", column=2)
        self.assertEqual(len(recipe.corrections[0].columns), 2)
        changed = words("H", **recipe.model_dump(mode="json"))
        found = set_by_hand(changed.layout, changed.groups, "t", 0, "as found")
        self.assertEqual(found.corrections, ())
        for wrong, field in (
            ({"does": "pull", "column": 9}, "column"),
            ({"does": "pull", "at": (900.0, 900.0)}, "at"),
        ):
            with self.assertRaises(PieceError) as caught:
                set_by_hand(work.layout, work.groups, "t", 0, **wrong)
            self.assertEqual(caught.exception.problems[0].field, field)
        with self.assertRaises(PieceError):
            columns_seen(work.layout, work.groups, "t", 5)


if __name__ == "__main__":
    unittest.main()

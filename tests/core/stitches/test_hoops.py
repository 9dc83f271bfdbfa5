"""Hoops: the same stitches, split between letters."""

from __future__ import annotations

import unittest

import numpy as np

from tests.makings import document, workpiece
from ulvent.core.base.errors import PieceError
from ulvent.core.recipe.sewing import Hoop
from ulvent.core.stitches import What
from ulvent.core.stitches.hoops import hoopings


class Hoops(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        line = {"id": "l", "kind": "line", "length": 300}
        words = {"id": "t", "guide": "l", "text": "OAKTREE", "face": "lato-bold", "height": 22}
        cls.work = workpiece(document(guides=[line], letterings=[words], blank=None))

    def test_one_hoop_holds_all_where_it_can(self) -> None:
        (one,) = hoopings(self.work.embroidery, Hoop(width=300, height=100))
        self.assertEqual(one.marks.shape, (0, 2))
        wanted = np.concatenate([sewn.points for sewn in self.work.embroidery.sewn])
        np.testing.assert_array_equal(
            np.concatenate([sewn.points for sewn in one.embroidery.sewn]), wanted
        )

    def test_a_split_keeps_every_stitch_and_shares_its_marks(self) -> None:
        hoop = Hoop(width=80, height=60, basting=True)
        every = hoopings(self.work.embroidery, hoop)
        self.assertGreater(len(every), 1)
        sewn = [
            one.points for hooping in every for one in hooping.embroidery.sewn
            if one.kind != What.MARK and one.lettering
        ]  # fmt: skip
        wanted = [one.points for one in self.work.embroidery.sewn]
        np.testing.assert_array_equal(np.concatenate(sewn), np.concatenate(wanted))
        for before, after in zip(every[:-1], every[1:], strict=True):
            shared = [mark for mark in before.marks.tolist() if mark in after.marks.tolist()]
            self.assertEqual(len(shared), 2)
        for hooping in every:
            x0, y0, x1, y1 = hooping.embroidery.bounds or (0.0, 0.0, 0.0, 0.0)
            self.assertLessEqual(x1 - x0, hoop.width + 1e-6)
            self.assertLessEqual(y1 - y0, hoop.height + 1e-6)
            self.assertEqual(hooping.embroidery.sewn[0].name, "Basting")

    def test_turned_it_holds_what_it_does_not_hold_upright(self) -> None:
        work = self.work.embroidery
        self.assertEqual(len(hoopings(work, Hoop(width=60, height=170, turned=True))), 1)
        self.assertGreater(len(hoopings(work, Hoop(width=60, height=170))), 1)

    def test_a_letter_is_never_split(self) -> None:
        with self.assertRaises(PieceError) as caught:
            hoopings(self.work.embroidery, Hoop(width=21, height=20))
        self.assertIn("cannot be split", str(caught.exception))

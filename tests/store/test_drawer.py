"""The drawer of guides, with PostgreSQL."""

from __future__ import annotations

import unittest
from uuid import uuid4

from tests import zoo
from tests.throwaway import empty_engine
from ulvent.core.base.errors import PieceError
from ulvent.core.guides import guide_curves
from ulvent.demo.first_drawer import DRAWER_NOTE, drawer_guides
from ulvent.store.drawer import Drawer, NoSuchGuideError


class Saved(unittest.TestCase):
    def setUp(self) -> None:
        self.drawer = Drawer(empty_engine())

    def names(self, words: str = "") -> list[str]:
        return [saved.name for saved in self.drawer.find(words)]

    def test_every_kind_comes_out_as_it_went_in(self) -> None:
        for name in zoo.RECIPES:
            saved = self.drawer.save(name, zoo.guide(name))
            self.assertEqual(self.drawer.get(saved.id).guide, zoo.guide(name))

    def test_found_by_any_words_of_its_name(self) -> None:
        for name in ("Tin lid, rounded", "Barrel head", "50 % larger"):
            self.drawer.save(name, zoo.guide("circle"))
        self.assertEqual(self.names("LID tin"), ["Tin lid, rounded"])
        self.assertEqual(self.names("%"), ["50 % larger"])
        self.assertEqual(self.names("nothing"), [])
        self.assertEqual(self.names(), ["50 % larger", "Barrel head", "Tin lid, rounded"])

    def test_renamed_replaced_deleted_and_brought_back(self) -> None:
        saved = self.drawer.save("Ring", zoo.guide("circle"))
        self.drawer.change(saved.id, name="  Outer   ring ")
        self.drawer.change(saved.id, guide=zoo.guide("wave"))
        self.drawer.delete(saved.id)
        self.assertEqual(self.names(), [])
        back = self.drawer.restore(saved.id)
        self.assertEqual((back.name, back.guide), ("Outer ring", zoo.guide("wave")))

    def test_names_and_ids_are_checked(self) -> None:
        for name in ("", "   ", "x" * 121):
            with self.assertRaises(PieceError):
                self.drawer.save(name, zoo.guide("circle"))
        with self.assertRaises(NoSuchGuideError):
            self.drawer.get(uuid4())

    def test_twelve_are_there_from_the_start_and_stay_deleted(self) -> None:
        self.assertTrue(self.drawer.load_once(DRAWER_NOTE, drawer_guides()))
        self.assertEqual(len(self.names()), 12)
        self.drawer.delete(self.drawer.find("Snail")[0].id)
        self.assertFalse(self.drawer.load_once(DRAWER_NOTE, drawer_guides()))
        self.assertEqual(len(self.names()), 11)
        for guide in drawer_guides().values():
            self.assertGreater(guide_curves((guide,))[guide.id].length, 50)


if __name__ == "__main__":
    unittest.main()

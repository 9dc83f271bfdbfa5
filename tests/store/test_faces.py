"""Added faces, with PostgreSQL."""

from __future__ import annotations

import unittest

from tests.throwaway import empty_engine
from ulvent.store.added_faces import Faces, NoSuchFaceError, id_of


class Added(unittest.TestCase):
    def setUp(self) -> None:
        self.faces = Faces(empty_engine())

    def test_a_file_comes_out_as_it_went_in(self) -> None:
        stored = self.faces.add("Orchard Script", b"\0\1\xff", {"format": "ttf"})
        self.assertEqual(self.faces.data(stored.id), b"\0\1\xff")
        self.assertEqual(self.faces.get(stored.id).facts, {"format": "ttf"})
        self.assertEqual([face.name for face in self.faces.all()], ["Orchard Script"])

    def test_what_is_taken_out_is_still_there_for_what_is_set_in_it(self) -> None:
        stored = self.faces.add("Orchard", b"one", {})
        self.faces.remove(stored.id)
        self.assertEqual(self.faces.all(), [])
        self.assertEqual(self.faces.data(stored.id), b"one")
        self.assertFalse(self.faces.get(stored.id).offered)
        self.assertTrue(self.faces.restore(stored.id).offered)
        self.faces.remove(stored.id)
        self.assertTrue(self.faces.add("Orchard", b"one", {}).offered)

    def test_the_same_file_has_the_same_id_everywhere(self) -> None:
        self.assertEqual(id_of("Ährenfeld No 2", b"x"), id_of("Ährenfeld No 2", b"x"))
        self.assertRegex(id_of("Ährenfeld No 2", b"x"), r"^ahrenfeld-no-2-[0-9a-f]{6}$")
        self.assertNotEqual(id_of("A", b"x"), id_of("A", b"y"))
        self.assertRegex(id_of("书", b"x"), r"^face-")

    def test_a_face_that_was_never_added_is_named(self) -> None:
        with self.assertRaisesRegex(NoSuchFaceError, "“none”"):
            self.faces.data("none")

"""Revisions, undo, stale writes and deletion, on a real PostgreSQL."""

from __future__ import annotations

import threading
import unittest
from uuid import uuid4

from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext

from tests.throwaway import empty_engine
from ulvent.core.recipe import Piece
from ulvent.demo import barrel_head, demo_pieces
from ulvent.store.pieces import (
    NoSuchPieceError,
    NothingToStepToError,
    Pieces,
    StaleRevisionError,
    StoredPiece,
)
from ulvent.store.tables import Base


def titled(piece: Piece, title: str) -> Piece:
    return piece.model_copy(update={"title": title})


class PiecesTest(unittest.TestCase):
    def setUp(self) -> None:
        self.engine = empty_engine()
        self.pieces = Pieces(self.engine)
        self.first = self.pieces.create(barrel_head())

    def save(self, stored: StoredPiece, title: str) -> StoredPiece:
        return self.pieces.save(stored.id, stored.revision, titled(stored.piece, title))


class Revisions(PiecesTest):
    def test_a_piece_comes_back_as_it_was_put_in(self) -> None:
        self.assertEqual(self.pieces.get(self.first.id).piece, barrel_head())

    def test_every_change_is_a_revision_that_stays(self) -> None:
        second = self.save(self.first, "Second")
        self.assertEqual(self.pieces.revision(self.first.id, self.first.revision).title,
                         "Barrel head")  # fmt: skip
        self.assertEqual(self.pieces.revision(self.first.id, second.revision).title, "Second")

    def test_saving_what_is_there_already_makes_no_revision(self) -> None:
        same = self.pieces.save(self.first.id, self.first.revision, barrel_head())
        self.assertEqual(same.revision, self.first.revision)

    def test_undo_and_redo_walk_them(self) -> None:
        third = self.save(self.save(self.first, "Second"), "Third")
        self.assertTrue(third.can_undo)
        self.assertFalse(third.can_redo)
        back = self.pieces.undo(third.id, third.revision)
        self.assertEqual((back.piece.title, back.can_redo), ("Second", True))
        start = self.pieces.undo(back.id, back.revision)
        self.assertEqual((start.piece.title, start.can_undo), ("Barrel head", False))
        with self.assertRaises(NothingToStepToError):
            self.pieces.undo(start.id, start.revision)
        again = self.pieces.redo(start.id, start.revision)
        last = self.pieces.redo(again.id, again.revision)
        self.assertEqual(last.piece.title, "Third")
        with self.assertRaises(NothingToStepToError):
            self.pieces.redo(last.id, last.revision)

    def test_after_an_undo_a_change_goes_its_own_way(self) -> None:
        second = self.save(self.first, "Second")
        back = self.pieces.undo(second.id, second.revision)
        other = self.save(back, "Other")
        self.assertFalse(other.can_redo)
        self.assertEqual(self.pieces.revision(self.first.id, second.revision).title, "Second")

    def test_undo_survives_a_new_connection_and_is_per_piece(self) -> None:
        untouched = self.pieces.create(titled(barrel_head(), "Untouched"))
        self.save(self.first, "Second")
        self.engine.dispose()
        anew = Pieces(self.engine)
        self.assertTrue(anew.get(self.first.id).can_undo)
        self.assertFalse(anew.get(untouched.id).can_undo)


class StaleWrites(PiecesTest):
    def test_refused_with_both_sides_kept(self) -> None:
        theirs = self.save(self.first, "Theirs")
        with self.assertRaises(StaleRevisionError) as caught:
            self.save(self.first, "Ours")
        self.assertEqual(caught.exception.current.revision, theirs.revision)
        self.assertEqual(self.pieces.get(self.first.id).piece.title, "Theirs")
        kept = caught.exception.kept
        self.assertIsNotNone(kept)
        self.assertEqual(self.pieces.revision(self.first.id, kept or 0).title, "Ours")

    def test_a_refused_revision_is_nothing_to_redo(self) -> None:
        self.save(self.first, "Theirs")
        with self.assertRaises(StaleRevisionError):
            self.save(self.first, "Ours")
        current = self.pieces.get(self.first.id)
        back = self.pieces.undo(current.id, current.revision)
        self.assertEqual(self.pieces.redo(back.id, back.revision).piece.title, "Theirs")

    def test_undo_from_a_stale_page_is_refused(self) -> None:
        self.save(self.first, "Theirs")
        with self.assertRaises(StaleRevisionError):
            self.pieces.undo(self.first.id, self.first.revision)

    def test_of_many_at_once_one_wins_and_all_are_kept(self) -> None:
        outcomes: list[str] = []

        def write(number: int) -> None:
            try:
                self.save(self.first, f"Writer {number}")
                outcomes.append("kept")
            except StaleRevisionError as error:
                title = self.pieces.revision(self.first.id, error.kept or 0).title
                outcomes.append("refused" if title == f"Writer {number}" else "lost")

        threads = [threading.Thread(target=write, args=(number,)) for number in range(8)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(sorted(outcomes), ["kept"] + ["refused"] * 7)


class TheShelf(PiecesTest):
    def test_deleting_can_be_undone(self) -> None:
        self.pieces.delete(self.first.id)
        self.assertEqual(self.pieces.all(), [])
        self.assertEqual([p.id for p in self.pieces.all(deleted=True)], [self.first.id])
        self.pieces.restore(self.first.id)
        self.assertEqual(self.pieces.all()[0].piece, barrel_head())

    def test_duplicating_gives_a_piece_of_its_own(self) -> None:
        copy = self.pieces.duplicate(self.first.id)
        self.save(copy, "Changed")
        self.assertEqual(copy.piece.title, "Barrel head copy")
        self.assertEqual(self.pieces.get(self.first.id).piece.title, "Barrel head")

    def test_the_demo_is_loaded_once(self) -> None:
        self.assertTrue(self.pieces.load_once("demo", demo_pieces()))
        self.assertFalse(self.pieces.load_once("demo", demo_pieces()))
        self.assertEqual(len(self.pieces.all()), 1 + len(demo_pieces()))

    def test_what_is_not_there_is_said(self) -> None:
        for ask in (self.pieces.get, self.pieces.delete, self.pieces.duplicate):
            with self.subTest(ask.__name__), self.assertRaises(NoSuchPieceError):
                ask(uuid4())
        with self.assertRaises(NoSuchPieceError):
            self.pieces.revision(self.first.id, 10**9)


class Migrations(unittest.TestCase):
    def test_the_migrated_tables_are_the_models(self) -> None:
        with empty_engine().connect() as connection:
            context = MigrationContext.configure(connection)
            self.assertEqual(compare_metadata(context, Base.metadata), [])


if __name__ == "__main__":
    unittest.main()

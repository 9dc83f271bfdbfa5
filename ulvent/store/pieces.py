"""Keeping pieces: every finished change is a revision, and nothing is ever lost."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, datetime
from types import MappingProxyType
from typing import Any
from uuid import UUID

from sqlalchemy import Engine, func, select
from sqlalchemy.orm import Session, aliased

from ulvent.core.base.errors import UlventError
from ulvent.core.recipe import Piece, parse_piece
from ulvent.core.recipe.name_list import NameLeaf
from ulvent.store.name_leaves import Texts, document_of, leaf_texts
from ulvent.store.notes import first_time
from ulvent.store.tables import PieceRow, RevisionRow


class NoSuchPieceError(UlventError):
    """There is no piece, or no revision, with this id."""


class NothingToStepToError(UlventError):
    """There is nothing to undo, or nothing to redo."""


@dataclass(frozen=True)
class StoredPiece:
    """A piece at its current revision, and where undo and redo would lead."""

    id: UUID
    revision: int
    piece: Piece
    changed_at: datetime
    deleted: bool
    can_undo: bool
    can_redo: bool


class StaleRevisionError(UlventError):
    """A write that started from a revision that is no longer current.

    Both sides are kept: `current` is what is there, `kept` is the id of the
    revision under which the refused document was put away.
    """

    def __init__(self, current: StoredPiece, kept: int | None) -> None:
        self.current = current
        self.kept = kept
        super().__init__("the piece was changed elsewhere since; both versions are kept")


class Pieces:
    """All pieces of one database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def all(self, deleted: bool = False) -> list[StoredPiece]:
        """All pieces, the one changed last first; with `deleted`, only those."""
        is_deleted = PieceRow.deleted_at.is_not(None)
        query = select(PieceRow).where(is_deleted if deleted else ~is_deleted)
        with Session(self._engine) as session:
            rows = session.scalars(query.order_by(PieceRow.changed_at.desc(), PieceRow.id))
            return [_stored(session, row) for row in rows]

    def get(self, piece_id: UUID) -> StoredPiece:
        with Session(self._engine) as session:
            return _stored(session, _row(session, piece_id))

    def revision(self, piece_id: UUID, revision_id: int) -> Piece:
        """The document of any revision of a piece, current, past or refused."""
        with Session(self._engine) as session:
            revision = session.get(RevisionRow, revision_id)
            if revision is None or revision.piece_id != piece_id:
                raise NoSuchPieceError("this piece has no such revision")
            return parse_piece(revision.document)

    def texts_of(self, piece: Piece) -> dict[str, str]:
        """What rows of its list that are kept apart are, by the names of their leaves."""
        return self.leaf_texts(piece.names.leaves) if piece.names else {}

    def leaf_texts(self, leaves: Iterable[NameLeaf]) -> dict[str, str]:
        """What rows that are kept apart are, by the names of their leaves."""
        with Session(self._engine) as session:
            return leaf_texts(session, leaves)

    def create(self, piece: Piece, texts: Texts = MappingProxyType({})) -> StoredPiece:
        """A new piece.

        texts
            of leaves that its list names and that may not be kept yet
        """
        with Session(self._engine) as session, session.begin():
            return _created(session, piece, texts)

    def duplicate(self, piece_id: UUID) -> StoredPiece:
        """A new piece with the same document and “copy” in its title."""
        with Session(self._engine) as session, session.begin():
            original = _stored(session, _row(session, piece_id)).piece
            title = f"{original.title[:190]} copy".strip()
            return _created(session, original.model_copy(update={"title": title}))

    def save(
        self, piece_id: UUID, base: int, piece: Piece, texts: Texts = MappingProxyType({})
    ) -> StoredPiece:
        """Make `piece` the current revision, if `base` still is.

        texts
            of leaves that its list names and that may not be kept yet

        Raises
        ------
        StaleRevisionError
            If it is not; `piece` is then put away as a refused revision.
        """
        with Session(self._engine) as session, session.begin():
            row = _row(session, piece_id, lock=True)
            document = document_of(session, piece, texts)
            if row.current_id == base:
                if _current(session, row).document != document:
                    _step(row, _new_revision(session, row, base, document).id)
                    session.flush()
                return _stored(session, row)
            current = _stored(session, row)
            known_base = session.get(RevisionRow, base)
            parent = base if known_base and known_base.piece_id == piece_id else None
            kept = _new_revision(session, row, parent, document, refused=True).id
        raise StaleRevisionError(current, kept)

    def undo(self, piece_id: UUID, base: int) -> StoredPiece:
        """Step back to the revision before `base`, which must be current."""
        with Session(self._engine) as session, session.begin():
            row = self._row_at(session, piece_id, base)
            parent = _current(session, row).parent_id
            if parent is None:
                raise NothingToStepToError("there is nothing to undo")
            _step(row, parent)
            session.flush()
            return _stored(session, row)

    def redo(self, piece_id: UUID, base: int) -> StoredPiece:
        """Step forward again to the newest revision that was made from `base`."""
        with Session(self._engine) as session, session.begin():
            row = self._row_at(session, piece_id, base)
            child = _newest_child(session, base)
            if child is None:
                raise NothingToStepToError("there is nothing to redo")
            _step(row, child)
            session.flush()
            return _stored(session, row)

    def delete(self, piece_id: UUID) -> None:
        """Take a piece off the shelf; `restore` brings it back."""
        with Session(self._engine) as session, session.begin():
            _row(session, piece_id, lock=True).deleted_at = datetime.now(UTC)

    def restore(self, piece_id: UUID) -> StoredPiece:
        with Session(self._engine) as session, session.begin():
            row = _row(session, piece_id, lock=True)
            row.deleted_at = None
            session.flush()
            return _stored(session, row)

    def load_once(self, name: str, pieces: list[Piece]) -> bool:
        """Create `pieces` unless this was done before under `name`; whether it was done now."""
        with Session(self._engine) as session, session.begin():
            if not first_time(session, name):
                return False
            for piece in pieces:
                _created(session, piece)
            return True

    def _row_at(self, session: Session, piece_id: UUID, base: int) -> PieceRow:
        row = _row(session, piece_id, lock=True)
        if row.current_id != base:
            raise StaleRevisionError(_stored(session, row), None)
        return row


def _row(session: Session, piece_id: UUID, lock: bool = False) -> PieceRow:
    row = session.get(PieceRow, piece_id, with_for_update=lock)
    if row is None:
        raise NoSuchPieceError("there is no such piece")
    return row


def _current(session: Session, row: PieceRow) -> RevisionRow:
    revision = session.get(RevisionRow, row.current_id)
    assert revision is not None, "a piece always has a current revision"
    return revision


def _created(session: Session, piece: Piece, texts: Texts = MappingProxyType({})) -> StoredPiece:
    row = PieceRow()
    session.add(row)
    session.flush()
    _step(row, _new_revision(session, row, None, document_of(session, piece, texts)).id)
    session.flush()
    return _stored(session, row)


def _new_revision(
    session: Session,
    row: PieceRow,
    parent: int | None,
    document: dict[str, Any],
    refused: bool = False,
) -> RevisionRow:
    revision = RevisionRow(piece_id=row.id, parent_id=parent, document=document, refused=refused)
    session.add(revision)
    session.flush()
    return revision


def _step(row: PieceRow, revision_id: int) -> None:
    row.current_id = revision_id
    row.changed_at = datetime.now(UTC)


def _newest_child(session: Session, revision_id: int) -> int | None:
    child = aliased(RevisionRow)
    newest: int | None = session.scalar(
        select(func.max(child.id)).where(child.parent_id == revision_id, ~child.refused)
    )
    return newest


def _stored(session: Session, row: PieceRow) -> StoredPiece:
    current = _current(session, row)
    return StoredPiece(
        id=row.id,
        revision=current.id,
        piece=parse_piece(current.document),
        changed_at=row.changed_at,
        deleted=row.deleted_at is not None,
        can_undo=current.parent_id is not None,
        can_redo=_newest_child(session, current.id) is not None,
    )

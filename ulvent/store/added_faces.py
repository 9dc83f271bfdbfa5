"""Faces that a maker has added: font files under ids that stay.

A file's id holds part of its checksum, so that the same file has the same id in every
database, and a piece that was set in it finds it again. A face that is taken out is only
no longer offered: what is set in it keeps it.
"""

from __future__ import annotations

import hashlib
import re
import unicodedata
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from ulvent.core.base.errors import UlventError
from ulvent.store.tables import FaceRow


class NoSuchFaceError(UlventError):
    """There is no added face with this id."""


@dataclass(frozen=True)
class StoredFace:
    """An added face: its id, its name, the facts found when it was tried, and whether it
    is offered."""

    id: str
    name: str
    facts: dict[str, Any]
    offered: bool


class Faces:
    """All added faces of one database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def all(self) -> list[StoredFace]:
        """The faces that are offered, by name."""
        query = select(FaceRow).where(FaceRow.removed_at.is_(None)).order_by(FaceRow.name)
        with Session(self._engine) as session:
            return [_stored(row) for row in session.scalars(query)]

    def get(self, face_id: str) -> StoredFace:
        with Session(self._engine) as session:
            return _stored(_row(session, face_id))

    def data(self, face_id: str) -> bytes:
        """The font file, also of a face that is no longer offered."""
        with Session(self._engine) as session:
            return _row(session, face_id).data

    def add(self, name: str, data: bytes, facts: dict[str, Any]) -> StoredFace:
        """Keep a font file; one that is there already is offered again."""
        face_id = id_of(name, data)
        with Session(self._engine) as session, session.begin():
            row = session.get(FaceRow, face_id)
            if row is None:
                row = FaceRow(id=face_id, name=name, data=data, facts=facts)
                session.add(row)
            row.removed_at = None
            session.flush()
            return _stored(row)

    def remove(self, face_id: str) -> None:
        """Offer a face no longer; `restore` offers it again."""
        with Session(self._engine) as session, session.begin():
            _row(session, face_id).removed_at = datetime.now(UTC)

    def restore(self, face_id: str) -> StoredFace:
        with Session(self._engine) as session, session.begin():
            row = _row(session, face_id)
            row.removed_at = None
            session.flush()
            return _stored(row)


def id_of(name: str, data: bytes) -> str:
    """`orchard-script-3fa9c2` for a file named so inside."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    stem = re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:60] or "face"
    return f"{stem}-{hashlib.sha256(data).hexdigest()[:6]}"


def _row(session: Session, face_id: str) -> FaceRow:
    row = session.get(FaceRow, face_id)
    if row is None:
        raise NoSuchFaceError(f"there is no added face “{face_id}”")
    return row


def _stored(row: FaceRow) -> StoredFace:
    return StoredFace(row.id, row.name, row.facts, row.removed_at is None)

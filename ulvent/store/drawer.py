"""The drawer: guides saved under a name, to be put into any piece."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime
from uuid import UUID

from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from ulvent.core.base.errors import FieldProblem, PieceError, UlventError
from ulvent.core.base.fields import plain_text
from ulvent.core.guides.kinds import AnyGuide
from ulvent.core.recipe import parse_guide
from ulvent.store.notes import first_time
from ulvent.store.tables import DrawerRow

LONGEST_NAME = 120


class NoSuchGuideError(UlventError):
    """There is no guide in the drawer with this id."""


@dataclass(frozen=True)
class SavedGuide:
    """A guide in the drawer."""

    id: UUID
    name: str
    guide: AnyGuide


class Drawer:
    """All saved guides of one database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def find(self, words: str = "") -> list[SavedGuide]:
        """The guides whose names hold all of `words`, by name."""
        query = select(DrawerRow).where(DrawerRow.deleted_at.is_(None))
        for word in words.split():
            query = query.where(DrawerRow.name.icontains(word, autoescape=True))
        with Session(self._engine) as session:
            rows = session.scalars(query.order_by(DrawerRow.name, DrawerRow.created_at))
            return [_saved(row) for row in rows]

    def get(self, guide_id: UUID) -> SavedGuide:
        with Session(self._engine) as session:
            return _saved(_row(session, guide_id))

    def save(self, name: str, guide: AnyGuide) -> SavedGuide:
        with Session(self._engine) as session, session.begin():
            row = DrawerRow(name=_checked(name), recipe=guide.model_dump(mode="json"))
            session.add(row)
            session.flush()
            return _saved(row)

    def change(
        self, guide_id: UUID, name: str | None = None, guide: AnyGuide | None = None
    ) -> SavedGuide:
        """Rename a guide, or replace its recipe."""
        with Session(self._engine) as session, session.begin():
            row = _row(session, guide_id)
            if name is not None:
                row.name = _checked(name)
            if guide is not None:
                row.recipe = guide.model_dump(mode="json")
            row.changed_at = datetime.now(UTC)
            session.flush()
            return _saved(row)

    def delete(self, guide_id: UUID) -> None:
        """Take a guide out of the drawer; `restore` brings it back."""
        with Session(self._engine) as session, session.begin():
            _row(session, guide_id).deleted_at = datetime.now(UTC)

    def restore(self, guide_id: UUID) -> SavedGuide:
        with Session(self._engine) as session, session.begin():
            row = _row(session, guide_id)
            row.deleted_at = None
            session.flush()
            return _saved(row)

    def load_once(self, note: str, guides: dict[str, AnyGuide]) -> bool:
        """Save `guides` by name unless this was done before under `note`; whether it was now."""
        with Session(self._engine) as session, session.begin():
            if not first_time(session, note):
                return False
            session.add_all(
                DrawerRow(name=name, recipe=guide.model_dump(mode="json"))
                for name, guide in guides.items()
            )
            return True


def _checked(name: str) -> str:
    try:
        name = " ".join(plain_text(name).split())
    except ValueError as error:
        raise PieceError([FieldProblem("name", str(error))]) from error
    if not name or len(name) > LONGEST_NAME:
        reason = "must not be empty" if not name else f"must have at most {LONGEST_NAME} characters"
        raise PieceError([FieldProblem("name", reason)])
    return name


def _row(session: Session, guide_id: UUID) -> DrawerRow:
    row = session.get(DrawerRow, guide_id)
    if row is None:
        raise NoSuchGuideError("there is no such guide in the drawer")
    return row


def _saved(row: DrawerRow) -> SavedGuide:
    return SavedGuide(row.id, row.name, parse_guide(row.recipe))

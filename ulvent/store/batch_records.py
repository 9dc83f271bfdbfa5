"""Batches: lists that workers make, row by row, and what came of each.

Every step is kept by itself and can be done again without harm, so that a worker, the server or
the database may be ended at any moment: what was made stays, and nothing is made twice.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any, NamedTuple
from uuid import UUID

from pydantic import TypeAdapter
from sqlalchemy import Engine, delete, func, select, text
from sqlalchemy.orm import Session

from ulvent.core.recipe.name_list import OwnOfRow
from ulvent.core.series.matched import title_of
from ulvent.store.batch_stages import hand_out_left, row_of
from ulvent.store.queue import withdraw
from ulvent.store.tables import (
    BatchLineRow,
    BatchRow,
    BatchSheetRow,
    BatchState,
    KeptRow,
    Stage,
)

MOST_ENDED = 50
"""So many batches that have ended are kept."""


class Line(NamedTuple):
    """A row as it goes into a batch: its number, its cells, what it has for itself, and how often
    it lies on sheets."""

    number: int
    cells: tuple[str, ...]
    own: OwnOfRow
    times: int = 1

    @property
    def title(self) -> str:
        return title_of(self.cells)


def lines_text(lines: Sequence[Line]) -> str:
    """Rows as JSON: what the database makes lines of."""
    return _LINES_AS_JSON.dump_json([*lines], exclude_defaults=True).decode()


_LINES_AS_JSON = TypeAdapter(list[tuple[int, tuple[str, ...], OwnOfRow, int]])
"""Of a row of a list, which has more fields, what it has for itself alone is written."""


class Order(NamedTuple):
    """What a batch is begun with.

    columns
        the field of each column; none: the piece is made as it stands
    lines
        as `lines_text` has them: there may be fifty thousand
    """

    title: str
    document: dict[str, Any]
    columns: Sequence[str]
    wanted: dict[str, Any]
    lines: str
    one_height: bool


@dataclass(frozen=True)
class Batch:
    """A list that is made, as `tables.BatchRow` keeps it, without the pattern."""

    id: UUID
    piece_id: UUID
    title: str
    columns: list[str]
    wanted: dict[str, Any]
    stage: Stage
    state: BatchState
    reason: str
    heights: dict[str, float]
    said: dict[str, float]
    made_at: datetime
    ended_at: datetime | None

    @property
    def alone(self) -> bool:
        """Whether there is no list: the piece is made as it stands."""
        return not self.columns


@dataclass(frozen=True)
class Progress:
    """How far a batch has come: so many rows of it, those measured for one height, those made,
    those of them that fit, and the attempts that were lost; sheets, and those written."""

    rows: int
    measured: int
    made: int
    fit: int
    lost: int
    sheets: int
    written: int


class LaidSheet(NamedTuple):
    """A sheet: its width and height, mm, and the rows on it: the number of each, and the map (2, 3)
    from its own plane to the sheet."""

    size: tuple[float, float]
    lie: list[Any]


class MadeLine(NamedTuple):
    """What there is to say of a row that was made."""

    number: int
    title: str
    fits: bool
    reason: str


_LINES = text(
    "INSERT INTO batch_line"
    " (batch_id, number, cells, own, times, state, attempts, least, title, reason)"
    " SELECT :batch, (line->>0)::int, line->1, line->2, (line->>3)::int, 'waiting', 0, '{}', '', ''"
    " FROM jsonb_array_elements(CAST(:lines AS jsonb)) AS line"
)


class Batches:
    """All batches of one database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def begin(self, piece_id: UUID, order: Order) -> UUID:
        """Have a list made: it is kept and handed out to workers, or neither."""
        with Session(self._engine) as session, session.begin():
            row = BatchRow(
                piece_id=piece_id, title=order.title, document=order.document,
                columns=list(order.columns), wanted=order.wanted,
                stage="heights" if order.one_height else "rows", state="running",
            )  # fmt: skip
            session.add(row)
            session.flush()
            session.execute(_LINES, {"batch": row.id, "lines": order.lines})
            hand_out_left(session, row)
            self._forget_oldest(session)
            return row.id

    def get(self, batch_id: UUID) -> Batch:
        with Session(self._engine) as session:
            return _batch(row_of(session, batch_id))

    def document(self, batch_id: UUID) -> dict[str, Any]:
        """The pattern, as it was when the batch was begun."""
        with Session(self._engine) as session:
            return row_of(session, batch_id).document

    def all(self, piece_id: UUID | None = None) -> list[tuple[Batch, Progress]]:
        """All that are kept, or those of one piece, the newest first."""
        query = select(BatchRow).order_by(BatchRow.made_at.desc())
        if piece_id is not None:
            query = query.where(BatchRow.piece_id == piece_id)
        with Session(self._engine) as session:
            rows = session.scalars(query).all()
            come = _progress(session, [row.id for row in rows])
            return [(_batch(row), come[row.id]) for row in rows]

    def busy(self) -> bool:
        """Whether any is being made."""
        with Session(self._engine) as session:
            query = select(BatchRow.id).where(BatchRow.state == "running").limit(1)
            return session.scalar(query) is not None

    def progress(self, batch_id: UUID) -> Progress:
        with Session(self._engine) as session:
            return _progress(session, [batch_id])[batch_id]

    def unfit(self, batch_id: UUID, most: int) -> list[MadeLine]:
        """Rows that do not fit, in their order."""
        query = (
            select(BatchLineRow)
            .where(BatchLineRow.batch_id == batch_id, BatchLineRow.fits.is_(False))
            .order_by(BatchLineRow.number)
            .limit(most)
        )
        with Session(self._engine) as session:
            return [_made(line) for line in session.scalars(query)]

    def cancel(self, batch_id: UUID) -> None:
        """What is not made yet is not made; what is made stays."""
        self._end(batch_id, "cancelled")

    def fail(self, batch_id: UUID, reason: str) -> None:
        """It cannot be made, and why."""
        self._end(batch_id, "failed", reason)

    def forget(self, batch_id: UUID) -> None:
        """Take a batch away; what was made for it stays known for a while."""
        with Session(self._engine) as session, session.begin():
            session.delete(row_of(session, batch_id))
            withdraw(session, batch_id)

    def files(self, batch_id: UUID) -> Iterator[tuple[MadeLine, bytes]]:
        """The files that were made, in their order, a few at a time from the database."""
        query = (
            select(BatchLineRow, KeptRow.data)
            .join(KeptRow, KeptRow.key == BatchLineRow.key)
            .where(BatchLineRow.batch_id == batch_id, func.length(KeptRow.data) > 0)
            .order_by(BatchLineRow.number)
            .execution_options(yield_per=20)
        )
        with Session(self._engine) as session:
            for line, data in session.execute(query):
                yield _made(line), data
                session.expunge(line)

    def sheets(self, batch_id: UUID) -> Iterator[tuple[int, LaidSheet, bytes | None]]:
        """The sheets: their numbers from 0, what lies on them, and their files."""
        query = (
            select(BatchSheetRow)
            .where(BatchSheetRow.batch_id == batch_id)
            .order_by(BatchSheetRow.number)
        )
        with Session(self._engine) as session:
            for row in session.scalars(query):
                yield row.number, laid_sheet(row), row.data

    def lines(self, batch_id: UUID, numbers: Sequence[int]) -> dict[int, Line]:
        """Rows by their numbers."""
        query = select(BatchLineRow).where(
            BatchLineRow.batch_id == batch_id, BatchLineRow.number.in_(numbers)
        )
        with Session(self._engine) as session:
            return {row.number: line_of(row) for row in session.scalars(query)}

    def _end(self, batch_id: UUID, state: BatchState, reason: str = "") -> None:
        with Session(self._engine) as session, session.begin():
            row = row_of(session, batch_id, locked=True)
            if row.state == "running":
                row.state, row.reason, row.ended_at = state, reason[:1024], func.now()
                # What waits behind it need not see its tasks off one by one.
                withdraw(session, batch_id)

    def _forget_oldest(self, session: Session) -> None:
        ended = select(BatchRow.id).where(BatchRow.state != "running")
        old = ended.order_by(BatchRow.made_at.desc()).offset(MOST_ENDED)
        session.execute(delete(BatchRow).where(BatchRow.id.in_(old)))


def _batch(row: BatchRow) -> Batch:
    return Batch(
        row.id, row.piece_id, row.title, row.columns, row.wanted, row.stage,
        row.state, row.reason, row.heights, row.said, row.made_at, row.ended_at,
    )  # fmt: skip


def laid_sheet(row: BatchSheetRow) -> LaidSheet:
    width, height = row.size
    return LaidSheet((width, height), row.lie)


def line_of(row: BatchLineRow) -> Line:
    return Line(row.number, tuple(row.cells), OwnOfRow.model_validate(row.own), row.times)


def _made(line: BatchLineRow) -> MadeLine:
    return MadeLine(line.number, line.title, bool(line.fits), line.reason)


def _progress(session: Session, batches: Sequence[UUID]) -> dict[UUID, Progress]:
    line, sheet = BatchLineRow, BatchSheetRow
    rows = session.execute(
        select(
            line.batch_id,
            func.count(),
            func.count().filter(line.state != "waiting"),
            func.count().filter(line.state == "made"),
            func.count().filter(line.fits.is_(True)),
            func.coalesce(func.sum(func.greatest(line.attempts - 1, 0)), 0),
        )
        .where(line.batch_id.in_(batches))
        .group_by(line.batch_id)
    ).all()
    sheets = session.execute(
        select(sheet.batch_id, func.count(), func.count(sheet.data))
        .where(sheet.batch_id.in_(batches))
        .group_by(sheet.batch_id)
    ).all()
    of_rows = {key: counts for key, *counts in rows}
    of_sheets = {key: counts for key, *counts in sheets}
    return {
        key: Progress(*of_rows.get(key, [0] * 5), *of_sheets.get(key, [0] * 2)) for key in batches
    }

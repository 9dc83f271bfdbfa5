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

from sqlalchemy import Engine, delete, func, select, text, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from ulvent.core.base.errors import UlventError
from ulvent.core.series.matched import title_of
from ulvent.store.queue import hand_out, outstanding
from ulvent.store.tables import (
    BatchLineRow,
    BatchRow,
    BatchSheetRow,
    BatchState,
    KeptRow,
    Stage,
)

CHUNK = 8
"""Rows of a step: it takes a second or two, and may be lost."""
MOST_ENDED = 50
"""So many batches that have ended are kept."""
KEPT_BYTES = 500_000_000
"""Of results that no batch has any more."""
TASKS: dict[Stage, str] = {
    "heights": "heights", "rows": "rows", "nesting": "nest", "sheets": "sheet",
}  # fmt: skip
"""The task by which each stage is done."""


class NoSuchBatchError(UlventError):
    """There is no batch with this id."""


class Line(NamedTuple):
    """A row as it goes into a batch: its number, its cells, and heights of its own."""

    number: int
    cells: Sequence[str]
    heights: dict[str, float]

    @property
    def title(self) -> str:
        return title_of(self.cells)


@dataclass(frozen=True)
class Batch:
    """A list that is made, as `tables.BatchRow` keeps it."""

    id: UUID
    piece_id: UUID
    title: str
    document: dict[str, Any]
    columns: list[str]
    wanted: dict[str, Any]
    stage: Stage
    state: BatchState
    reason: str
    heights: dict[str, float]
    said: dict[str, float]
    made_at: datetime
    ended_at: datetime | None


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


class MadeLine(NamedTuple):
    """What there is to say of a row that was made."""

    number: int
    title: str
    fits: bool
    reason: str


class Kept(NamedTuple):
    """What came of a row's words, wherever they stand: what there is to say, and its file."""

    made: dict[str, Any]
    data: bytes


class Batches:
    """All batches of one database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    # ------------------------------------------------------------ by who wants something

    def begin(
        self, piece_id: UUID, title: str, document: dict[str, Any], columns: Sequence[str],
        wanted: dict[str, Any], lines: Sequence[Line], one_height: bool,
    ) -> UUID:  # fmt: skip
        """Have a list made: it is kept and handed out to workers, or neither."""
        with Session(self._engine) as session, session.begin():
            row = BatchRow(
                piece_id=piece_id, title=title, document=document, columns=list(columns),
                wanted=wanted, stage="heights" if one_height else "rows", state="running",
            )  # fmt: skip
            session.add(row)
            session.flush()
            values = [
                {"batch_id": row.id, "number": one.number, "cells": list(one.cells),
                 "heights": one.heights}
                for one in lines
            ]  # fmt: skip
            if values:
                session.execute(insert(BatchLineRow), values)
            self._hand_out(session, row)
            self._forget_oldest(session)
            return row.id

    def get(self, batch_id: UUID) -> Batch:
        with Session(self._engine) as session:
            return _batch(_row(session, batch_id))

    def all(self) -> list[tuple[Batch, Progress]]:
        """All that are kept, the newest first."""
        with Session(self._engine) as session:
            rows = session.scalars(select(BatchRow).order_by(BatchRow.made_at.desc())).all()
            return [(_batch(row), _progress(session, row.id)) for row in rows]

    def busy(self) -> bool:
        """Whether any is being made."""
        with Session(self._engine) as session:
            query = select(BatchRow.id).where(BatchRow.state == "running").limit(1)
            return session.scalar(query) is not None

    def progress(self, batch_id: UUID) -> Progress:
        with Session(self._engine) as session:
            return _progress(session, batch_id)

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
            session.delete(_row(session, batch_id))

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

    def sheets(self, batch_id: UUID) -> Iterator[tuple[int, list[Any], bytes | None]]:
        """The sheets: their numbers from 0, what lies on them, and their files."""
        query = (
            select(BatchSheetRow)
            .where(BatchSheetRow.batch_id == batch_id)
            .order_by(BatchSheetRow.number)
        )
        with Session(self._engine) as session:
            for row in session.scalars(query):
                yield row.number, row.lie, row.data

    # ---------------------------------------------------------------------- by workers

    def left(self, batch_id: UUID, numbers: Sequence[int], done: Sequence[str]) -> list[Line]:
        """Rows of a batch that runs, those that are not in one of these states yet."""
        query = (
            select(BatchLineRow)
            .join(BatchRow, BatchRow.id == BatchLineRow.batch_id)
            .where(
                BatchLineRow.batch_id == batch_id,
                BatchLineRow.number.in_(numbers),
                BatchLineRow.state.not_in(done),
                BatchRow.state == "running",
            )
            .order_by(BatchLineRow.number)
        )
        with Session(self._engine) as session:
            return [_line(row) for row in session.scalars(query)]

    def lines(self, batch_id: UUID, numbers: Sequence[int]) -> dict[int, Line]:
        """Rows by their numbers."""
        query = select(BatchLineRow).where(
            BatchLineRow.batch_id == batch_id, BatchLineRow.number.in_(numbers)
        )
        with Session(self._engine) as session:
            return {row.number: _line(row) for row in session.scalars(query)}

    def attempt(self, batch_id: UUID, number: int) -> int:
        """Write down that a row is begun; how often it was, with this time."""
        query = (
            update(BatchLineRow)
            .where(BatchLineRow.batch_id == batch_id, BatchLineRow.number == number)
            .values(attempts=BatchLineRow.attempts + 1)
            .returning(BatchLineRow.attempts)
        )
        with Session(self._engine) as session, session.begin():
            return session.scalar(query) or 0

    def measured(self, batch_id: UUID, number: int, least: dict[str, float]) -> None:
        """Write down the heights that fit a row."""
        with Session(self._engine) as session, session.begin():
            session.execute(
                update(BatchLineRow)
                .where(
                    BatchLineRow.batch_id == batch_id,
                    BatchLineRow.number == number,
                    BatchLineRow.state == "waiting",
                )
                .values(state="measured", least=least, attempts=0)
            )

    def kept(self, key: str) -> dict[str, Any] | None:
        """What there is to say of a row that was made from the same before."""
        query = (
            update(KeptRow)
            .where(KeptRow.key == key)
            .values(used_at=func.now())
            .returning(KeptRow.made)
        )
        with Session(self._engine) as session, session.begin():
            return session.scalar(query)

    def line_made(
        self, batch_id: UUID, made: MadeLine, key: str | None, kept: Kept | None = None
    ) -> None:
        """Write down what came of a row, the first time that it is made, and keep it by its key.

        kept
            what came of it, where it was not kept before; made twice, it is the same
        """
        line = update(BatchLineRow).where(
            BatchLineRow.batch_id == batch_id,
            BatchLineRow.number == made.number,
            BatchLineRow.state != "made",
        )
        with Session(self._engine) as session, session.begin():
            if kept is not None:
                new = {"key": key, "made": kept.made, "data": kept.data}
                session.execute(insert(KeptRow).values(new).on_conflict_do_nothing())
            session.execute(
                line.values(
                    state="made", title=made.title, fits=made.fits, reason=made.reason, key=key
                )
            )

    def sheet(self, batch_id: UUID, number: int) -> list[Any] | None:
        """What lies on a sheet of a batch that runs; nothing where it is written already."""
        query = (
            select(BatchSheetRow.lie)
            .join(BatchRow, BatchRow.id == BatchSheetRow.batch_id)
            .where(
                BatchSheetRow.batch_id == batch_id, BatchSheetRow.number == number,
                BatchSheetRow.data.is_(None), BatchRow.state == "running",
            )
        )  # fmt: skip
        with Session(self._engine) as session:
            return session.scalar(query)

    def sheet_written(self, batch_id: UUID, number: int, data: bytes) -> None:
        with Session(self._engine) as session, session.begin():
            session.execute(
                update(BatchSheetRow)
                .where(BatchSheetRow.batch_id == batch_id, BatchSheetRow.number == number)
                .values(data=data)
            )

    def laid(self, batch_id: UUID, lying: Sequence[list[Any]], said: dict[str, float]) -> None:
        """Write down which rows lie on which sheet."""
        with Session(self._engine) as session, session.begin():
            row = _row(session, batch_id, locked=True)
            if row.state != "running" or row.stage != "nesting":
                return
            row.said = said
            session.add_all(
                BatchSheetRow(batch_id=batch_id, number=number, lie=lie)
                for number, lie in enumerate(lying)
            )
            self._next(session, row, "sheets" if lying else "end")

    def advance(self, batch_id: UUID) -> None:
        """Go on to the next stage, where all of this one is done."""
        with Session(self._engine) as session, session.begin():
            row = _row(session, batch_id, locked=True)
            if row.state != "running" or self._left(session, row):
                return
            if row.stage == "heights":
                least = select(BatchLineRow.least).where(BatchLineRow.batch_id == batch_id)
                row.heights = _least(session.scalars(least))
                self._next(session, row, "rows")
            elif row.stage == "rows":
                self._next(session, row, "nesting" if row.wanted.get("sheet") else "end")
            elif row.stage == "sheets":
                self._next(session, row, "end")

    def take_up(self) -> None:
        """Hand out again what runs and has nothing in the queue: a task that ended badly."""
        with Session(self._engine) as session:
            running = session.scalars(select(BatchRow.id).where(BatchRow.state == "running")).all()
        for batch_id in running:
            with Session(self._engine) as session, session.begin():
                row = _row(session, batch_id, locked=True)
                if row.state == "running" and not outstanding(session, batch_id):
                    self._hand_out(session, row)

    # ------------------------------------------------------------------------- inside

    def _end(self, batch_id: UUID, state: BatchState, reason: str = "") -> None:
        with Session(self._engine) as session, session.begin():
            row = _row(session, batch_id, locked=True)
            if row.state == "running":
                row.state, row.reason, row.ended_at = state, reason[:1024], func.now()

    def _next(self, session: Session, row: BatchRow, stage: Stage) -> None:
        row.stage = stage
        if stage == "end":
            row.state, row.ended_at = "done", func.now()
            _trim(session)
            return
        session.flush()
        self._hand_out(session, row)

    def _hand_out(self, session: Session, row: BatchRow) -> None:
        """Put into the queue what is left of a stage; where nothing is, what ends it."""
        numbers = self._left(session, row)
        size = 1 if row.stage == "sheets" else CHUNK
        steps = [numbers[k : k + size] for k in range(0, len(numbers), size)] or [[]]
        # Short lists need not wait for a long one that was begun before them.
        hand_out(session, TASKS[row.stage], row.id, steps, -len(str(len(steps))))

    def _left(self, session: Session, row: BatchRow) -> list[int]:
        """The rows or sheets that are left of a stage."""
        if row.stage == "nesting":
            return []
        if row.stage == "sheets":
            query = select(BatchSheetRow.number).where(
                BatchSheetRow.batch_id == row.id, BatchSheetRow.data.is_(None)
            )
            return list(session.scalars(query.order_by(BatchSheetRow.number)))
        done = ("made",) if row.stage == "rows" else ("measured", "made")
        left = select(BatchLineRow.number).where(
            BatchLineRow.batch_id == row.id, BatchLineRow.state.not_in(done)
        )
        return list(session.scalars(left.order_by(BatchLineRow.number)))

    def _forget_oldest(self, session: Session) -> None:
        ended = select(BatchRow.id).where(BatchRow.state != "running")
        old = ended.order_by(BatchRow.made_at.desc()).offset(MOST_ENDED)
        session.execute(delete(BatchRow).where(BatchRow.id.in_(old)))


def _trim(session: Session) -> None:
    """Results that no batch has: those that were used last are kept, up to a bound in bytes."""
    session.execute(
        text(
            "DELETE FROM kept_row WHERE key IN (SELECT key FROM ("
            " SELECT key, sum(length(data)) OVER (ORDER BY used_at DESC, key) AS bytes"
            " FROM kept_row WHERE NOT EXISTS"
            " (SELECT 1 FROM batch_line WHERE batch_line.key = kept_row.key)) AS unused"
            " WHERE bytes > :most)"
        ),
        {"most": KEPT_BYTES},
    )


def _row(session: Session, batch_id: UUID, locked: bool = False) -> BatchRow:
    row = session.get(BatchRow, batch_id, with_for_update=locked or None)
    if row is None:
        raise NoSuchBatchError(f"there is no batch {batch_id}")
    return row


def _batch(row: BatchRow) -> Batch:
    return Batch(
        row.id, row.piece_id, row.title, row.document, row.columns, row.wanted,
        row.stage, row.state, row.reason, row.heights, row.said, row.made_at, row.ended_at,
    )  # fmt: skip


def _line(row: BatchLineRow) -> Line:
    return Line(row.number, tuple(row.cells), row.heights)


def _made(line: BatchLineRow) -> MadeLine:
    return MadeLine(line.number, line.title, bool(line.fits), line.reason)


def _progress(session: Session, batch_id: UUID) -> Progress:
    line, sheet = BatchLineRow, BatchSheetRow
    rows, measured, made, fit, lost = session.execute(
        select(
            func.count(),
            func.count().filter(line.state != "waiting"),
            func.count().filter(line.state == "made"),
            func.count().filter(line.fits.is_(True)),
            func.coalesce(func.sum(func.greatest(line.attempts - 1, 0)), 0),
        ).where(line.batch_id == batch_id)
    ).one()
    sheets, written = session.execute(
        select(func.count(), func.count(sheet.data)).where(sheet.batch_id == batch_id)
    ).one()
    return Progress(rows, measured, made, fit, lost, sheets, written)


def _least(found: Iterator[dict[str, float]]) -> dict[str, float]:
    least: dict[str, float] = {}
    for one in found:
        for name, height in one.items():
            least[name] = min(height, least.get(name, height))
    return least

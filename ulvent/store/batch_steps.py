"""What workers read and write of a batch: each step by itself, and no harm where it comes twice."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, NamedTuple
from uuid import UUID

from sqlalchemy import Engine, func, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, defer

from ulvent.core.series.results import least_heights
from ulvent.store.batch_records import LaidSheet, Line, MadeLine, laid_sheet, line_of
from ulvent.store.batch_stages import enter, hand_out_left, is_left, row_of
from ulvent.store.queue import outstanding
from ulvent.store.tables import BatchLineRow, BatchRow, BatchSheetRow, KeptRow


class Kept(NamedTuple):
    """What came of a row's words, wherever they stand: what there is to say, and its file."""

    made: dict[str, Any]
    data: bytes


class BatchSteps:
    """The steps of all batches of one database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

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
            return [line_of(row) for row in session.scalars(query)]

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

    def known(self, batch_id: UUID, keys: Mapping[int, str]) -> set[int]:
        """Write down, by their numbers and keys, the rows that were made from the same before:
        those."""
        asked = (
            select(KeptRow)
            .where(KeptRow.key.in_(set(keys.values())))
            .order_by(KeptRow.key)
            .with_for_update()
            .options(defer(KeptRow.data))
        )
        with Session(self._engine) as session, session.begin():
            there = {row.key: row for row in session.scalars(asked)}
            for row in there.values():
                row.used_at = func.now()
            found = {number: there[key] for number, key in keys.items() if key in there}
            for number, kept in found.items():
                _write_down(session, batch_id, MadeLine(number, **kept.made), kept.key)
        return set(found)

    def line_made(
        self, batch_id: UUID, made: MadeLine, key: str | None, kept: Kept | None = None
    ) -> None:
        """Write down what came of a row, the first time that it is made, and keep it by its key.

        kept
            what came of it, where it was not kept before; made twice, it is the same
        """
        with Session(self._engine) as session, session.begin():
            if kept is not None:
                new = {"key": key, "made": kept.made, "data": kept.data}
                session.execute(insert(KeptRow).values(new).on_conflict_do_nothing())
            _write_down(session, batch_id, made, key)

    def sheet(self, batch_id: UUID, number: int) -> LaidSheet | None:
        """A sheet of a batch that runs; nothing where it is written already."""
        query = (
            select(BatchSheetRow)
            .join(BatchRow, BatchRow.id == BatchSheetRow.batch_id)
            .where(
                BatchSheetRow.batch_id == batch_id, BatchSheetRow.number == number,
                BatchSheetRow.data.is_(None), BatchRow.state == "running",
            )
        )  # fmt: skip
        with Session(self._engine) as session:
            found = session.scalar(query)
            return laid_sheet(found) if found else None

    def sheet_written(self, batch_id: UUID, number: int, data: bytes) -> None:
        with Session(self._engine) as session, session.begin():
            session.execute(
                update(BatchSheetRow)
                .where(BatchSheetRow.batch_id == batch_id, BatchSheetRow.number == number)
                .values(data=data)
            )

    def laid(self, batch_id: UUID, lying: Sequence[LaidSheet], said: dict[str, float]) -> None:
        """Write down which rows lie on which sheet."""
        with Session(self._engine) as session, session.begin():
            row = row_of(session, batch_id, locked=True)
            if row.state != "running" or row.stage != "nesting":
                return
            row.said = said
            session.add_all(
                BatchSheetRow(batch_id=batch_id, number=number, size=list(one.size), lie=one.lie)
                for number, one in enumerate(lying)
            )
            enter(session, row, "sheets" if lying else "end")

    def advance(self, batch_id: UUID) -> None:
        """Go on to the next stage, where all of this one is done."""
        with Session(self._engine) as session, session.begin():
            row = row_of(session, batch_id, locked=True)
            if row.state != "running" or is_left(session, row):
                return
            if row.stage == "heights":
                least = select(BatchLineRow.least).where(BatchLineRow.batch_id == batch_id)
                row.heights = least_heights(session.scalars(least))
                enter(session, row, "rows")
            elif row.stage == "rows":
                enter(session, row, "nesting" if row.wanted.get("sheet") else "end")
            elif row.stage == "sheets":
                enter(session, row, "end")

    def take_up(self) -> None:
        """Hand out again what runs and has nothing in the queue: a task that ended badly."""
        with Session(self._engine) as session:
            running = session.scalars(select(BatchRow.id).where(BatchRow.state == "running")).all()
        for batch_id in running:
            with Session(self._engine) as session, session.begin():
                row = row_of(session, batch_id, locked=True)
                if row.state == "running" and not outstanding(session, batch_id):
                    hand_out_left(session, row)


def _write_down(session: Session, batch_id: UUID, made: MadeLine, key: str | None) -> None:
    """What came of a row, the first time that it is made."""
    session.execute(
        update(BatchLineRow)
        .where(
            BatchLineRow.batch_id == batch_id,
            BatchLineRow.number == made.number,
            BatchLineRow.state != "made",
        )
        .values(state="made", title=made.title, fits=made.fits, reason=made.reason, key=key)
    )

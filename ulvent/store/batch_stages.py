"""The stages of a batch: what is left of each, and how the next one begins."""

from __future__ import annotations

from uuid import UUID

from sqlalchemy import Select, func, select, text
from sqlalchemy.orm import Session

from ulvent.core.base.errors import UlventError
from ulvent.store.queue import hand_out
from ulvent.store.tables import BatchLineRow, BatchRow, BatchSheetRow, Stage

CHUNK = 8
"""Rows of a step: it takes a second or two, and may be lost."""
KEPT_BYTES = 500_000_000
"""Of results that no batch has any more."""
TASKS: dict[Stage, str] = {
    "heights": "heights", "rows": "rows", "nesting": "nest", "sheets": "sheet",
}  # fmt: skip
"""The task by which each stage is done."""


class NoSuchBatchError(UlventError):
    """There is no batch with this id."""


def row_of(session: Session, batch_id: UUID, locked: bool = False) -> BatchRow:
    row = session.get(BatchRow, batch_id, with_for_update=locked or None)
    if row is None:
        raise NoSuchBatchError(f"there is no batch {batch_id}")
    return row


def enter(session: Session, row: BatchRow, stage: Stage) -> None:
    """Begin a stage; with the last, the batch is made."""
    row.stage = stage
    if stage == "end":
        row.state, row.ended_at = "done", func.now()
        _trim(session)
        return
    session.flush()
    hand_out_left(session, row)


def hand_out_left(session: Session, row: BatchRow) -> None:
    """Put into the queue what is left of a stage; where nothing is, what ends it."""
    numbers = left(session, row)
    size = 1 if row.stage == "sheets" else CHUNK
    steps = [numbers[k : k + size] for k in range(0, len(numbers), size)] or [[]]
    # Short lists need not wait for a long one that was begun before them.
    hand_out(session, TASKS[row.stage], row.id, steps, -len(str(len(steps))))


def left(session: Session, row: BatchRow) -> list[int]:
    """The rows or sheets that are left of a stage, in their order."""
    return sorted(session.scalars(_left(row))) if row.stage != "nesting" else []


def is_left(session: Session, row: BatchRow) -> bool:
    """Whether any row or sheet is left of a stage."""
    return row.stage != "nesting" and session.scalar(_left(row).limit(1)) is not None


def _left(row: BatchRow) -> Select[int]:
    if row.stage == "sheets":
        return select(BatchSheetRow.number).where(
            BatchSheetRow.batch_id == row.id, BatchSheetRow.data.is_(None)
        )
    # Said by what they are and not by what they are not: there is an index for that.
    states = ("waiting", "measured") if row.stage == "rows" else ("waiting",)
    return select(BatchLineRow.number).where(
        BatchLineRow.batch_id == row.id, BatchLineRow.state.in_(states)
    )


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

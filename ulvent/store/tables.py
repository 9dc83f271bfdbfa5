"""The tables: pieces, every revision that a piece has ever had, their lists, the drawer of guides,
the tool sheets, the faces that were added, what was sent to machines, and lists that are made.

A revision is never changed and never deleted. A piece points at its current one;
undo moves the pointer to the parent, redo to the newest child. A write that
started from an outdated revision is kept too, as a revision marked `refused`.
"""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal, get_args
from uuid import UUID, uuid4

from sqlalchemy import (
    BigInteger,
    DateTime,
    ForeignKey,
    Identity,
    Index,
    LargeBinary,
    String,
    UniqueConstraint,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

Active = Literal["sending", "holding", "asking", "silent"]
ACTIVE = get_args(Active)
"""States of a job that is under way: a machine has one such job at most."""
Stage = Literal["heights", "rows", "nesting", "sheets", "end"]
BatchState = Literal["running", "done", "cancelled", "failed"]


class Base(DeclarativeBase):
    """The tables' common ground."""


class FiguresRow(Base):
    """A recipe that is kept by its id."""

    __abstract__ = True

    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    figures: Mapped[dict[str, Any]] = mapped_column(JSONB)
    changed_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class PieceRow(Base):
    """A piece: which revision is current, and whether it has been deleted."""

    __tablename__ = "piece"

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    current_id: Mapped[int | None] = mapped_column(
        ForeignKey("revision.id", name="piece_current_fk", use_alter=True)
    )
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    changed_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    deleted_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class RevisionRow(Base):
    """One state of a piece's document."""

    __tablename__ = "revision"
    __table_args__ = (Index("revision_children", "parent_id", "id"),)

    id: Mapped[int] = mapped_column(BigInteger, Identity(always=True), primary_key=True)
    piece_id: Mapped[UUID] = mapped_column(
        ForeignKey("piece.id", name="revision_piece_fk"), index=True
    )
    parent_id: Mapped[int | None] = mapped_column(
        ForeignKey("revision.id", name="revision_parent_fk")
    )
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)
    refused: Mapped[bool] = mapped_column(default=False)
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class NameLeafRow(Base):
    """Rows of the lists of pieces, by the hash of their text: a revision names them, and they are
    never changed and never deleted."""

    __tablename__ = "name_leaf"

    leaf: Mapped[str] = mapped_column(String(64), primary_key=True)
    rows: Mapped[str]


class DrawerRow(Base):
    """A guide in the drawer: its name and its recipe, which leans on nothing."""

    __tablename__ = "drawer_guide"

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    name: Mapped[str] = mapped_column(String(120))
    recipe: Mapped[dict[str, Any]] = mapped_column(JSONB)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    changed_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    deleted_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class ToolSheetRow(FiguresRow):
    """A tool sheet that was edited or added; the shipped ones are in no table."""

    __tablename__ = "tool_sheet"


class FaceRow(Base):
    """A font file that was added, and the facts found when it was tried."""

    __tablename__ = "face"

    id: Mapped[str] = mapped_column(String(80), primary_key=True)
    name: Mapped[str] = mapped_column(String(120))
    data: Mapped[bytes] = mapped_column(LargeBinary)
    facts: Mapped[dict[str, Any]] = mapped_column(JSONB)
    added_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    removed_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class MachineRow(FiguresRow):
    """A machine that runs are sent to."""

    __tablename__ = "machine"


class JobRow(Base):
    """A run that is sent to a machine: what is sent, and how far it has come.

    machine
        as it was then
    sequence
        which steps of the program are sent, in order
    begun, answered
        how many of them were begun to be sent, and how many the machine has answered for
    """

    __tablename__ = "job"
    __table_args__ = (
        Index(
            "job_one_a_machine",
            "machine_id",
            unique=True,
            postgresql_where=text(f"state IN {ACTIVE}"),
        ),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    machine: Mapped[dict[str, Any]] = mapped_column(JSONB)
    machine_id: Mapped[str] = mapped_column(String(64))
    piece_id: Mapped[UUID] = mapped_column(index=True)
    title: Mapped[str] = mapped_column(String(200))
    program: Mapped[dict[str, Any]] = mapped_column(JSONB)
    sequence: Mapped[list[int]] = mapped_column(JSONB)
    follows_id: Mapped[UUID | None] = mapped_column(ForeignKey("job.id", name="job_follows_fk"))
    state: Mapped[str] = mapped_column(String(16))
    reason: Mapped[str] = mapped_column(String(1024), default="")
    begun: Mapped[int] = mapped_column(default=0)
    answered: Mapped[int] = mapped_column(default=0)
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    changed_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class JobEventRow(Base):
    """What happened to a step of a job, and when: `begun` before it is sent, `answered` after."""

    __tablename__ = "job_event"
    __table_args__ = (UniqueConstraint("job_id", "place", "what", name="job_event_once"),)

    id: Mapped[int] = mapped_column(BigInteger, Identity(always=True), primary_key=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id", name="job_event_fk"))
    place: Mapped[int]
    what: Mapped[str] = mapped_column(String(16))
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class BatchRow(Base):
    """A list that workers make: the pattern as it was then, and what is wanted of each row.

    stage
        what is being done: `heights`, `rows`, `nesting`, `sheets`; `end` after the last
    heights
        of letterings that have one height in all rows, mm
    said
        what there is to say of the sheets: how many, no fewer than, the share of them used
    """

    __tablename__ = "batch"

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    piece_id: Mapped[UUID] = mapped_column(index=True)
    title: Mapped[str] = mapped_column(String(200))
    document: Mapped[dict[str, Any]] = mapped_column(JSONB, deferred=True)
    columns: Mapped[list[str]] = mapped_column(JSONB)
    wanted: Mapped[dict[str, Any]] = mapped_column(JSONB)
    stage: Mapped[Stage] = mapped_column(String(16))
    state: Mapped[BatchState] = mapped_column(String(16))
    reason: Mapped[str] = mapped_column(String(1024), default="")
    heights: Mapped[dict[str, float]] = mapped_column(JSONB, default=dict)
    said: Mapped[dict[str, float]] = mapped_column(JSONB, default=dict)
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    ended_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class KeptRow(Base):
    """What came of a row's words, by what it was made from; whoever is made from the same has it.

    made
        what there is to say of it
    data
        its file, or its outline as JSON where sheets are wanted
    """

    __tablename__ = "kept_row"

    key: Mapped[str] = mapped_column(String(64), primary_key=True)
    made: Mapped[dict[str, Any]] = mapped_column(JSONB)
    data: Mapped[bytes] = mapped_column(LargeBinary)
    used_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class KeptLetterRow(Base):
    """What was made of a letter, by all that it depends on; whoever sews it next has it."""

    __tablename__ = "kept_letter"

    name: Mapped[str] = mapped_column(String(64), primary_key=True)
    data: Mapped[bytes] = mapped_column(LargeBinary)
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class BatchLineRow(Base):
    """A row of a batch.

    own
        what it has for itself, as `OwnOfRow`
    times
        how often it lies on sheets
    state
        `waiting`, `measured` when the heights that fit it are known, `made`
    attempts
        how often it was begun
    least
        the heights that fit it, mm
    """

    __tablename__ = "batch_line"
    __table_args__ = (Index("batch_line_state", "batch_id", "state"),)

    batch_id: Mapped[UUID] = mapped_column(
        ForeignKey("batch.id", name="batch_line_fk", ondelete="CASCADE"), primary_key=True
    )
    number: Mapped[int] = mapped_column(primary_key=True)
    cells: Mapped[list[str]] = mapped_column(JSONB)
    own: Mapped[dict[str, Any]] = mapped_column(JSONB)
    times: Mapped[int] = mapped_column(default=1)
    state: Mapped[str] = mapped_column(String(16), default="waiting")
    attempts: Mapped[int] = mapped_column(default=0)
    least: Mapped[dict[str, float]] = mapped_column(JSONB, default=dict)
    title: Mapped[str] = mapped_column(String, default="")
    fits: Mapped[bool | None]
    reason: Mapped[str] = mapped_column(String, default="")
    key: Mapped[str | None] = mapped_column(
        ForeignKey("kept_row.key", name="batch_line_kept_fk"), index=True
    )


class BatchSheetRow(Base):
    """A sheet of a batch: its width and height, mm, which rows lie on it and where, and its file
    when it is there."""

    __tablename__ = "batch_sheet"

    batch_id: Mapped[UUID] = mapped_column(
        ForeignKey("batch.id", name="batch_sheet_fk", ondelete="CASCADE"), primary_key=True
    )
    number: Mapped[int] = mapped_column(primary_key=True)
    size: Mapped[list[float]] = mapped_column(JSONB)
    lie: Mapped[list[Any]] = mapped_column(JSONB)
    data: Mapped[bytes | None] = mapped_column(LargeBinary)


class NoteRow(Base):
    """What the application must remember about itself, such as that the demo was loaded."""

    __tablename__ = "note"

    name: Mapped[str] = mapped_column(String(64), primary_key=True)
    value: Mapped[str] = mapped_column(String(1024))

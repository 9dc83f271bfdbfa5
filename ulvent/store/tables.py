"""The tables: pieces, every revision that a piece has ever had, the drawer of guides,
the tool sheets, the faces that were added, and what was sent to machines.

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


class NoteRow(Base):
    """What the application must remember about itself, such as that the demo was loaded."""

    __tablename__ = "note"

    name: Mapped[str] = mapped_column(String(64), primary_key=True)
    value: Mapped[str] = mapped_column(String(1024))

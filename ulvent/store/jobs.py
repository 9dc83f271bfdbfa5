"""Jobs: runs that are sent to machines, written down before and after each step.

After any crash it is known of each step whether it was begun and whether it was answered for; the
one step that was begun and not answered for is the only one of which it is not known.
"""

from __future__ import annotations

import threading
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Literal
from uuid import UUID

from cachetools import LRUCache
from sqlalchemy import ColumnElement, Engine, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session, defer

from ulvent.core.base.errors import UlventError
from ulvent.core.recipe.machine import Machine
from ulvent.formats.program import Program
from ulvent.store.tables import ACTIVE, Active, JobEventRow, JobRow

_PROGRAMS = 8
"""How many programs are remembered: those that are being sent, or looked at."""
_WITHOUT_PROGRAM = defer(JobRow.program)
Ended = Literal["done", "stopped", "failed", "broken-off"]
State = Literal[Active, Ended]


class NoSuchJobError(UlventError):
    """There is no job with this id."""


class MachineBusyError(UlventError):
    """The machine has a job already."""


@dataclass(frozen=True)
class Job:
    """A run that is sent to a machine.

    sequence
        which steps of its program are sent, in order
    follows
        the job that this one takes up again
    begun, answered
        how many of its steps were begun to be sent, and how many the machine has answered for
    """

    id: UUID
    machine: Machine
    piece_id: UUID
    title: str
    sequence: tuple[int, ...]
    follows: UUID | None
    state: State
    reason: str
    begun: int
    answered: int
    made_at: datetime

    @property
    def active(self) -> bool:
        return self.state in ACTIVE


class Jobs:
    """All jobs of one database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._programs: LRUCache[UUID, Program] = LRUCache(_PROGRAMS)
        self._lock = threading.Lock()

    def program(self, job_id: UUID) -> Program:
        """What a job sends; it never changes."""
        with self._lock:
            if job_id not in self._programs:
                with Session(self._engine) as session:
                    document = session.scalar(select(JobRow.program).where(JobRow.id == job_id))
                if document is None:
                    raise NoSuchJobError("there is no such job")
                self._programs[job_id] = Program.of(document)
            return self._programs[job_id]

    def begin(
        self, machine: Machine, piece_id: UUID, title: str, program: Program,
        sequence: tuple[int, ...], follows: UUID | None = None,
    ) -> Job:  # fmt: skip
        """Write down that a program is going to be sent.

        Raises
        ------
        MachineBusyError
            When the machine has a job.
        """
        row = JobRow(
            machine=machine.model_dump(mode="json"),
            machine_id=machine.id,
            piece_id=piece_id,
            title=title[:200],
            program=program.document(),
            sequence=list(sequence),
            follows_id=follows,
            state="sending",
        )
        try:
            with Session(self._engine) as session, session.begin():
                session.add(row)
                session.flush()
                return _job(row)
        except IntegrityError as error:
            raise MachineBusyError(f"“{machine.name}” has a job already") from error

    def get(self, job_id: UUID) -> Job:
        with Session(self._engine) as session:
            row = session.get(JobRow, job_id, options=[_WITHOUT_PROGRAM])
            if row is None:
                raise NoSuchJobError("there is no such job")
            return _job(row)

    def latest(self, piece_id: UUID) -> Job | None:
        """The job of a piece that was begun last."""
        return self._first(JobRow.piece_id == piece_id)

    def at_machine(self, machine_id: str) -> Job | None:
        """The job of a machine that was begun last."""
        return self._first(JobRow.machine_id == machine_id)

    def busy(self) -> dict[str, UUID]:
        """The machines that have a job, each with the piece that it is of."""
        query = select(JobRow.machine_id, JobRow.piece_id).where(JobRow.state.in_(ACTIVE))
        with Session(self._engine) as session:
            return {row.machine_id: row.piece_id for row in session.execute(query)}

    def _first(self, condition: ColumnElement[bool]) -> Job | None:
        query = (
            select(JobRow)
            .options(_WITHOUT_PROGRAM)
            .where(condition)
            .order_by(JobRow.made_at.desc())
            .limit(1)
        )
        with Session(self._engine) as session:
            row = session.scalar(query)
            return _job(row) if row else None

    def step(self, job_id: UUID, place: int, what: Literal["begun", "answered"]) -> None:
        """Write down that a step is begun, or was answered for; as often as it takes."""
        with Session(self._engine) as session, session.begin():
            event = insert(JobEventRow).values(job_id=job_id, place=place, what=what)
            session.execute(event.on_conflict_do_nothing(constraint="job_event_once"))
            session.execute(
                update(JobRow)
                .where(JobRow.id == job_id)
                .values({what: place + 1, "state": "sending", "changed_at": datetime.now(UTC)})
            )

    def set_state(self, job_id: UUID, state: State, reason: str = "") -> None:
        with Session(self._engine) as session, session.begin():
            session.execute(
                update(JobRow)
                .where(JobRow.id == job_id)
                .values(state=state, reason=reason[:1024], changed_at=datetime.now(UTC))
            )

    def break_off(self, reason: str) -> int:
        """End all jobs that nobody sends any more; how many there were."""
        with Session(self._engine) as session, session.begin():
            result = session.execute(
                update(JobRow)
                .where(JobRow.state.in_(ACTIVE))
                .values(state="broken-off", reason=reason, changed_at=datetime.now(UTC))
                .returning(JobRow.id)
            )
            return len(result.all())

    def events(self, job_id: UUID) -> list[tuple[int, str]]:
        """What was written down of a job's steps, in order: place and what."""
        query = select(JobEventRow).where(JobEventRow.job_id == job_id).order_by(JobEventRow.id)
        with Session(self._engine) as session:
            return [(row.place, row.what) for row in session.scalars(query)]


def _job(row: JobRow) -> Job:
    state: State = row.state  # type: ignore[assignment]
    return Job(
        id=row.id,
        machine=Machine.model_validate(row.machine),
        piece_id=row.piece_id,
        title=row.title,
        sequence=tuple(row.sequence),
        follows=row.follows_id,
        state=state,
        reason=row.reason,
        begun=row.begun,
        answered=row.answered,
        made_at=row.made_at,
    )

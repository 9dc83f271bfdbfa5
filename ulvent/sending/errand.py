"""One job being sent, in a thread of its own."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable
from functools import partial
from typing import Literal
from uuid import UUID

import structlog
from sqlalchemy.exc import DBAPIError

from ulvent.core.base.errors import UlventError
from ulvent.formats.program import Step
from ulvent.sending.link import Link
from ulvent.sending.talk import TALKS, Patience, Talk
from ulvent.store.jobs import Ended, Job, Jobs, State

log = structlog.get_logger()

_DATABASE_SECONDS = 0.5
"""How long is waited before a database that is away is asked again."""
Wish = Literal["go", "hold", "stop", "break off"]


class _StoppedError(Exception):
    """Somebody wants it to end."""


class Errand(threading.Thread):
    """Sends a job step by step until it ends, whatever it ends by.

    A step is sent only once it is written down that it is; where the database is away, the machine
    waits. What is wished for (`hold`, `go_on`, `stop`) is heard between steps, `stop` at once.
    """

    def __init__(self, job: Job, jobs: Jobs, patience: Patience) -> None:
        super().__init__(name=f"job {job.id}", daemon=True)
        self.job_id: UUID = job.id
        self._job, self._jobs = job, jobs
        self._program = jobs.program(job.id)
        self.patience = patience
        self._wish: Wish = "go"
        self._go_on = False
        self._silent = False
        self._changed = threading.Condition()
        self.hears = True
        """Whether wishes still change something: not once it has ended, which is then written."""

    def wish(self, wish: Wish) -> None:
        with self._changed:
            self._wish = wish
            self._go_on = wish == "go"
            self._changed.notify_all()

    def run(self) -> None:
        try:
            with Link(self._job.machine) as link:
                state, reason = self._sent(TALKS[self._program.format](link, self))
        except UlventError as error:
            state, reason = "failed", str(error)
        except Exception:
            log.exception("a job ended unexpectedly", job=str(self.job_id))
            state, reason = "failed", "Ulvent made a mistake; its log has more"
        self.hears = False
        self._written(partial(self._jobs.set_state, self.job_id, state, reason), to_the_end=True)

    def _sent(self, talk: Talk) -> tuple[Ended, str]:
        self._talk = talk
        try:
            talk.begin()
            for place, index in enumerate(self._job.sequence):
                step = self._program.steps[index]
                self._wait_if_asked(step)
                self._written(partial(self._jobs.step, self.job_id, place, "begun"))
                if step.kind != "ask":
                    talk.tell(step.words, step.seconds)
                self._written(partial(self._jobs.step, self.job_id, place, "answered"))
        except _StoppedError:
            talk.stop()
            if self._wish == "break off":
                return "broken-off", "Ulvent was ended while it was being sent"
            return "stopped", ""
        except UlventError as error:
            talk.stop()
            return "failed", str(error)
        return "done", ""

    def _wait_if_asked(self, step: Step) -> None:
        self.look()
        if step.kind == "ask":
            self._wait("asking", step.title)
        elif self._wish == "hold":
            self._wait("holding", "")

    def _wait(self, state: State, reason: str) -> None:
        """Until somebody says to go on."""
        with self._changed:
            self._go_on = False
        self._written(partial(self._jobs.set_state, self.job_id, state, reason))
        with self._changed:
            while not self._go_on:
                self.look()
                self._changed.wait()
            self._wish = "go"
        self._written(partial(self._jobs.set_state, self.job_id, "sending"))

    def look(self) -> None:
        """Whether somebody wants it to end; while the machine is silent, whether to go on."""
        if self._wish in ("stop", "break off"):
            raise _StoppedError
        if self._silent and self._go_on:
            self._silent = self._go_on = False
            self._talk.go_on()
            self._written(partial(self._jobs.set_state, self.job_id, "sending"))

    def silent(self) -> None:
        """The machine has said nothing for long: said, and waited for all the same."""
        if not self._silent:
            self._silent, self._go_on = True, False
            reason = "the machine says nothing; it may wait for a hand at it"
            self._written(partial(self._jobs.set_state, self.job_id, "silent", reason))

    def _written(self, write: Callable[[], None], to_the_end: bool = False) -> None:
        """Write something down, however long the database is away."""
        while True:
            try:
                write()
            except DBAPIError as error:
                log.warning("a job waits for the database", error=type(error).__name__)
                if not to_the_end:
                    self.look()
                elif self._wish == "break off":
                    return
                time.sleep(_DATABASE_SECONDS)
            else:
                return

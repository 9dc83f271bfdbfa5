"""The jobs that are under way, and the machines that may be reached."""

from __future__ import annotations

import threading
from collections.abc import Sequence
from uuid import UUID

from ulvent.core.base.errors import UlventError
from ulvent.core.recipe.machine import Machine
from ulvent.formats.program import Program
from ulvent.sending.errand import Errand
from ulvent.sending.talk import Patience
from ulvent.store.jobs import Job, Jobs

_END_SECONDS = 5.0
_USUAL = Patience()


class NotAllowedError(UlventError):
    """The machine's address is not among those that may be reached."""


class NotNowError(UlventError):
    """The job cannot do that now."""


class Sender:
    """Begins jobs, and passes on what is wished of them.

    allowed
        addresses that may be reached, by who started Ulvent
    patience
        how long machines may take to answer
    """

    def __init__(
        self, jobs: Jobs, allowed: Sequence[str] = (), patience: Patience = _USUAL
    ) -> None:
        self._patience = patience
        self._jobs, self._allowed = jobs, frozenset(one.lower() for one in allowed)
        self._errands: dict[UUID, Errand] = {}
        self._lock = threading.Lock()

    def may_reach(self, machine: Machine) -> bool:
        return machine.address.lower() in self._allowed

    def begin(
        self, machine: Machine, piece_id: UUID, title: str, program: Program,
        step: int = 0, follows: UUID | None = None,
    ) -> Job:  # fmt: skip
        """Send a program to a machine, all of it or from a step on.

        Raises
        ------
        NotAllowedError, MachineBusyError
        """
        if not self.may_reach(machine):
            raise NotAllowedError(
                f"{machine.address} may not be reached; who starts Ulvent allows it with "
                f"`--machine {machine.address}`"
            )
        sequence = program.beginning_at(step)
        job = self._jobs.begin(machine, piece_id, title, program, sequence, follows)
        errand = Errand(job, self._jobs, self._patience)
        with self._lock:
            self._errands = {key: one for key, one in self._errands.items() if one.is_alive()}
            self._errands[job.id] = errand
        errand.start()
        return job

    def hold(self, job_id: UUID) -> None:
        """Stand still once the step that is being sent is done."""
        self._errand(job_id).wish("hold")

    def go_on(self, job_id: UUID) -> None:
        self._errand(job_id).wish("go")

    def stop(self, job_id: UUID) -> None:
        """End it now, tool up."""
        self._errand(job_id).wish("stop")

    def close(self) -> None:
        """Ulvent ends: what is being sent ends as well."""
        with self._lock:
            errands = list(self._errands.values())
        for one in errands:
            one.wish("break off")
        for one in errands:
            one.join(_END_SECONDS)

    def _errand(self, job_id: UUID) -> Errand:
        with self._lock:
            errand = self._errands.get(job_id)
        if errand is None or not errand.hears:
            raise NotNowError("nothing of it is being sent")
        return errand

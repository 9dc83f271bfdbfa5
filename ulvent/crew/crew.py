"""The crew: who is served next, and by which worker."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from concurrent.futures import FIRST_COMPLETED, Future, wait
from contextlib import contextmanager
from dataclasses import dataclass, field

from cachetools import LRUCache

from ulvent.crew.worker import Worker

SIZE = 3
_MOST_PATIENT = 2
"""So many workers at most do what can wait, such as a proof; the others are for who drags."""
_MOST_PAGES = 1000


@dataclass
class _Turn:
    """Someone who waits for a worker."""

    page: str
    patient: bool
    worker: Future[Worker] = field(default_factory=Future)


class Crew:
    """Workers, taken and given back.

    A page gets the worker that it had last, where that is free: it remembers what was made of the
    page's piece. Where none is free, the page that was served longest ago is served next. All
    of it is safe between threads.
    """

    def __init__(self, preload: list[str], size: int = SIZE) -> None:
        self._lock = threading.Lock()
        self.workers = tuple(Worker(preload) for _ in range(size))
        self._free = list(self.workers)
        self._patient: set[Worker] = set()
        self._waiting: list[_Turn] = []
        self._served: LRUCache[str, int] = LRUCache(_MOST_PAGES)
        self._had: LRUCache[str, Worker] = LRUCache(_MOST_PAGES)
        self._turns = 0
        self._started: list[Future[None]] = []

    def take(self, page: str, patient: bool = False) -> Future[Worker]:
        """A worker for a page, as soon as it is its turn; cancelled, it is not waited for."""
        turn = _Turn(page, patient)
        with self._lock:
            self._waiting.append(turn)
        self._serve()
        return turn.worker

    def give_back(self, worker: Worker) -> None:
        """A worker that nothing is asked of any more; it is free when what it does is done."""
        worker.rest(self._rested)

    def _rested(self, worker: Worker) -> None:
        with self._lock:
            self._patient.discard(worker)
            self._free.append(worker)
        self._serve()

    @contextmanager
    def taken(self, page: str, patient: bool = False) -> Iterator[Worker]:
        """A worker for a page, waited for, and given back at the end."""
        worker = self.take(page, patient).result()
        try:
            yield worker
        finally:
            self.give_back(worker)

    def start(self) -> None:
        """Have the processes begin; without it each does when it is first asked for something."""
        self._started = [worker.start() for worker in self.workers]

    def wait(self) -> None:
        """Until one of the processes that were started can be asked for something."""
        wait(self._started, return_when=FIRST_COMPLETED)

    def close(self) -> None:
        """End all processes."""
        for worker in self.workers:
            worker.close()

    def _serve(self) -> None:
        while (served := self._next()) is not None:
            turn, worker = served
            if turn.worker.set_running_or_notify_cancel():
                turn.worker.set_result(worker)
            else:
                self.give_back(worker)

    def _next(self) -> tuple[_Turn, Worker] | None:
        """The turn that is next, and its worker; nothing where there is none of either."""
        with self._lock:
            may = [one for one in self._waiting if not one.patient or self._patience_left]
            if not may or not self._free:
                return None
            turn = min(may, key=lambda one: self._served.get(one.page, 0))
            self._waiting.remove(turn)
            had = self._had.get(turn.page)
            worker = had if had in self._free else self._free[0]
            self._free.remove(worker)
            if turn.patient:
                self._patient.add(worker)
            self._turns += 1
            self._served[turn.page], self._had[turn.page] = self._turns, worker
            return turn, worker

    @property
    def _patience_left(self) -> bool:
        return len(self._patient) < min(_MOST_PATIENT, max(1, len(self.workers) - 1))

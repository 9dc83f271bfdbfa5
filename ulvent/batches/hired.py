"""The workers that a running Ulvent has of its own: begun when there is something to make."""

from __future__ import annotations

import contextlib
import os
import signal
import subprocess
import sys
import threading
from collections.abc import Callable
from functools import partial

import structlog
from sqlalchemy.exc import SQLAlchemyError

from ulvent.child_process import end_with_parent

log = structlog.get_logger()

_LOOK_SECONDS = 1.0
_TO_END_SECONDS = 8.0


def usual_workers() -> int:
    """As many as there are cores, but one, and one at least."""
    return max(len(os.sched_getaffinity(0)) - 1, 1)


class Hired:
    """So many worker processes; one that ends is replaced.

    busy
        whether there is something to make: they are begun when there first is
    """

    def __init__(self, url: str, count: int, busy: Callable[[], bool]) -> None:
        self._url, self._count, self._busy = url, count, busy
        self._processes: list[subprocess.Popen[bytes]] = []
        self._woken, self._done = threading.Event(), threading.Event()
        # The kernel ends a worker with the thread that began it: this one lives as long as they.
        self._thread = threading.Thread(target=self._watch, name="hired workers", daemon=True)
        self._thread.start()

    def wake(self) -> None:
        """There is something to make."""
        self._woken.set()

    def close(self) -> None:
        """End all; what they were making is made by whoever comes next."""
        self._done.set()
        self._woken.set()
        self._thread.join()

    def _watch(self) -> None:
        with contextlib.suppress(SQLAlchemyError):
            if self._count and self._busy():
                self._woken.set()
        self._woken.wait()
        while not self._done.is_set():
            for ended in [one for one in self._processes if one.poll() is not None]:
                log.warning("a worker ended", exit_code=ended.returncode)
                self._processes.remove(ended)
            while len(self._processes) < self._count:
                self._processes.append(self._begun())
            self._done.wait(_LOOK_SECONDS)
        for one in self._processes:
            one.terminate()
        for one in self._processes:
            try:
                one.wait(_TO_END_SECONDS)
            except subprocess.TimeoutExpired:
                one.kill()
                one.wait()

    def _begun(self) -> subprocess.Popen[bytes]:
        # Its database is told in its surroundings: a command line can be read by anyone.
        return subprocess.Popen(
            [sys.executable, "-m", "ulvent", "worker"],
            env={**os.environ, "ULVENT_DATABASE_URL": self._url},
            stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL,
            preexec_fn=partial(end_with_parent, signal.SIGTERM),  # noqa: PLW1509
        )  # fmt: skip

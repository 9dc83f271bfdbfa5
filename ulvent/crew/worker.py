"""A worker from outside: asked for one task at a time, held to its bounds, replaced at its end."""

from __future__ import annotations

import contextlib
import multiprocessing
import os
import signal
import threading
import time
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from ctypes import c_char
from multiprocessing import forkserver
from multiprocessing.connection import Connection, wait
from multiprocessing.context import ForkServerContext, ForkServerProcess
from typing import Any, TypeVar

import structlog

from ulvent.core.base.at_work import TOO_MUCH_MEMORY
from ulvent.core.base.errors import UlventError
from ulvent.crew import inside

log = structlog.get_logger()

TASK_BYTES = 400_000_000
"""A task may take so much memory beyond what its process has to begin with."""
_KEPT_BYTES = 32_000_000
"""A worker that has more than this after a task, beyond what it had to begin with, forgets what it
remembers; one that then still has twice as much is replaced."""
_LOOK_SECONDS = 0.2
"""So often it is looked whether a task has had its time, or is not wanted any more."""
_IDLE_SHARE = 4.0
"""A task that waits, for a database or for a processor, gets so many times its time."""
_TIDY_SECONDS = 10.0
_TRIES = 3
"""So often a task is begun whose process is ended by someone else."""
_GRACE_SECONDS = 0.5
"""A task that is not wanted any more may still end by itself for so long."""
_ENDED_BY_MACHINE = (-signal.SIGKILL, -signal.SIGTERM)
_PRELOADED = ["ulvent.crew.inside"]

R = TypeVar("R")


class GivenUpError(UlventError):
    """A task that took more time or memory than there is for it."""


class StoppedError(Exception):
    """A task that was not wanted any more."""


class WorkerDiedError(Exception):
    """A worker that was ended from outside, in the middle of a task that is not to blame."""


def begin_early(preload: list[str]) -> None:
    """Have the process begin that workers will be parted from, while this one loads its own
    modules: it is not waited for."""
    _context(preload)
    forkserver.ensure_running()


def _context(preload: list[str]) -> ForkServerContext:
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload([*_PRELOADED, *preload])
    return context


class Worker:
    """One process, and whatever takes its place.

    preload
        modules that every process has from the start; all processes share their memory
    """

    def __init__(self, preload: list[str], bound: int = TASK_BYTES) -> None:
        self._context = _context(preload)
        self._bound = bound
        self._thread = ThreadPoolExecutor(1, "worker")
        self._lock = threading.Lock()
        self._note = self._context.RawArray(c_char, inside.NOTE_BYTES)
        self._process: ForkServerProcess | None = None
        self._pipe: Connection | None = None
        self._own = 0
        self._asked: Future[Any] | None = None
        self._unwanted_at: float | None = None
        self._closed = False

    @property
    def pid(self) -> int | None:
        """Of its process now; nothing where there is none."""
        return self._process.pid if self._process else None

    def start(self) -> Future[None]:
        """Have the process begin; done when it can be asked for something."""
        return self._thread.submit(self._tried, _TIDY_SECONDS, inside.idle, ())

    def ask(self, seconds: float, task: Callable[..., R], *args: Any) -> Future[R]:
        """Have a task done, one that can be pickled; it may take so much processor time.

        The future raises what the task raises; `GivenUpError`, or `PieceError` where the task
        had said what it is doing, where it took too much; `StoppedError` where it was not wanted
        any more; and `WorkerDiedError` where the process was ended by someone else each time.
        """
        self._unwanted_at = None
        self._asked = asked = self._thread.submit(self._done, seconds, task, args)
        return asked

    def not_wanted(self) -> None:
        """Stop what is being done, unless it ends by itself in a moment."""
        if self._unwanted_at is None:
            self._unwanted_at = time.monotonic()

    def rest(self, rested: Callable[[Worker], None]) -> None:
        """When what is being done is at its end, say so; a process that has grown is tidied."""

        def rest(_: object = None) -> None:
            if self._grown > _KEPT_BYTES:
                with contextlib.suppress(RuntimeError):  # closed
                    self._thread.submit(self._tidy)
            rested(self)

        if self._asked is None:
            rest()
        else:
            self._asked.add_done_callback(rest)

    def close(self) -> None:
        """End the process; nothing can be asked of this worker any more."""
        with self._lock:
            self._closed = True
            self._end()
        self._thread.shutdown(wait=False)

    def _done(self, seconds: float, task: Callable[..., R], arguments: tuple[Any, ...]) -> R:
        for _ in range(_TRIES - 1):
            with contextlib.suppress(WorkerDiedError):
                return self._tried(seconds, task, arguments)
        return self._tried(seconds, task, arguments)

    def _tried(self, seconds: float, task: Callable[..., R], arguments: tuple[Any, ...]) -> R:
        # On a busy machine time may be up before the process has begun: nothing is said yet.
        self._note.value = b""
        pipe, process = self._sent((task, arguments))
        try:
            self._wait(pipe, process, seconds)
            done, found = pipe.recv()
        except (EOFError, OSError) as error:
            raise self._ended(process) from error
        if isinstance(found, inside.OutOfMemoryError):
            self._renew()
            raise self._given_up(TOO_MUCH_MEMORY)
        if not done:
            raise found
        result: R = found
        return result

    def _tidy(self) -> None:
        with contextlib.suppress(UlventError, StoppedError, WorkerDiedError):
            self._tried(_TIDY_SECONDS, inside.tidied, ())
        if self._grown > 2 * _KEPT_BYTES:
            self._renew()

    @property
    def _grown(self) -> int:
        """By how many bytes the process has grown since it began."""
        process = self._process
        return inside.own_bytes(process.pid or 0) - self._own if process else 0

    def _sent(self, message: Any) -> tuple[Connection, ForkServerProcess]:
        """Send a message to the process, to a new one where there is none any more."""
        pipe, process = self._alive()
        with contextlib.suppress(ConnectionError):
            pipe.send(message)
            return pipe, process
        self._renew()
        pipe, process = self._alive()
        pipe.send(message)
        return pipe, process

    def _wait(self, pipe: Connection, process: ForkServerProcess, seconds: float) -> None:
        """Until there is a reply."""
        begun, used = time.monotonic(), _processor_seconds(process)
        while not wait([pipe], _LOOK_SECONDS):
            now, unwanted = time.monotonic(), self._unwanted_at
            if unwanted is not None and now - unwanted > _GRACE_SECONDS:
                self._renew()
                raise StoppedError
            busy = _processor_seconds(process) - used
            if busy > seconds or now - begun > _IDLE_SHARE * seconds:
                error = self._given_up(f"takes more than {seconds:g} seconds")
                self._renew()
                raise error

    def _given_up(self, why: str) -> UlventError:
        task = inside.read(self._note.value)
        log.warning("given up", doing=task.doing if task else "", why=why)
        return task.given_up(why) if task else GivenUpError(f"this {why}")

    def _ended(self, process: ForkServerProcess) -> Exception:
        """Why a process ended in the middle of a task."""
        if self._closed:
            return StoppedError("the crew has gone")
        process.join(1.0)
        code = process.exitcode
        self._renew()
        if code in _ENDED_BY_MACHINE:
            return WorkerDiedError(f"the worker was ended (signal {-(code or 0)})")
        log.error("a worker ended", exit_code=code)
        return self._given_up(TOO_MUCH_MEMORY)

    def _alive(self) -> tuple[Connection, ForkServerProcess]:
        with self._lock:
            if self._closed:
                raise StoppedError
            if self._process is None or not self._process.is_alive():
                self._start()
            assert self._pipe is not None and self._process is not None
            return self._pipe, self._process

    def _renew(self) -> None:
        """A new process in the place of this one, at once, so that nobody has to wait for it."""
        with self._lock:
            self._end()
            if not self._closed:
                self._start()

    def _start(self) -> None:
        ours, theirs = self._context.Pipe()
        process = self._context.Process(
            target=inside.serve, args=(theirs, self._note, self._bound), daemon=True
        )
        process.start()
        theirs.close()
        self._process, self._pipe = process, ours
        self._own = inside.own_bytes(process.pid or 0)

    def _end(self) -> None:
        if self._process is not None:
            self._process.kill()
            self._process.join(2.0)
        if self._pipe is not None:
            self._pipe.close()
        self._process = self._pipe = None


_TICKS = os.sysconf("SC_CLK_TCK")


def _processor_seconds(process: ForkServerProcess) -> float:
    """That a process has used so far; none where it has ended."""
    with contextlib.suppress(OSError):
        with open(f"/proc/{process.pid}/stat", encoding="ascii") as file:
            fields = file.read().rpartition(")")[2].split()
        return (int(fields[11]) + int(fields[12])) / _TICKS
    return 0.0

"""A worker from inside: its process, which does what comes through a pipe until that is closed."""

from __future__ import annotations

import contextlib
import ctypes
import gc
import os
import resource
import signal
from collections.abc import Callable, Iterator
from multiprocessing.connection import Connection
from multiprocessing.reduction import ForkingPickler
from pathlib import Path
from typing import Any

from ulvent.child_process import end_with_parent
from ulvent.core.base.at_work import Task, noted_by
from ulvent.core.base.remembered import forget_all

NOTE_BYTES = 1000
_PARTED = "\x1f"


class OutOfMemoryError(Exception):
    """A task has taken all the memory there is for it, outside of any work that has a name."""


def serve(pipe: Connection, note: Any, bound: int) -> None:
    """Do tasks until the pipe is closed.

    Parameters
    ----------
    note
        shared characters in which it is written what is being worked on
    bound
        bytes that a task may take beyond what the process has to begin with
    """
    _belong_to_parent()
    # What came with the process is shared with the others while nobody writes to it.
    gc.freeze()
    bound_memory(bound)

    def write(task: Task | None) -> None:
        note.value = written(task)

    with noted_by(write), contextlib.suppress(EOFError, OSError):
        while True:
            task, arguments = pipe.recv()
            pipe.send_bytes(_reply(task, arguments))


def written(task: Task | None) -> bytes:
    """A task as it is noted, and `read` back."""
    if task is None:
        return b""
    text = _PARTED.join((task.field, task.doing, task.instead))
    return text.encode()[: NOTE_BYTES - 1]


def read(noted: bytes) -> Task | None:
    """What was noted; nothing where nothing was, or where it is only half written."""
    parts = noted.decode(errors="ignore").split(_PARTED)
    return Task(*parts) if len(parts) == 3 else None


def _reply(task: Callable[..., Any], arguments: tuple[Any, ...]) -> bytes:
    """What came of a task, pickled: whether it was done, and its result or its error."""
    try:
        return bytes(ForkingPickler.dumps((True, task(*arguments))))
    except MemoryError:
        return bytes(ForkingPickler.dumps((False, OutOfMemoryError())))
    except Exception as error:  # noqa: BLE001  it is raised again where it was asked for
        return _failed(error)


def _failed(error: Exception) -> bytes:
    """An error, pickled; one of a library that cannot travel is told in words."""
    with contextlib.suppress(Exception):
        found = bytes(ForkingPickler.dumps((False, error)))
        ForkingPickler.loads(found)
        return found
    told = RuntimeError(f"{type(error).__name__}: {error}")
    return bytes(ForkingPickler.dumps((False, told)))


def _belong_to_parent() -> None:
    """End with the process that this one belongs to, and leave its signals to it."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    signal.signal(signal.SIGTERM, signal.SIG_DFL)
    end_with_parent(signal.SIGKILL)
    if os.getppid() == 1:  # it was gone before it could be said
        os._exit(0)


def bound_memory(bound: int) -> None:
    """Let the process have so much more than it has now: all that it may write to counts."""
    most = data_bytes(os.getpid()) + bound
    resource.setrlimit(resource.RLIMIT_DATA, (most, most))


@contextlib.contextmanager
def memory_within(added: int) -> Iterator[None]:
    """Let what is done here take so many bytes at most, where that is less than a task may take."""
    most, hardest = resource.getrlimit(resource.RLIMIT_DATA)
    fewer = data_bytes(os.getpid()) + added
    resource.setrlimit(resource.RLIMIT_DATA, (fewer if most < 0 else min(fewer, most), hardest))
    try:
        yield
    finally:
        resource.setrlimit(resource.RLIMIT_DATA, (most, hardest))


def idle() -> None:
    """Nothing: only to see that the process is there."""


def tidied() -> None:
    """Forget what is remembered, and give back to the machine what nothing needs any more."""
    forget_all()
    gc.collect()
    given_back()


def given_back() -> None:
    """Give back to the machine the memory that is free; other threads go on meanwhile."""
    ctypes.CDLL(None).malloc_trim(0)


def own_bytes(pid: int) -> int:
    """Memory that a process has, but for what files are mapped to; nothing where it has ended."""
    _, resident, shared, *_ = _memory(pid)
    return resident - shared


def data_bytes(pid: int) -> int:
    """All that a process may write to and shares with no other, touched or not."""
    return _memory(pid)[5]


def _memory(pid: int) -> list[int]:
    """The seven figures of proc(5)'s `statm`, in bytes; all 0 for a process that has ended."""
    try:
        figures = Path(f"/proc/{pid}/statm").read_text(encoding="ascii").split()
    except OSError:
        return [0] * 7
    return [int(figure) * resource.getpagesize() for figure in figures]

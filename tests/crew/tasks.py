"""Tasks for workers, good and bad."""

from __future__ import annotations

import os
import signal
import time
from pathlib import Path

from ulvent.core.base.at_work import at_work
from ulvent.core.base.errors import wrong_field
from ulvent.crew import memory_within


def doubled(number: int) -> int:
    return 2 * number


def pid() -> int:
    return os.getpid()


def slept(seconds: float) -> float:
    time.sleep(seconds)
    return seconds


def endless() -> None:
    with at_work("letterings[1].repeat", "setting 8000 letters", "ask for fewer repeats"):
        while True:
            pass


def endless_without_a_name() -> None:
    while True:
        pass


def hungry() -> None:
    with at_work("guides[0]", "reading a line", "take a line of fewer points"):
        grown()


def grown() -> None:
    kept = []
    while True:
        kept.append(bytearray(20_000_000))


def taken_within(megabytes: int, most: int) -> int:
    """Memory that is taken for a while where there is so much of it."""
    with memory_within(1_000_000 * most):
        return len(bytearray(1_000_000 * megabytes))


def kept(megabytes: int) -> int:
    """Memory that a worker never gives back."""
    _KEPT.append(b"x" * (megabytes * 1_000_000))
    return os.getpid()


_KEPT: list[bytes] = []


def wrong() -> None:
    raise wrong_field("height", "must be larger than 0")


def crashed() -> None:
    os.abort()


def killed() -> None:
    os.kill(os.getpid(), signal.SIGKILL)


def killed_the_first_time(mark: str) -> str:
    """Ended from outside, once."""
    if not Path(mark).exists():
        Path(mark).touch()
        killed()
    return "done"


class LoudError(Exception):
    """An error that cannot be made again from what it holds."""

    def __init__(self, first: str, second: str) -> None:
        super().__init__(first + second)


def loud() -> None:
    raise LoudError("too ", "loud")

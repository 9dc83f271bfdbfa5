"""The crew: processes that computing is done in, apart from the one that keeps the sockets.

A worker does one task at a time, is held to a bound of processor time and of memory, and can be
stopped in the middle; one that ends is replaced. Whose turn it is, is the crew's to say. What the
tasks are it does not know.
"""

from ulvent.crew.crew import Crew
from ulvent.crew.inside import given_back, memory_within
from ulvent.crew.worker import (
    GivenUpError,
    StoppedError,
    Worker,
    WorkerDiedError,
    begin_early,
)

__all__ = [
    "Crew",
    "GivenUpError",
    "StoppedError",
    "Worker",
    "WorkerDiedError",
    "begin_early",
    "given_back",
    "memory_within",
]

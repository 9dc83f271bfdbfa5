"""What computing is done with.

The bench stands in each worker of the crew: its faces, and its workshop over them. Whoever has
something computed hands in a task, a function of the bench and of what can be pickled.
"""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import Future
from dataclasses import dataclass, field
from itertools import count
from typing import Any, TypeVar

from ulvent.bench.type_case import TypeCase
from ulvent.bench.which_program import program
from ulvent.core.base.remembered import keep_in
from ulvent.core.workshop import Workshop
from ulvent.crew import Crew
from ulvent.crew.worker import Worker
from ulvent.store.added_faces import Faces
from ulvent.store.database import open_engine
from ulvent.store.kept_letters import KeptLetters

ROOM = 24_000_000
"""Bytes that a worker's workshop remembers."""
SOON = 15.0
"""Seconds of processor time for what a person waits for with the hand on it."""
LATER = 60.0
"""The same for a proof, or a file."""

R = TypeVar("R")


@dataclass(frozen=True)
class Bench:
    """The type case and the workshop of a worker."""

    case: TypeCase
    workshop: Workshop

    @classmethod
    def over(cls, faces: Faces) -> Bench:
        """A bench on which faces can be had that makers have added."""
        case = TypeCase(faces)
        return cls(case, Workshop(case.named, case.offered, ROOM))


@dataclass(frozen=True)
class Standing:
    """What a bench stands over: the database with the added faces, and which state of them."""

    url: str
    state: int


_benches: dict[Standing, Bench] = {}
"""In a worker: the one bench it has. Faces that have come or gone make it another."""


def at_bench(standing: Standing, task: Callable[..., R], *args: Any) -> R:
    """In a worker: a task done on the bench that stands so."""
    if standing not in _benches:
        _benches.clear()
        engine = open_engine(standing.url)
        _benches[standing] = Bench.over(Faces(engine))
        keep_in(KeptLetters(engine, program))
    return task(_benches[standing], *args)


@dataclass
class Hands:
    """A crew, with what their benches stand over."""

    url: str
    crew: Crew
    standing: Standing = field(init=False)
    _states: count[int] = field(default_factory=count)

    def __post_init__(self) -> None:
        self.faces_changed()

    def faces_changed(self) -> None:
        """A face has come or gone: benches read it anew, and lay out anew what it is in."""
        self.standing = Standing(self.url, next(self._states))

    def ask(self, worker: Worker, seconds: float, task: Callable[..., R], *args: Any) -> Future[R]:
        """Have a task done by a worker that has been taken."""
        found: Future[Any] = worker.ask(seconds, at_bench, self.standing, task, *args)
        return found

"""What computing is done with, and how requests have it done.

The bench stands in each worker of the crew: its faces, and its workshop over them. A request hands
in a task, a function of the bench and of what can be pickled, and waits for what comes of it.
"""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import Future
from dataclasses import dataclass, field
from itertools import count
from typing import Annotated, Any, TypeVar

import anyio.from_thread
from fastapi import Depends, Header, Request, Response
from pydantic import TypeAdapter

from ulvent.core.workshop import Workshop
from ulvent.crew import Crew
from ulvent.crew.worker import Worker
from ulvent.store.added_faces import Faces
from ulvent.store.database import open_engine
from ulvent.web.type_case import TypeCase

ROOM = 24_000_000
"""Bytes that a worker's workshop remembers."""
SOON = 15.0
"""Seconds of processor time for what a person waits for with the hand on it."""
LATER = 60.0
"""The same for a proof, or a file."""
_LOOK_SECONDS = 0.5
PRELOADED = ["ulvent.web.app", "ulvent.web.preloaded"]

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
        _benches[standing] = Bench.over(Faces(open_engine(standing.url)))
    return task(_benches[standing], *args)


def _as_json(bench: Bench, task: Callable[..., Any], *args: Any) -> bytes:
    return _ANYTHING.dump_json(task(bench, *args))


_ANYTHING = TypeAdapter(Any)


@dataclass
class Hands:
    """The crew of the running application, with what their benches stand over."""

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


@dataclass(frozen=True)
class Work:
    """Work that a request has done: for whom, and until when."""

    hands: Hands
    request: Request
    page: str

    def done(
        self,
        task: Callable[..., R],
        *args: Any,
        seconds: float = SOON,
        patient: bool = False,
    ) -> R:
        """What comes of a task; it raises what the task does, or what `Worker.ask` says.

        What nobody waits for any more is stopped.
        """
        with self.hands.crew.taken(self.page, patient) as worker:
            found = self.hands.ask(worker, seconds, task, *args)
            while True:
                try:
                    return found.result(_LOOK_SECONDS)
                except TimeoutError:
                    if found.done():
                        raise
                if anyio.from_thread.run(self.request.is_disconnected):
                    worker.not_wanted()

    def json(
        self,
        task: Callable[..., Any],
        *args: Any,
        seconds: float = SOON,
        patient: bool = False,
    ) -> Response:
        """What comes of a task, as the answer: written where it was made."""
        data = self.done(_as_json, task, *args, seconds=seconds, patient=patient)
        return Response(data, media_type="application/json")


def the_hands(request: Request) -> Hands:
    hands: Hands = request.app.state.hands
    return hands


TheHands = Annotated[Hands, Depends(the_hands)]


def _work(
    request: Request,
    hands: TheHands,
    ulvent_page: Annotated[str, Header(max_length=64, include_in_schema=False)] = "",
) -> Work:
    return Work(hands, request, ulvent_page)


TheWork = Annotated[Work, Depends(_work)]
"""Work that this request has done."""

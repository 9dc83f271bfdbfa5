"""How requests have something computed: a task is handed in, and what comes of it waited for."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Any, TypeVar

import anyio.from_thread
from fastapi import Depends, Header, Request, Response
from pydantic import TypeAdapter

from ulvent.bench import SOON, Bench, Hands

_LOOK_SECONDS = 0.5

R = TypeVar("R")
_ANYTHING = TypeAdapter(Any)


def _as_json(bench: Bench, task: Callable[..., Any], *args: Any) -> bytes:
    return _ANYTHING.dump_json(task(bench, *args))


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

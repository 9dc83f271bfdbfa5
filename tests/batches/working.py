"""What tests of batches make them of, and a worker of the queue within the test's own process."""

from __future__ import annotations

import asyncio
import contextlib
from collections.abc import Callable, Iterator
from concurrent.futures import Future
from dataclasses import dataclass, field
from typing import Any, cast
from uuid import UUID, uuid4

from sqlalchemy import Engine

from tests.makings import document
from ulvent.batches.beginning import order_of
from ulvent.batches.making import Making
from ulvent.batches.queue_worker import queue_app
from ulvent.bench import Bench, Hands
from ulvent.core.recipe import parse_piece
from ulvent.formats.row_files import Wanted
from ulvent.store.added_faces import Faces
from ulvent.store.batch_records import Batches

TAG = {"kind": "tag", "width": 90, "height": 40, "radius": 6, "hole": 5, "hole_inset": 8}


def tag(names: list[str], **names_changed: Any) -> dict[str, Any]:
    """A tree tag with a list of names: quickly made."""
    rows = [{"cells": [name]} for name in names]
    return document(
        blank=TAG, edge="cut", title="Tag", names={"rows": rows, **names_changed},
        guides=[{"id": "g", "kind": "line", "length": 60, "centre": [6, -3]}],
        letterings=[{"id": "w", "guide": "g", "text": "{name}", "face": "lato-bold", "height": 8,
                     "at": 0.5, "at_in": "share", "align": "centre",
                     "fit": {"kind": "height", "most": 10}}],
    )  # fmt: skip


def begun(batches: Batches, piece: dict[str, Any], wanted: Wanted) -> UUID:
    """A batch of a piece's own list."""
    return batches.begin(uuid4(), order_of(parse_piece(piece), wanted))


@dataclass
class Here:
    """Hands that do in this process what they are asked for, and write it down.

    spoil
        called before each task, with its name; what it raises comes of the task
    """

    bench: Bench
    asked: list[str] = field(default_factory=list)
    spoil: Callable[[str], None] = lambda _: None

    @property
    def crew(self) -> Here:
        return self

    @contextlib.contextmanager
    def taken(self, _page: str) -> Iterator[None]:
        yield

    def ask(self, _worker: None, _seconds: float, task: Callable[..., Any], *args: Any) -> Any:
        self.asked.append(task.__name__)
        found: Future[Any] = Future()
        try:
            self.spoil(task.__name__)
            found.set_result(task(self.bench, *args))
        except Exception as error:  # noqa: BLE001 - as a crew does
            found.set_exception(error)
        return found


class Workshop:
    """A database's batches, and what makes them here."""

    def __init__(self, engine: Engine) -> None:
        self.url = engine.url.render_as_string(hide_password=False)
        self.hands = Here(Bench.over(Faces(engine)))
        self.making = Making(engine, cast(Hands, self.hands))
        self.batches = self.making.batches

    def work_off(self) -> None:
        """Do all that is in the queue."""

        async def work() -> None:
            app = queue_app(self.url, self.making)
            async with app.open_async():
                await app.run_worker_async(
                    wait=False, install_signal_handlers=False, delete_jobs="always"
                )

        asyncio.run(work())

"""The live channel: placing while a person drags, newest request first.

One WebSocket a page. A request names the piece that it starts from by the hash of its
document, which every answer gives; the whole document comes only where the page has changed
it itself, or where the hash is no longer known. Acts hold absolute values, and requests have
sequence numbers, so that leaving one out is harmless. Before each worker is one slot a page: a
request that comes while the last one is being worked on takes the place of any that waits, and
of the one that is worked on as well where that takes long. Its answer, errors included,
settles those before it.

While something is held an answer comes in two: what has moved on the drawing, and then the
whole scene. The second is left out while the pointer goes on moving, but for a few a second.
"""

from __future__ import annotations

import asyncio
import contextlib
import json
import time
from collections.abc import AsyncIterator, Callable
from concurrent.futures import Future
from typing import Annotated, Any
from uuid import uuid4

import structlog
from fastapi import APIRouter, Query, Response, WebSocket, WebSocketDisconnect
from pydantic import BaseModel

from ulvent.bench import LATER, SOON, Bench, Hands
from ulvent.core.base.errors import FieldProblem, PieceError, UlventError
from ulvent.core.proof import Remedy
from ulvent.crew import StoppedError, Worker, WorkerDiedError
from ulvent.web.live_answers import LiveAnswer, LiveRequest, answers, begun, gone_on
from ulvent.web.problems import fields
from ulvent.web.request_work import TheWork

log = structlog.get_logger()
router = APIRouter()

_SEND_SECONDS = 10.0
_DOES_NOT_READ = 1008
"""RFC 6455, 7.4.1: the client violates what is expected of it."""
_SIGN_SECONDS = 1.0
"""While an answer is worked on its page hears so often that it is."""
_PAUSE_SECONDS = 0.04
"""A pointer that has not moved for so long rests."""
_SCENE_SECONDS = 0.4
"""While a pointer moves, a whole scene comes no sooner than so long after the last one."""
_OVERTAKEN_SECONDS = 2.0
"""What has been worked on for so long is given up for a newer request."""

_SIGN = LiveAnswer(sequence=-1, working=True).model_dump_json()


@router.post("/api/scene", tags=["live"], response_model=LiveAnswer)
def scene(request: LiveRequest, work: TheWork) -> Response:
    """The same answer as the live channel's, for pages that have lost it."""
    return work.json(_last_answer, request)


def _last_answer(bench: Bench, request: LiveRequest) -> LiveAnswer:
    *_, last = answers(request, set(), bench)
    return last


class Mending(BaseModel):
    """A finding of a lettering of a piece, to be mended."""

    piece: dict[str, Any]
    kind: str
    lettering: str


@router.post("/api/remedies", tags=["live"], response_model=list[Remedy])
def remedies(mending: Mending, work: TheWork) -> Response:
    """What mends a finding of a lettering; all of it has been tried, which takes a while."""
    return work.json(_remedies, mending, seconds=LATER, patient=True)


def _remedies(bench: Bench, mending: Mending) -> list[Remedy]:
    return bench.workshop.of_document(mending.piece).remedies(mending.kind, mending.lettering)


@router.websocket("/api/live")
async def live(socket: WebSocket, page: Annotated[str, Query(max_length=64)] = "") -> None:
    """The live channel."""
    await socket.accept()
    channel = Channel(socket, page or uuid4().hex)
    working = asyncio.create_task(channel.work())
    try:
        while True:
            channel.put(await socket.receive_text())
    except (WebSocketDisconnect, KeyError, RuntimeError):
        # A page that sends bytes instead of text is not one of ours: KeyError. One that was
        # closed for not reading has no more to say: RuntimeError.
        pass
    finally:
        working.cancel()
        with contextlib.suppress(asyncio.CancelledError):
            await working


class Channel:
    """One socket, with its slot for the newest request."""

    def __init__(self, socket: WebSocket, page: str) -> None:
        self._socket, self._page = socket, page
        self._hands: Hands = socket.app.state.hands
        self._name = uuid4().hex
        self._slot = ""
        self._filled = asyncio.Event()
        self._last_scene = time.monotonic()

    def put(self, text: str) -> None:
        """A request, in the place of one that waits."""
        self._slot = text
        self._filled.set()

    async def work(self) -> None:
        """Answer until the page is gone, or does not read what it asked for."""
        with contextlib.suppress(TimeoutError, RuntimeError, WebSocketDisconnect):
            while True:
                await self._filled.wait()
                async with self._worker() as worker:
                    await self._answer(worker)
        with contextlib.suppress(RuntimeError, WebSocketDisconnect):
            await self._socket.close(_DOES_NOT_READ)

    @contextlib.asynccontextmanager
    async def _worker(self) -> AsyncIterator[Worker]:
        """A worker when it is this page's turn; meanwhile signs of life."""
        turn = self._hands.crew.take(self._page)
        try:
            worker = await self._waited(turn)
        except BaseException:
            if not turn.cancel():
                turn.add_done_callback(lambda done: self._hands.crew.give_back(done.result()))
            raise
        try:
            yield worker
        finally:
            self._hands.crew.give_back(worker)

    async def _answer(self, worker: Worker) -> None:
        """Answer the newest request."""
        self._filled.clear()
        text = self._slot
        try:
            await self._answered(worker, text)
        except StoppedError:
            pass  # overtaken: the newer request is in the slot
        except (UlventError, WorkerDiedError) as error:
            await self._send(_refusal(text, error))

    async def _answered(self, worker: Worker, text: str) -> None:
        """Answer a request, in one or two."""
        reply = await self._asked(worker, begun, self._name, text)
        while reply is not None:
            answer, more = reply
            await self._send(answer)
            if not more:
                self._last_scene = time.monotonic()
                return
            if self._moves_on and await self._comes_soon():
                return
            reply = await self._asked(worker, gone_on, self._name)
        # The worker's process is another one by now, and knows nothing of what was begun.
        self._filled.set()

    async def _send(self, text: str) -> None:
        await asyncio.wait_for(self._socket.send_text(text), _SEND_SECONDS)

    async def _asked(
        self, worker: Worker, task: Callable[..., tuple[str, bool] | None], *args: str
    ) -> tuple[str, bool] | None:
        asked = self._hands.ask(worker, SOON, task, *args)
        try:
            reply: tuple[str, bool] | None = await self._waited(asked, worker)
        except BaseException:
            worker.not_wanted()
            raise
        return reply

    async def _waited(self, future: Future[Any], worker: Worker | None = None) -> Any:
        """What is waited for; meanwhile signs of life, so that the page goes on waiting for it.

        A page that gave up would ask the same again over another socket, and be worked for twice.
        """
        coming = asyncio.wrap_future(future)
        begun_at = time.monotonic()
        while not (await asyncio.wait({coming}, timeout=_SIGN_SECONDS))[0]:
            if (
                worker
                and self._filled.is_set()
                and time.monotonic() - begun_at > _OVERTAKEN_SECONDS
            ):
                worker.not_wanted()
            await self._send(_SIGN)
        return coming.result()

    @property
    def _moves_on(self) -> bool:
        return time.monotonic() - self._last_scene < _SCENE_SECONDS

    async def _comes_soon(self) -> bool:
        """Whether another request comes before the pointer can be said to rest."""
        with contextlib.suppress(TimeoutError):
            await asyncio.wait_for(self._filled.wait(), _PAUSE_SECONDS)
        return self._filled.is_set()


def _refusal(text: str, error: Exception) -> str:
    """What is answered to a request that was given up."""
    problems = error.problems if isinstance(error, PieceError) else [FieldProblem("", str(error))]
    sequence = json.loads(text).get("sequence", -1)
    return LiveAnswer(sequence=sequence, problems=fields(problems)).model_dump_json()

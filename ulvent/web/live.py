"""The live channel: placing while a person drags, newest request first.

One WebSocket a page. A request names the piece that it starts from by the hash of its
document, which every answer gives; the whole document comes only where the page has changed
it itself, or where the server no longer knows the hash. Acts hold absolute values, and
requests have sequence numbers, so that leaving one out is harmless. Between reader and worker
is one slot: a request that comes while the last one is being worked on takes the place
of any that waits. Every request that is worked on is answered, errors included, and
its answer settles those before it.

While something is held an answer comes in two: what has moved on the drawing, and then the
whole scene. The second is left out while the pointer goes on moving, but for a few a second.
"""

from __future__ import annotations

import asyncio
import contextlib
import json
import time
from collections.abc import Iterator
from typing import Annotated, Any

import structlog
from fastapi import APIRouter, WebSocket, WebSocketDisconnect
from pydantic import BaseModel, Field, ValidationError

from ulvent.core.acts import AnyAct, Made, perform_all
from ulvent.core.base.arrays import Point
from ulvent.core.base.errors import FieldProblem, PieceError
from ulvent.core.proof import Remedy
from ulvent.core.recipe import Piece
from ulvent.core.workshop import Workpiece, Workshop
from ulvent.web.bench import Bench, TheBench
from ulvent.web.problems import WrongField, fields
from ulvent.web.scene import Painting, new_shapes
from ulvent.web.shown import Moved, Scene
from ulvent.web.turning import turned

log = structlog.get_logger()
router = APIRouter()

_SEND_SECONDS = 10.0
_DOES_NOT_READ = 1008
"""RFC 6455, 7.4.1: the client violates what is expected of it."""
_SIGN_SECONDS = 1.0
"""While an answer is worked on its page hears so often that it is."""
_PAUSE_SECONDS = 0.04
"""A pointer that has not moved for so long rests."""
MOST_ACTS = 600
_SCENE_SECONDS = 0.4
"""While a pointer moves, a whole scene comes no sooner than so long after the last one."""


class LiveRequest(BaseModel):
    """A piece to lay out, and what is done to it by hand.

    base
        hash of the piece's document; where the server does not know it, it says so
    piece
        the document itself, instead
    chosen
        the lettering or guide whose strip is shown
    acts
        done one after another, as one change, with their points in mm, y down as the screen has it
    node
        the chosen point of the chosen guide
    marks
        stations, or points beside it, at which the chosen guide is measured
    hold
        whether something is held and more requests will come
    by_face
        a lettering that is shown as its face spaces it, for comparing
    """

    sequence: int
    base: str | None = None
    piece: dict[str, Any] | None = None
    chosen: str | None = None
    acts: Annotated[tuple[AnyAct, ...], Field(max_length=MOST_ACTS)] = ()
    marks: tuple[float | Point, ...] = ()
    node: int | None = None
    hold: bool = False
    by_face: str | None = None


class LiveAnswer(BaseModel):
    """The scene of a piece, or what is wrong with it.

    unknown
        whether the base that was named is not known: the document is wanted
    base, hash
        name the document that was started from, and that of the piece as it is now, unless it
        is only in hand
    working
        a sign of life and no answer: the newest request is being worked on
    moved
        instead, while something is held: what moves, before the scene that follows
    acted, made, said
        the piece as the act left it, what is new in it, and what there is to say of it
    shapes
        outlines that this connection has not been sent before
    """

    sequence: int
    unknown: bool = False
    working: bool = False
    base: str | None = None
    hash: str | None = None
    scene: Scene | None = None
    moved: Moved | None = None
    acted: Piece | None = None
    made: tuple[Made, ...] = ()
    said: str = ""
    shapes: dict[str, str] = {}
    problems: list[WrongField] = []


_SIGN = LiveAnswer(sequence=-1, working=True).model_dump_json()


@router.post("/api/scene", tags=["live"])
def scene(request: LiveRequest, bench: TheBench) -> LiveAnswer:
    """The same answer as the live channel's, for pages that have lost it."""
    *_, last = answers(request, set(), bench)
    return last


class Mending(BaseModel):
    """A finding of a lettering of a piece, to be mended."""

    piece: dict[str, Any]
    kind: str
    lettering: str


@router.post("/api/remedies", tags=["live"])
def remedies(mending: Mending, bench: TheBench) -> list[Remedy]:
    """What mends a finding of a lettering; all of it has been tried, which takes a while."""
    return bench.workshop.of_document(mending.piece).remedies(mending.kind, mending.lettering)


def answers(request: LiveRequest, sent: set[str], bench: Bench) -> Iterator[LiveAnswer]:
    """Lay out a request's piece. Names of outlines are added to `sent`."""
    request = turned(request)
    shop, sequence = bench.workshop, request.sequence
    try:
        base = _base(request, shop)
        if base is None:
            yield LiveAnswer(sequence=sequence, unknown=True)
            return
        work, done = base, None
        if request.acts:
            done = perform_all(request.acts, base.solved, bench.case.named)
            # What is in hand is only looked at; the last answer of a pull is exact.
            work = shop.in_hand(done.piece) if request.hold else shop.of(done.piece)
        shown = _by_face(work, request.by_face, shop)
        painting = Painting(shown.layout, request.chosen, request.node)
        if request.hold:
            yield LiveAnswer(sequence=sequence, base=base.hash, moved=painting.moved)
        shapes = new_shapes(shown.layout, sent)
        found = painting.scene(shown.findings, request.marks)
    except PieceError as error:
        yield LiveAnswer(sequence=sequence, problems=fields(error.problems))
        return
    sent.update(shapes)
    yield LiveAnswer(
        sequence=sequence,
        base=base.hash,
        hash=None if done and request.hold else work.hash,
        scene=found,
        acted=work.piece if done else None,
        made=done.made if done else (),
        said=done.said if done else "",
        shapes=shapes,
    )


def _base(request: LiveRequest, shop: Workshop) -> Workpiece | None:
    """The piece that a request starts from; nothing where only its hash is given, and unknown."""
    if request.piece is not None:
        return shop.of_document(request.piece)
    return shop.known(request.base or "")


def _by_face(work: Workpiece, lettering: str | None, shop: Workshop) -> Workpiece:
    """The piece with a lettering as its face spaces it."""
    if lettering is None:
        return work
    letterings = tuple(
        one.model_copy(update={"spacing": "font"}) if one.id == lettering else one
        for one in work.piece.letterings
    )
    return shop.in_hand(work.piece.model_copy(update={"letterings": letterings}))


@router.websocket("/api/live")
async def live(socket: WebSocket) -> None:
    """The live channel."""
    await socket.accept()
    slot: list[str] = []
    filled = asyncio.Event()
    worker = asyncio.create_task(_work(socket, slot, filled))
    try:
        while True:
            text = await socket.receive_text()
            slot[:] = [text]
            filled.set()
    except (WebSocketDisconnect, KeyError, RuntimeError):
        # A page that sends bytes instead of text is not one of ours: KeyError. One that was
        # closed for not reading has no more to say: RuntimeError.
        pass
    finally:
        worker.cancel()
        with contextlib.suppress(asyncio.CancelledError):
            await worker


async def _work(socket: WebSocket, slot: list[str], filled: asyncio.Event) -> None:
    # A page that is gone, or does not read what it asked for, is not worked for.
    with contextlib.suppress(TimeoutError, RuntimeError, WebSocketDisconnect):
        await _answer_all(socket, slot, filled)
    with contextlib.suppress(RuntimeError, WebSocketDisconnect):
        await socket.close(_DOES_NOT_READ)


async def _answer_all(socket: WebSocket, slot: list[str], filled: asyncio.Event) -> None:
    sent: set[str] = set()
    bench: Bench = socket.app.state.bench
    last_scene = time.monotonic()
    while True:
        await filled.wait()
        filled.clear()
        answering = replies(slot.pop(), sent, bench)
        while (reply := await _next(answering, socket)) is not None:
            text, more = reply
            await asyncio.wait_for(socket.send_text(text), _SEND_SECONDS)
            if not more:
                last_scene = time.monotonic()
            elif time.monotonic() - last_scene < _SCENE_SECONDS and await _comes_soon(filled):
                break


async def _next(
    answering: Iterator[tuple[str, bool]], socket: WebSocket
) -> tuple[str, bool] | None:
    """The next answer; meanwhile signs of life, so that the page goes on waiting for it.

    A page that gave up would ask the same again over another socket, and be worked for twice.
    """
    thinking = asyncio.create_task(asyncio.to_thread(next, answering, None))
    while not (await asyncio.wait({thinking}, timeout=_SIGN_SECONDS))[0]:
        await asyncio.wait_for(socket.send_text(_SIGN), _SEND_SECONDS)
    return thinking.result()


async def _comes_soon(filled: asyncio.Event) -> bool:
    """Whether another request comes before the pointer can be said to rest."""
    with contextlib.suppress(TimeoutError):
        await asyncio.wait_for(filled.wait(), _PAUSE_SECONDS)
    return filled.is_set()


def replies(text: str, sent: set[str], bench: Bench) -> Iterator[tuple[str, bool]]:
    """The answers to one message as JSON, and whether more follow. There always is one."""
    sequence = -1
    try:
        request = LiveRequest.model_validate_json(text)
        sequence = request.sequence
        for answer in answers(request, sent, bench):
            yield answer.model_dump_json(), answer.moved is not None
        return
    except ValidationError as error:
        reason = "; ".join(detail["msg"] for detail in error.errors())
        problems = fields([FieldProblem("", f"not a request of the live channel: {reason}")])
    except Exception as error:  # the channel outlives any one bad piece
        log.error("live request failed", exc_info=error)
        problems = fields([FieldProblem("", "Ulvent could not lay this out; the log has more")])
    found = [problem.model_dump() for problem in problems]
    yield json.dumps({"sequence": sequence, "problems": found}), False

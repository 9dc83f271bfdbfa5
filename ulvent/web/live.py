"""The live channel: placing while a person drags, newest request first.

One WebSocket a page. A request holds the whole piece with absolute values and a
sequence number, so that leaving one out is harmless. Between reader and worker is
one slot: a request that comes while the last one is being worked on takes the place
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
from functools import lru_cache
from typing import Any

import orjson
import structlog
from fastapi import APIRouter, WebSocket, WebSocketDisconnect
from pydantic import BaseModel, ValidationError

from ulvent.core.acts.acts import Act, perform
from ulvent.core.base.errors import FieldProblem, PieceError, wrong_field
from ulvent.core.base.tolerances import GAP, GAP_IN_HAND
from ulvent.core.layout import lay_out
from ulvent.core.proof import Remedy, overflow_remedies
from ulvent.core.recipe.piece import Piece, parse_piece
from ulvent.web.problems import WrongField, fields
from ulvent.web.scene import moved, new_shapes, paint
from ulvent.web.shown import Moved, Scene
from ulvent.web.type_case import Case, TypeCase

log = structlog.get_logger()
router = APIRouter()

Point = tuple[float, float]
_SEND_SECONDS = 10.0
_PAUSE_SECONDS = 0.04
"""A pointer that has not moved for so long rests."""
_SCENE_SECONDS = 0.4
"""While a pointer moves, a whole scene comes no sooner than so long after the last one."""


class LiveRequest(BaseModel):
    """A piece to lay out, as it is on the screen, and what is done to it by hand.

    chosen
        the lettering or guide whose strip is shown
    act
        with its points in mm, y down as the screen has it
    node
        the chosen point of the chosen guide
    marks
        stations, or points beside it, at which the chosen guide is measured
    hold
        whether something is held and more requests will come
    """

    sequence: int
    piece: dict[str, Any]
    chosen: str | None = None
    act: Act | None = None
    marks: tuple[float | Point, ...] = ()
    node: int | None = None
    hold: bool = False


class LiveAnswer(BaseModel):
    """The scene of a piece, or what is wrong with it.

    moved
        instead, while something is held: what moves, before the scene that follows
    acted
        the piece as the act left it
    shapes
        outlines that this connection has not been sent before
    """

    sequence: int
    scene: Scene | None = None
    moved: Moved | None = None
    acted: Piece | None = None
    shapes: dict[str, str] = {}
    problems: list[WrongField] = []


@router.post("/api/scene", tags=["live"])
def scene(request: LiveRequest, case: Case) -> LiveAnswer:
    """The same answer as the live channel's, for pages that have lost it."""
    *_, last = answers(request, set(), case)
    return last


class Mending(BaseModel):
    """A lettering of a piece that has no room, to be mended."""

    piece: dict[str, Any]
    lettering: str


@router.post("/api/remedies", tags=["live"])
def remedies(mending: Mending, case: Case) -> list[Remedy]:
    """What mends a lettering that has no room; all of it has been tried, which takes a while."""
    layout = lay_out(parse_piece(mending.piece), case.named)
    found = [one for one in layout.piece.letterings if one.id == mending.lettering]
    if not found:
        raise wrong_field("lettering", "there is no such lettering")
    return overflow_remedies(layout, found[0])


def answers(request: LiveRequest, sent: set[str], case: TypeCase) -> Iterator[LiveAnswer]:
    """Lay out a request's piece. Names of outlines are added to `sent`."""
    acted: Piece | None = None
    try:
        piece = (
            _held_piece(orjson.dumps(request.piece)) if request.hold else parse_piece(request.piece)
        )
        if request.act:
            # What an act makes is held against the document's rules like what is typed.
            done = perform(upright(request.act), piece, case.named)
            piece = parse_piece(done.model_dump(mode="json"))
            acted = piece
        # What is in hand is only looked at; the last answer of a pull is exact.
        layout = lay_out(piece, case.named, GAP_IN_HAND if request.hold else GAP)
        if request.hold:
            now = moved(layout, request.chosen, request.node)
            yield LiveAnswer(sequence=request.sequence, moved=now)
        marks = tuple((m[0], -m[1]) if isinstance(m, tuple) else m for m in request.marks)
        shapes = new_shapes(layout, sent)
        found = paint(layout, request.chosen, marks, request.node, case.offered)
    except PieceError as error:
        yield LiveAnswer(sequence=request.sequence, problems=fields(error.problems))
        return
    sent.update(shapes)
    yield LiveAnswer(sequence=request.sequence, scene=found, acted=acted, shapes=shapes)


@lru_cache(maxsize=4)
def _held_piece(document: bytes) -> Piece:
    """The piece that a pull starts from; it is the same in every request."""
    return parse_piece(orjson.loads(document))


_POINTS = ("start", "end", "near", "at")


def upright(act: Act) -> Act:
    """An act from the screen, where y points down, as the core takes it."""
    changed: dict[str, Any] = {
        name: (point[0], -point[1])
        for name in _POINTS
        if isinstance(point := getattr(act, name, None), tuple)
    }
    if isinstance(points := getattr(act, "points", None), tuple):
        changed["points"] = tuple((x, -y) for x, y in points)
    return act.model_copy(update=changed)


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
    except (WebSocketDisconnect, KeyError):
        # A page that sends bytes instead of text is not one of ours: KeyError.
        pass
    finally:
        worker.cancel()
        with contextlib.suppress(asyncio.CancelledError):
            await worker


async def _work(socket: WebSocket, slot: list[str], filled: asyncio.Event) -> None:
    sent: set[str] = set()
    case: TypeCase = socket.app.state.type_case
    last_scene = time.monotonic()
    while True:
        await filled.wait()
        filled.clear()
        replies = _replies(slot.pop(), sent, case)
        while (reply := await asyncio.to_thread(next, replies, None)) is not None:
            text, more = reply
            try:
                await asyncio.wait_for(socket.send_text(text), _SEND_SECONDS)
            except (TimeoutError, RuntimeError, WebSocketDisconnect):
                return
            if not more:
                last_scene = time.monotonic()
            elif time.monotonic() - last_scene < _SCENE_SECONDS and await _comes_soon(filled):
                break


async def _comes_soon(filled: asyncio.Event) -> bool:
    """Whether another request comes before the pointer can be said to rest."""
    with contextlib.suppress(TimeoutError):
        await asyncio.wait_for(filled.wait(), _PAUSE_SECONDS)
    return filled.is_set()


def _replies(text: str, sent: set[str], case: TypeCase) -> Iterator[tuple[str, bool]]:
    """The answers to one message as JSON, and whether more follow. There always is one."""
    sequence = -1
    try:
        request = LiveRequest.model_validate_json(text)
        sequence = request.sequence
        for answer in answers(request, sent, case):
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

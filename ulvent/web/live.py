"""The live channel: placing while a person drags, newest request first.

One WebSocket a page. A request holds the whole piece with absolute values and a
sequence number, so that leaving one out is harmless. Between reader and worker is
one slot: a request that comes while the last one is being worked on takes the place
of any that waits. Every request that is worked on is answered, errors included.
"""

from __future__ import annotations

import asyncio
import contextlib
import json
from typing import Any

import structlog
from fastapi import APIRouter, WebSocket, WebSocketDisconnect
from pydantic import BaseModel, ValidationError

from ulvent.core.errors import FieldProblem, PieceError
from ulvent.core.guides import guide_curve
from ulvent.core.layout import lay_out
from ulvent.core.piece import Lettering, Piece, parse_piece
from ulvent.core.slide import slid_after, slid_along
from ulvent.typecase import shipped_face
from ulvent.web.problems import WrongField, fields
from ulvent.web.scene import Scene, new_shapes, paint

log = structlog.get_logger()
router = APIRouter()

Point = tuple[float, float]
_SEND_SECONDS = 10.0


class Slide(BaseModel):
    """A lettering slid along its guide: by a length, or after a pointer; mm, y down."""

    lettering: str
    by: float | None = None
    start: Point | None = None
    end: Point | None = None


class LiveRequest(BaseModel):
    """A piece to lay out, as it is on the screen.

    chosen
        the lettering or guide whose strip is shown
    """

    sequence: int
    piece: dict[str, Any]
    chosen: str | None = None
    slide: Slide | None = None


class LiveAnswer(BaseModel):
    """The scene of a piece, or what is wrong with it.

    slid
        the lettering as the slide left it
    shapes
        outlines that this connection has not been sent before
    """

    sequence: int
    scene: Scene | None = None
    slid: Lettering | None = None
    shapes: dict[str, str] = {}
    problems: list[WrongField] = []


@router.post("/api/scene", tags=["live"])
def scene(request: LiveRequest) -> LiveAnswer:
    """The same answer as the live channel's, for pages that have lost it."""
    return answer(request, set())


def answer(request: LiveRequest, sent: set[str]) -> LiveAnswer:
    """Lay out a request's piece. Names of outlines are added to `sent`."""
    try:
        piece = parse_piece(request.piece)
        slid = _slid(piece, request.slide) if request.slide else None
        if slid:
            kept = (slid if one.id == slid.id else one for one in piece.letterings)
            piece = piece.model_copy(update={"letterings": tuple(kept)})
        layout = lay_out(piece, shipped_face)
        shapes = new_shapes(layout, sent)
        found = paint(layout, request.chosen)
    except PieceError as error:
        return LiveAnswer(sequence=request.sequence, problems=fields(error.problems))
    sent.update(shapes)
    return LiveAnswer(sequence=request.sequence, scene=found, slid=slid, shapes=shapes)


def _slid(piece: Piece, slide: Slide) -> Lettering | None:
    lettering = next((one for one in piece.letterings if one.id == slide.lettering), None)
    if lettering is None:
        return None
    guide = guide_curve(piece.guide(lettering.guide))
    if slide.by is not None:
        return slid_along(lettering, guide, slide.by)
    if slide.start is not None and slide.end is not None:
        (sx, sy), (ex, ey) = slide.start, slide.end
        return slid_after(lettering, guide, (sx, -sy), (ex, -ey))
    return None


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
    while True:
        await filled.wait()
        filled.clear()
        reply = await asyncio.to_thread(_reply, slot.pop(), sent)
        try:
            await asyncio.wait_for(socket.send_text(reply), _SEND_SECONDS)
        except (TimeoutError, RuntimeError, WebSocketDisconnect):
            return


def _reply(text: str, sent: set[str]) -> str:
    """The answer to one message as JSON; whatever happens, there is one."""
    sequence = -1
    try:
        request = LiveRequest.model_validate_json(text)
        sequence = request.sequence
        return answer(request, sent).model_dump_json()
    except ValidationError as error:
        reason = "; ".join(detail["msg"] for detail in error.errors())
        problems = fields([FieldProblem("", f"not a request of the live channel: {reason}")])
    except Exception as error:  # the channel outlives any one bad piece
        log.error("live request failed", exc_info=error)
        problems = fields([FieldProblem("", "Ulvent could not lay this out; the log has more")])
    return json.dumps(
        {"sequence": sequence, "problems": [problem.model_dump() for problem in problems]}
    )

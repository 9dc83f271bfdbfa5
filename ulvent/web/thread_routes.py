"""Routes for thread: a piece as a stitch file."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal
from uuid import UUID

from fastapi import APIRouter, Response

from ulvent.core.recipe import Piece
from ulvent.formats.thread_out import THREAD_FORMATS
from ulvent.web.bench import LATER, Bench, TheWork
from ulvent.web.problems import Problem
from ulvent.web.shelf_routes import Shelf, download

router = APIRouter(tags=["thread"], responses={422: {"model": Problem}})

if TYPE_CHECKING:
    ThreadFormatName = str
else:
    ThreadFormatName = Literal[tuple(THREAD_FORMATS)]


@router.get("/api/pieces/{piece_id}/thread/{format}", response_class=Response)
def thread_file(pieces: Shelf, work: TheWork, piece_id: UUID, format: ThreadFormatName) -> Response:
    """A piece in thread, as a stitch file."""
    piece = pieces.get(piece_id).piece
    data = work.done(_written, piece, format, seconds=LATER, patient=True)
    wanted = THREAD_FORMATS[format]
    return download(data, piece.title, wanted.ending, wanted.media_type)


def _written(bench: Bench, piece: Piece, format: str) -> bytes:
    return THREAD_FORMATS[format].write(bench.workshop.of(piece).embroidery)

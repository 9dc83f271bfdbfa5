"""Routes for beginning a piece: its first document, and a picture of it while it is chosen."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, Depends, Response
from pydantic import BaseModel, Field

from ulvent.bench import Bench
from ulvent.core.acts import perform
from ulvent.core.acts.begin import on_edge, piece_on, started_on, within
from ulvent.core.acts.scale_piece_act import ScalePiece
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.remembered import remembered
from ulvent.core.guides.blanks import Blank
from ulvent.core.guides.kinds import AnyGuide, Guide
from ulvent.core.recipe import Piece
from ulvent.core.recipe.beginnings import BEGINNINGS, Beginning
from ulvent.formats.svg_pictures import write_thumbnail
from ulvent.store.pieces import Pieces
from ulvent.web.problems import Problem
from ulvent.web.request_work import TheWork
from ulvent.web.shelf_routes import OpenPiece, Sound, all_pieces, laid_out, opened

router = APIRouter(
    prefix="/api/beginnings",
    tags=["pieces"],
    responses={status: {"model": Problem} for status in (404, 422)},
)


class FirstPiece(BaseModel):
    """What a new piece is to be, with choices made before.

    beginning
        a piece to begin from, which is scaled to `blank` where that is given
    start, edge, guide
        instead one of these: a guide as it is offered to begin with, the blank's own edge so far
        inside of it, mm, or a guide from elsewhere
    """

    words: Annotated[str, Field(max_length=2000)] = ""
    beginning: str = ""
    blank: Blank | None = None
    start: str = ""
    edge: float | None = None
    guide: Guide | None = None
    choices: dict[str, Any] = {}


@router.get("/{name}/picture", response_class=Response)
def picture(name: str, work: TheWork) -> Response:
    """A piece to begin from as a small picture (SVG)."""
    data = work.done(_picture, name, patient=True)
    return Response(data, media_type="image/svg+xml")


def _picture(bench: Bench, name: str) -> bytes:
    return write_thumbnail(bench.workshop.of(_beginning(name)).layout)


@router.post("/picture", response_class=Response)
def first_picture(first: FirstPiece, work: TheWork) -> Response:
    """What a new piece would be, as a small picture (SVG)."""
    return Response(work.done(_first_picture, first), media_type="image/svg+xml")


def _first_picture(bench: Bench, first: FirstPiece) -> bytes:
    return write_thumbnail(bench.workshop.of(_first(first, bench)).layout)


@router.post("", status_code=201)
def begin(
    first: FirstPiece, work: TheWork, pieces: Annotated[Pieces, Depends(all_pieces)]
) -> OpenPiece:
    """Put a new piece on the shelf."""
    return opened(pieces.create(*work.done(_begun, first)))


def _begun(bench: Bench, first: FirstPiece) -> Sound:
    return laid_out(_first(first, bench), bench)


@remembered(32)
def _beginning(name: str) -> Piece:
    return _beginning_named(name).piece("")


def _beginning_named(name: str) -> Beginning:
    if name not in BEGINNINGS:
        raise wrong_field("beginning", f"there is no “{name}” to begin from")
    return BEGINNINGS[name]


def _first(first: FirstPiece, bench: Bench) -> Piece:
    faces = bench.case.named
    if first.beginning:
        piece = _beginning_named(first.beginning).piece(first.words.strip())
        if first.blank is None or first.blank == piece.blank:
            return piece
        return perform(ScalePiece(act="scale-piece", blank=first.blank), piece, faces).piece
    guides: tuple[AnyGuide, ...]
    if first.guide is not None:
        # Where it lay elsewhere says nothing of where it lies on this blank.
        middle = first.guide.model_copy(update={"centre": (0.0, 0.0)})
        guides = (within(middle, first.blank),)
    elif first.edge is not None:
        guides = on_edge(first.blank, first.edge)
    elif first.start:
        guides = started_on(first.start, first.blank)
    else:
        raise wrong_field("guide", "is missing: which line do the words follow?")
    return piece_on(first.words, first.blank, guides, first.choices, faces)

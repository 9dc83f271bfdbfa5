"""Routes for pieces: the shelf, revisions, files."""

from __future__ import annotations

import re
from datetime import datetime
from typing import TYPE_CHECKING, Annotated, Any, Literal, NamedTuple
from urllib.parse import quote
from uuid import UUID

from fastapi import APIRouter, Depends, Request, Response
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from ulvent.bench import LATER, Bench
from ulvent.core.guides.blanks import blank_words
from ulvent.core.recipe import Piece, parse_piece
from ulvent.core.recipe.name_list import NameList, laid_apart, put_together
from ulvent.formats.out import FORMATS
from ulvent.formats.piece_file import ENDING, read_piece, write_piece
from ulvent.formats.svg_pictures import write_thumbnail
from ulvent.store.pieces import Pieces, StoredPiece
from ulvent.web.problems import Problem
from ulvent.web.request_work import TheWork

router = APIRouter(
    prefix="/api/pieces",
    tags=["pieces"],
    responses={status: {"model": Problem} for status in (404, 409, 422)},
)

if TYPE_CHECKING:
    FormatName = str
else:
    FormatName = Literal[tuple(FORMATS)]


class PieceSummary(BaseModel):
    """A piece on the shelf."""

    id: UUID
    title: str
    revision: int
    changed_at: datetime
    blank: str
    letterings: int


class OpenPiece(BaseModel):
    """A piece at its current revision."""

    id: UUID
    revision: int
    piece: Piece
    changed_at: datetime
    can_undo: bool
    can_redo: bool


class NewPiece(BaseModel):
    """A document to put on the shelf."""

    piece: dict[str, Any]


class KeptPiece(BaseModel):
    """What has become of a change: the revision that it is.

    names
        its list as it is kept, where rows of it lie apart
    """

    id: UUID
    revision: int
    changed_at: datetime
    can_undo: bool
    can_redo: bool
    names: NameList | None


class Write(BaseModel):
    """A finished change: the whole document, and the revision it started from."""

    base: int
    piece: dict[str, Any]


class Step(BaseModel):
    """An undo or redo from the revision that the page shows."""

    base: int


def all_pieces(request: Request) -> Pieces:
    pieces: Pieces = request.app.state.pieces
    return pieces


Shelf = Annotated[Pieces, Depends(all_pieces)]


@router.get("")
def shelf(pieces: Shelf, deleted: bool = False) -> list[PieceSummary]:
    """The shelf, the piece changed last first; with `deleted`, what was taken off it."""
    return [_summary(stored) for stored in pieces.all(deleted)]


@router.post("", status_code=201)
def create(pieces: Shelf, work: TheWork, new: NewPiece) -> OpenPiece:
    return opened(pieces.create(*work.done(_sound, new.piece)))


@router.post(
    "/file",
    status_code=201,
    openapi_extra={
        "requestBody": {"required": True, "content": {"application/json": {"schema": {}}}}
    },
)
async def open_file(pieces: Shelf, work: TheWork, request: Request) -> OpenPiece:
    """Put the piece of a piece file on the shelf; the body is the file as it is.

    The piece is laid out first; a face which is not here is stood in for.
    """
    data = await request.body()

    def keep() -> OpenPiece:
        return opened(pieces.create(*work.done(_read, data)))

    return await run_in_threadpool(keep)


@router.get("/{piece_id}")
def get(pieces: Shelf, piece_id: UUID) -> OpenPiece:
    return opened(pieces.get(piece_id))


@router.put("/{piece_id}")
def save(pieces: Shelf, work: TheWork, piece_id: UUID, write: Write) -> KeptPiece:
    """Make a finished change the current revision. A stale one gets 409; both sides are kept."""
    stored = pieces.save(piece_id, write.base, *work.done(_sound, write.piece))
    names = stored.piece.names
    return KeptPiece(
        names=names if names and names.leaves else None,
        id=stored.id,
        revision=stored.revision,
        changed_at=stored.changed_at,
        can_undo=stored.can_undo,
        can_redo=stored.can_redo,
    )


@router.post("/{piece_id}/undo")
def undo(pieces: Shelf, piece_id: UUID, step: Step) -> OpenPiece:
    return opened(pieces.undo(piece_id, step.base))


@router.post("/{piece_id}/redo")
def redo(pieces: Shelf, piece_id: UUID, step: Step) -> OpenPiece:
    return opened(pieces.redo(piece_id, step.base))


@router.post("/{piece_id}/duplicate", status_code=201)
def duplicate(pieces: Shelf, piece_id: UUID) -> OpenPiece:
    return opened(pieces.duplicate(piece_id))


@router.delete("/{piece_id}", status_code=204)
def delete(pieces: Shelf, piece_id: UUID) -> None:
    pieces.delete(piece_id)


@router.post("/{piece_id}/restore")
def restore(pieces: Shelf, piece_id: UUID) -> OpenPiece:
    return opened(pieces.restore(piece_id))


@router.get("/{piece_id}/revisions/{revision}")
def revision(pieces: Shelf, piece_id: UUID, revision: int) -> Piece:
    """The document of any revision, current, past or refused."""
    return pieces.revision(piece_id, revision)


@router.get("/{piece_id}/file", response_class=Response)
def piece_file(pieces: Shelf, work: TheWork, piece_id: UUID) -> Response:
    """The piece as a piece file, with all rows of its list."""
    piece = pieces.get(piece_id).piece
    return download(
        work.done(_file, piece, pieces.texts_of(piece)), piece.title, ENDING, "application/json"
    )


@router.get("/{piece_id}/thumbnail", response_class=Response)
def thumbnail(pieces: Shelf, work: TheWork, piece_id: UUID) -> Response:
    """The piece as a small true picture (SVG)."""
    picture = work.done(_thumbnail, pieces.get(piece_id).piece, patient=True)
    return Response(picture, media_type="image/svg+xml", headers={"Cache-Control": "no-cache"})


def _thumbnail(bench: Bench, piece: Piece) -> bytes:
    return write_thumbnail(bench.workshop.of(piece).layout)


class Takeaway(BaseModel):
    """What there is to know before a file is taken away.

    left_out
        what the file lacks, in words
    faults
        those that are open, in words
    """

    left_out: str
    faults: list[str]


@router.get("/{piece_id}/takeaway")
def takeaway(pieces: Shelf, work: TheWork, piece_id: UUID) -> Takeaway:
    """What a file of the piece as it stands would lack, and what is wrong with it."""
    return work.done(_takeaway, pieces.get(piece_id).piece, seconds=LATER, patient=True)


def _takeaway(bench: Bench, piece: Piece) -> Takeaway:
    work = bench.workshop.of(piece)
    faults = [finding.message for finding in work.proof.faults]
    return Takeaway(left_out=work.left_out, faults=faults)


@router.get("/{piece_id}/export/{format}", response_class=Response)
def export(
    pieces: Shelf, work: TheWork, piece_id: UUID, format: FormatName, guides: bool = False
) -> Response:
    """The lettering as clean outlines in a cut file."""
    piece = pieces.get(piece_id).piece
    wanted = FORMATS[format]
    data = work.done(_written, piece, format, guides, seconds=LATER, patient=True)
    return download(data, piece.title, wanted.ending, wanted.media_type)


def _written(bench: Bench, piece: Piece, format: str, guides: bool) -> bytes:
    return FORMATS[format].write(bench.workshop.of(piece), guides)


class Sound(NamedTuple):
    """A piece that can be laid out; what rows of its list that lie apart are, by their leaves."""

    piece: Piece
    texts: dict[str, str]


def _sound(bench: Bench, document: dict[str, Any]) -> Sound:
    """A piece that can be laid out; what cannot is refused with its fields, and not kept."""
    return laid_out(parse_piece(document), bench)


def _read(bench: Bench, data: bytes) -> Sound:
    return laid_out(read_piece(data), bench)


def laid_out(piece: Piece, bench: Bench) -> Sound:
    """The piece, which can be laid out."""
    texts: dict[str, str] = {}
    if piece.names is not None:
        names, texts = laid_apart(piece.names)
        piece = piece.model_copy(update={"names": names})
    _ = bench.workshop.of(piece).layout
    return Sound(piece, texts)


def _file(_: Bench, piece: Piece, texts: dict[str, str]) -> bytes:
    return write_piece(with_all_rows(piece, texts))


def with_all_rows(piece: Piece, texts: dict[str, str]) -> Piece:
    """The piece with the rows too that lie apart."""
    if piece.names is None:
        return piece
    return piece.model_copy(update={"names": put_together(piece.names, texts)})


def opened(stored: StoredPiece) -> OpenPiece:
    """A stored piece as a page opens it."""
    return OpenPiece(
        id=stored.id,
        revision=stored.revision,
        piece=stored.piece,
        changed_at=stored.changed_at,
        can_undo=stored.can_undo,
        can_redo=stored.can_redo,
    )


def _summary(stored: StoredPiece) -> PieceSummary:
    return PieceSummary(
        id=stored.id,
        title=stored.piece.title,
        revision=stored.revision,
        changed_at=stored.changed_at,
        blank=blank_words(stored.piece.blank),
        letterings=len(stored.piece.letterings),
    )


def download(data: bytes, title: str, ending: str, media_type: str) -> Response:
    """A file to be saved under a name made of `title`."""
    headers = {"Content-Disposition": attachment(title, ending)}
    return Response(data, media_type=media_type, headers=headers)


def attachment(title: str, ending: str) -> str:
    """What says that a file is to be saved, and under which name."""
    plain = re.sub(r"[^A-Za-z0-9 _-]+", "", title).strip() or "piece"
    exact = quote(re.sub(r"[/\\\x00-\x1f]", "", title).strip() or "piece")
    return f"attachment; filename=\"{plain}{ending}\"; filename*=UTF-8''{exact}{ending}"

"""Routes for batches: a piece's whole list made by workers, while the page may be closed."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime
from typing import TYPE_CHECKING, Annotated, Literal
from uuid import UUID

from fastapi import APIRouter, Depends, Request, Response
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, Field

from ulvent.batches.beginning import order_alone, order_of
from ulvent.batches.row_tasks import wanted_of
from ulvent.bench import Bench
from ulvent.core.base.errors import wrong_field
from ulvent.core.recipe import Piece
from ulvent.core.series.nested_sheets import Sheet
from ulvent.formats.every_format import ending_of, every_file, every_format
from ulvent.formats.packed import packing
from ulvent.formats.row_files import UNTITLED, Wanted
from ulvent.formats.sheet_writing import ListedSheet, cutting_list
from ulvent.store.batch_records import Batch, Batches, Order, Progress
from ulvent.store.tables import BatchState, Stage
from ulvent.web.problems import Problem
from ulvent.web.request_work import TheWork
from ulvent.web.shelf_routes import Shelf, attachment, download, with_all_rows

router = APIRouter(
    tags=["batches"], responses={status: {"model": Problem} for status in (404, 409, 422)}
)

MOST_OFFCUTS = 50
_MOST_SAID = 200
"""So many rows that do not fit are said one by one."""
Side = Annotated[float, Field(gt=0, le=10_000)]
Margin = Annotated[float, Field(ge=0, le=500)]
if TYPE_CHECKING:
    FormatName = str
    FilePath = str
else:
    FormatName = Literal[tuple(every_format())]
    FilePath = Literal[tuple(every_file())]


class SheetRequest(BaseModel):
    """Sheets on which parts are nested; mm, and degrees.

    offcuts
        widths and heights of what is left from before: filled first
    roll
        all in one file, off a roll: as high as the parts take
    mark
        how high the number beside each part is; 0: there is none
    """

    width: Side
    height: Side
    margin: Margin = 5.0
    gap: Margin = 2.0
    turns: Annotated[tuple[float, ...], Field(min_length=1, max_length=8)] = (0.0, 90.0)
    offcuts: Annotated[tuple[tuple[Side, Side], ...], Field(max_length=MOST_OFFCUTS)] = ()
    roll: bool = False
    mark: Annotated[float, Field(ge=0, le=50)] = 0.0


class BatchRequest(BaseModel):
    """What is wanted of a piece's list.

    name
        of each file: {number} and {words} stand for a row's own
    anyway
        rows with faults too
    sheet
        nest all on sheets, in place of a file each
    """

    format: FormatName = "svg"
    name: Annotated[str, Field(min_length=1, max_length=80)] = "{number}-{words}"
    anyway: bool = False
    sheet: SheetRequest | None = None


class BatchSummary(BaseModel):
    """A batch and how far it has come.

    what
        what is made, in words
    alone, nested
        whether it is one file of the piece as it stands, and no list; whether rows lie on sheets
    lost
        attempts that were begun and lost, with whoever made them
    sheets, offcuts
        on which rows lie, and how many of these are off-cuts
    least, filled
        whole sheets that any way of nesting takes, and the share of the sheets that is used
    """

    id: UUID
    piece_id: UUID
    title: str
    what: str
    alone: bool
    nested: bool
    state: BatchState
    stage: Stage
    reason: str
    rows: int
    measured: int
    made: int
    fit: int
    lost: int
    sheets: int
    written: int
    offcuts: int
    least: int
    filled: float
    made_at: datetime
    ended_at: datetime | None


class UnfitRow(BaseModel):
    number: int
    title: str
    reason: str


class OneBatch(BaseModel):
    """A batch, and its rows that do not fit."""

    batch: BatchSummary
    unfit: list[UnfitRow]


def all_batches(request: Request) -> Batches:
    batches: Batches = request.app.state.batches
    return batches


TheBatches = Annotated[Batches, Depends(all_batches)]


@router.post("/api/pieces/{piece_id}/batches", status_code=201)
def begin(
    request: Request, pieces: Shelf, batches: TheBatches, work: TheWork, piece_id: UUID,
    asked: BatchRequest,
) -> BatchSummary:  # fmt: skip
    """Have a piece's list made, as the piece is kept now."""
    piece = pieces.get(piece_id).piece
    order = work.done(_order, piece, pieces.texts_of(piece), _wanted(asked))
    return _begun(request, batches.begin(piece_id, order))


@router.post("/api/pieces/{piece_id}/batches/alone", status_code=201)
def begin_one_file(
    request: Request, pieces: Shelf, batches: TheBatches, piece_id: UUID, file: FilePath
) -> BatchSummary:
    """Have one file of a piece made as it stands and is kept now: one that takes long.

    file
        by the path under which it is taken away at once
    """
    order = order_alone(pieces.get(piece_id).piece, file)
    return _begun(request, batches.begin(piece_id, order))


def _order(_: Bench, piece: Piece, texts: dict[str, str], wanted: Wanted) -> Order:
    """What a batch of a piece's list is begun with, its rows by the texts of their leaves."""
    return order_of(with_all_rows(piece, texts), wanted)


@router.get("/api/batches")
def every(batches: TheBatches, piece: UUID | None = None) -> list[BatchSummary]:
    """All that are kept, or those of a piece, the newest first."""
    return [_summary(*one) for one in batches.all(piece)]


@router.get("/api/batches/{batch_id}")
def one(batches: TheBatches, batch_id: UUID) -> OneBatch:
    unfit = [
        UnfitRow(number=row.number, title=row.title, reason=row.reason)
        for row in batches.unfit(batch_id, _MOST_SAID)
    ]
    summary = _summary(batches.get(batch_id), batches.progress(batch_id))
    return OneBatch(batch=summary, unfit=unfit)


@router.post("/api/batches/{batch_id}/cancel")
def cancel(batches: TheBatches, batch_id: UUID) -> BatchSummary:
    """What is not made yet is not made; what is made can be taken away."""
    batches.cancel(batch_id)
    return _summary(batches.get(batch_id), batches.progress(batch_id))


@router.delete("/api/batches/{batch_id}", status_code=204)
def forget(batches: TheBatches, batch_id: UUID) -> None:
    batches.forget(batch_id)


@router.get("/api/batches/{batch_id}/files", response_class=Response)
def files(batches: TheBatches, batch_id: UUID) -> Response:
    """What is made so far, as one ZIP: a file each, or sheets with their cutting list. A file that
    is alone comes as it is."""
    batch = batches.get(batch_id)
    if batch.alone:
        return _one_file(batches, batch)
    found = _sheets(batches, batch) if batch.wanted.get("sheet") else _files(batches, batch)
    headers = {"Content-Disposition": attachment(f"{batch.title} names", ".zip")}
    return StreamingResponse(packing(found), media_type="application/zip", headers=headers)


def _begun(request: Request, batch_id: UUID) -> BatchSummary:
    if request.app.state.hired is not None:
        request.app.state.hired.wake()
    batches = all_batches(request)
    return _summary(batches.get(batch_id), batches.progress(batch_id))


def _one_file(batches: Batches, batch: Batch) -> Response:
    made = next(batches.files(batch.id), None)
    if made is None:
        raise wrong_field("batch", "is not made yet")
    ending = ending_of(wanted_of(batch.wanted).format)
    return download(made[1], batch.title, f".{ending}", "application/octet-stream")


def _wanted(asked: BatchRequest) -> Wanted:
    sheet = Sheet(**asked.sheet.model_dump()) if asked.sheet else None
    return Wanted(asked.format, asked.name, asked.anyway, sheet)


def _summary(batch: Batch, progress: Progress) -> BatchSummary:
    wanted = wanted_of(batch.wanted)
    return BatchSummary(
        id=batch.id, piece_id=batch.piece_id, title=batch.title,
        what=_what(wanted), alone=batch.alone, nested=wanted.sheet is not None,
        state=batch.state, stage=batch.stage, reason=batch.reason,
        rows=progress.rows, measured=progress.measured, made=progress.made, fit=progress.fit,
        lost=progress.lost, sheets=progress.sheets, written=progress.written,
        offcuts=int(batch.said.get("offcuts", 0)), least=int(batch.said.get("least", 0)),
        filled=batch.said.get("filled", 0.0),
        made_at=batch.made_at, ended_at=batch.ended_at,
    )  # fmt: skip


def _what(wanted: Wanted) -> str:
    if wanted.sheet is not None and wanted.sheet.roll:
        return f"one {wanted.format.upper()} file, {wanted.sheet.width:g} mm wide"
    if wanted.sheet is not None:
        return f"{wanted.sheets_are}s of {wanted.sheet.width:g} × {wanted.sheet.height:g} mm"
    each = "as the piece stands" if wanted.format in every_file() else "a file each"
    return f"{ending_of(wanted.format).upper()}, {each}"


def _files(batches: Batches, batch: Batch) -> Iterator[tuple[str, bytes]]:
    wanted, rows = wanted_of(batch.wanted), batches.progress(batch.id).rows
    for made, data in batches.files(batch.id):
        yield wanted.file(made.number, made.title, rows), data


def _sheets(batches: Batches, batch: Batch) -> Iterator[tuple[str, bytes]]:
    listed: list[ListedSheet] = []
    wanted = wanted_of(batch.wanted)
    for number, (size, lie), data in batches.sheets(batch.id):
        lines = batches.lines(batch.id, [one for one, _ in lie])
        names = [f"{one}  {lines[one].title}" for one, _ in lie]
        listed.append(ListedSheet(size, names))
        if data is not None:
            yield wanted.sheet_name(number), data
    if listed:
        yield "cutting-list.pdf", cutting_list(batch.title or UNTITLED, listed)

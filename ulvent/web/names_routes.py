"""Routes for names: what comes of the rows of a piece's list, and their files.

The page asks for a few rows at a time, those in sight first, so that no question takes long.
"""

from __future__ import annotations

import time
from collections.abc import Iterator
from typing import Annotated, Any

from cachetools import LRUCache
from fastapi import APIRouter, Query, Request, Response
from pydantic import BaseModel, Field, TypeAdapter, ValidationError
from starlette.concurrency import run_in_threadpool

from ulvent.bench import LATER, Bench
from ulvent.core.base.arrays import Bounds
from ulvent.core.base.errors import PieceError, wrong_field
from ulvent.core.layout.names import lettering_names
from ulvent.core.recipe import parse_piece
from ulvent.core.recipe.name_list import (
    MOST_CELLS,
    NameLeaf,
    NameRow,
    OwnOfRow,
    rows_of,
)
from ulvent.core.series import Pattern, one_height
from ulvent.core.series.listed import Listed
from ulvent.core.series.matched import matched_head
from ulvent.core.series.results import LetteringFigures, heights_that_fit, least_heights
from ulvent.core.series.row_making import MadeRow, Series, made_row
from ulvent.core.workshop import Workpiece, Workshop, document_hash
from ulvent.formats.svg_data import curve_data, outline_data
from ulvent.formats.words_file import read_table
from ulvent.web.bodies import A_FILE
from ulvent.web.problems import Problem
from ulvent.web.request_work import TheWork
from ulvent.web.shelf_routes import Shelf, with_all_rows

router = APIRouter(tags=["names"], responses={422: {"model": Problem}})

MOST_AT_ONCE = 20
MOST_LEAVES_AT_ONCE = 100


class NameTable(BaseModel):
    """A list that was read.

    said
        how it was read, in words
    """

    head: list[str]
    rows: list[list[str]]
    said: str


class NamesRequest(BaseModel):
    """A piece with its list."""

    piece: dict[str, Any]


class AskedRow(BaseModel):
    """A row of a list that is asked for: its place from 0, what it says, and has for itself."""

    row: int
    number: int
    cells: Annotated[tuple[str, ...], Field(max_length=MOST_CELLS)]
    own: OwnOfRow = OwnOfRow()


class RowsRequest(BaseModel):
    """A piece, the field of each column of its list, heights that all rows have, and some rows."""

    piece: dict[str, Any]
    columns: Annotated[list[str], Field(max_length=MOST_CELLS)]
    heights: dict[str, float] = {}
    rows: Annotated[list[AskedRow], Field(max_length=MOST_AT_ONCE)]


class LeavesRequest(BaseModel):
    """Rows that lie apart."""

    leaves: Annotated[list[NameLeaf], Field(max_length=MOST_LEAVES_AT_ONCE)]


class MadeName(BaseModel):
    """What came of a row.

    kind
        of what is wrong with it; rows with one kind are mended alike
    picture
        its letters as path data, y down, in the box of all rows' blank
    """

    row: int
    title: str
    fits: bool
    kind: str
    reason: str
    warnings: list[str]
    figures: list[tuple[str, float, float, float, str]]
    picture: str


class MendedRow(BaseModel):
    """Heights of its own with which a row fits; none where smaller letters do not mend it."""

    row: int
    heights: dict[str, float]


class NamesScene(BaseModel):
    """A list as it fills a piece.

    fields, columns
        of the piece, and the field of each column
    first
        the place of the row that is number 1: 1 where the first names the columns
    letterings
        their names by their ids
    empty, twice
        rows that say nothing, and those that say what one before them does
    heights
        of letterings that have one in all rows
    measured
        rows whose heights are known, where that of all is not known yet: ask again
    later
        whether one height for all is found only when the rows are made: they are too many
    box, blank
        what pictures lie in, and the blank's edge as path data
    """

    fields: list[str]
    columns: list[str]
    first: int = 0
    letterings: dict[str, str]
    empty: list[int]
    twice: list[int]
    heights: dict[str, float]
    measured: int | None = None
    later: bool = False
    box: Bounds
    blank: str


@router.post("/api/names/read", openapi_extra=A_FILE)
async def names_read(
    request: Request, field: Annotated[list[str] | None, Query(max_length=100)] = None
) -> NameTable:
    """A list from a file or what was pasted (CSV or TSV); nothing is kept.

    field
        of the piece, again and again: a first line that names one is the head
    """
    found = await run_in_threadpool(read_table, await request.body())
    rows = found.rows
    head = rows.pop(0) if rows and matched_head(rows[0], field or ()) else []
    separators = {",": "commas", ";": "semicolons", "\t": "tabs"}
    said = f"{len(rows)} rows, {found.encoding}, {separators[found.separator]} between cells"
    return NameTable(head=head, rows=rows, said=said)


@router.post("/api/names/leaves")
def leaves(asked: LeavesRequest, pieces: Shelf) -> list[tuple[NameRow, ...]]:
    """The rows of leaves, in their order."""
    texts = pieces.leaf_texts(asked.leaves)
    return [rows_of(one, texts[one.leaf]) for one in asked.leaves]


@router.post("/api/names", response_model=NamesScene)
def names(request: NamesRequest, work: TheWork, pieces: Shelf) -> Response:
    """How a piece's list fills it."""
    texts = pieces.leaf_texts(_leaves(request.piece))
    return work.json(_scene, request, texts, seconds=LATER, patient=True)


@router.post("/api/names/rows", response_model=list[MadeName])
def rows(request: RowsRequest, work: TheWork) -> Response:
    """What comes of some rows of a piece's list."""
    return work.json(_made, request, seconds=LATER, patient=True)


@router.post("/api/names/mended", response_model=list[MendedRow])
def mended(request: RowsRequest, work: TheWork) -> Response:
    """Smaller letters for rows of a piece's list that do not fit."""
    return work.json(_mended, request, seconds=LATER, patient=True)


def _leaves(document: dict[str, Any]) -> list[NameLeaf]:
    """The leaves of a piece's list, without a look at its other rows."""
    listed = document.get("names")
    parts = listed.get("rows") if isinstance(listed, dict) else None
    apart = [one for one in parts or () if isinstance(one, dict) and "leaf" in one]
    try:
        return _LEAVES.validate_python(apart)
    except ValidationError:
        return []  # what is wrong with it is said of the piece


_LEAVES = TypeAdapter(list[NameLeaf])
_MEASURE_SECONDS = 6.0
"""Of processor time: a question that measures rows for longer is asked again by the page."""
_MOST_MEASURED = 2000
"""Rows that are measured for one height while they are looked at; of more, when they are made."""
_LEAST: LRUCache[str, dict[str, float]] = LRUCache(4 * _MOST_MEASURED)
"""The heights that fit rows, by their pieces: each takes a fit."""
_ROWS: LRUCache[str, MadeName] = LRUCache(
    16_000_000, lambda row: 600 + len(row.picture) + len(row.reason) + sum(map(len, row.warnings))
)
"""Rows that were made, by their pieces: a change makes anew what it changes, and no other."""


def _scene(bench: Bench, request: NamesRequest, texts: dict[str, str]) -> NamesScene:
    piece = parse_piece(request.piece)
    fields = list(Pattern(piece).fields)
    work = bench.workshop.of(piece.model_copy(update={"names": None}))
    box, blank = _blank(work)
    scene = NamesScene(
        fields=fields, columns=[], letterings=lettering_names(work.layout), empty=[], twice=[],
        heights={}, box=box, blank=blank,
    )  # fmt: skip
    if piece.names is None or not piece.names.rows:
        return scene
    listed = Listed(with_all_rows(piece, texts))
    scene.columns = list(listed.list.columns)
    scene.first = listed.first
    scene.empty = [listed.index(number) for number in listed.list.empty]
    scene.twice = [listed.index(number) for number in listed.list.twice]
    if piece.names.one_height:
        scene.later = len(listed.rows) > _MOST_MEASURED
        if not scene.later:
            scene.heights, scene.measured = _measured(bench, listed)
    return scene


def _measured(bench: Bench, listed: Listed) -> tuple[dict[str, float], int | None]:
    """The one height of all rows, as far as there is time: else how many are measured."""
    until = time.process_time() + _MEASURE_SECONDS
    found: list[dict[str, float]] = []
    for piece in listed.pieces():
        key = document_hash(piece)
        if key not in _LEAST:
            if time.process_time() > until:
                return {}, len(found)
            _LEAST[key] = one_height(
                listed.pattern.piece, [piece], lambda one: bench.workshop.in_passing(one).solved
            )
        found.append(_LEAST[key])
    return least_heights(found), None


def _made(bench: Bench, request: RowsRequest) -> list[MadeName]:
    return [_row(bench.workshop, series, one) for series, one in _asked(request)]


def _row(workshop: Workshop, series: Series, asked: AskedRow) -> MadeName:
    """What comes of a row."""
    try:
        key = document_hash(series.piece(asked.cells))
    except PieceError:
        # What is wrong with it is said of it.
        made = _shown(*made_row(series, workshop, asked.number, asked.cells))
    else:
        if key not in _ROWS:
            _ROWS[key] = _shown(*made_row(series, workshop, asked.number, asked.cells))
        made = _ROWS[key]
    return made.model_copy(update={"row": asked.row})


def _mended(bench: Bench, request: RowsRequest) -> list[MendedRow]:
    in_passing = bench.workshop.in_passing

    def heights(series: Series, asked: AskedRow) -> dict[str, float]:
        try:
            return heights_that_fit(in_passing(series.piece(asked.cells)), in_passing)
        except PieceError:
            return {}

    return [MendedRow(row=one.row, heights=heights(series, one)) for series, one in _asked(request)]


def _asked(request: RowsRequest) -> Iterator[tuple[Series, AskedRow]]:
    """Rows, and what each is made with: heights that all have, and what is its own."""
    pattern = Pattern(parse_piece(request.piece).model_copy(update={"names": None}))
    lacking = [name for name in pattern.fields if name not in request.columns]
    if lacking:
        raise wrong_field("columns", f"none is for {{{lacking[0]}}}")
    for one in request.rows:
        yield Series(pattern, request.columns, one.own.on(request.heights)), one


def _shown(made: MadeRow, work: Workpiece | None) -> MadeName:
    figures = made.result.figures if made.result else ()
    return MadeName(
        row=0,
        title=made.title,
        fits=made.fits,
        kind=made.kind,
        reason=made.reason,
        warnings=list(made.result.warnings) if made.result else [],
        figures=[_figures(one) for one in figures],
        picture=_picture(work) if work else "",
    )


def _figures(one: LetteringFigures) -> tuple[str, float, float, float, str]:
    return (one.lettering, one.height, one.gap, one.room, one.guide)


def _picture(work: Workpiece) -> str:
    outlines = (
        line.placed_outline(index)
        for line in work.layout.settings
        for index in range(len(line.clusters))
        if line.drawn[index]
    )
    return "".join(outline_data(one) for one in outlines if one)


def _blank(work: Workpiece) -> tuple[Bounds, str]:
    x0, y0, x1, y1 = work.layout.bounds()
    return (x0, -y1, x1, -y0), "".join(curve_data(curve) for curve in work.layout.blank)

"""Routes for names: what comes of the rows of a piece's list, and their files.

The page asks for a few rows at a time, those in sight first, so that no question takes long.
"""

from __future__ import annotations

import time
from typing import Annotated, Any

from cachetools import LRUCache
from fastapi import APIRouter, Query, Request, Response
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from ulvent.bench import LATER, Bench
from ulvent.core.base.arrays import Bounds
from ulvent.core.base.errors import PieceError, wrong_field
from ulvent.core.layout.names import lettering_names
from ulvent.core.recipe import Piece, parse_piece
from ulvent.core.recipe.name_list import MOST_ROWS
from ulvent.core.series import Pattern, one_height
from ulvent.core.series.listed import Listed
from ulvent.core.series.matched import matched_head
from ulvent.core.series.results import LetteringFigures, heights_that_fit, least_heights
from ulvent.core.series.row_making import MadeRow, made_row
from ulvent.core.workshop import Workpiece, document_hash
from ulvent.formats.svg_data import curve_data, outline_data
from ulvent.formats.words_file import read_table
from ulvent.web.bodies import A_FILE
from ulvent.web.problems import Problem
from ulvent.web.request_work import TheWork

router = APIRouter(tags=["names"], responses={422: {"model": Problem}})

MOST_AT_ONCE = 20


class NameTable(BaseModel):
    """A list that was read.

    said
        how it was read, in words
    """

    head: list[str]
    rows: list[list[str]]
    said: str


class NamesRequest(BaseModel):
    """A piece with its list, and which of its rows are asked for, from 0."""

    piece: dict[str, Any]
    rows: Annotated[list[int], Field(max_length=MOST_AT_ONCE)] = []


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
    figures: list[tuple[str, float, float, float]]
    picture: str


class MendedRow(BaseModel):
    """Heights of its own with which a row fits; none where smaller letters do not mend it."""

    row: int
    heights: dict[str, float]


class NamesScene(BaseModel):
    """A list as it fills a piece.

    fields, columns
        of the piece, and the field of each column
    letterings
        their names by their ids
    empty, twice
        rows that say nothing, and those that say what one before them does
    heights
        of letterings that have one in all rows
    measured
        rows whose heights are known, where that of all is not known yet: ask again
    box, blank
        what pictures lie in, and the blank's edge as path data
    """

    fields: list[str]
    columns: list[str]
    letterings: dict[str, str]
    empty: list[int]
    twice: list[int]
    heights: dict[str, float]
    measured: int | None = None
    box: Bounds
    blank: str
    made: list[MadeName]


@router.post("/api/names/read", openapi_extra=A_FILE)
async def names_read(
    request: Request, field: Annotated[list[str] | None, Query(max_length=100)] = None
) -> NameTable:
    """A list from a file or what was pasted (CSV or TSV); nothing is kept.

    field
        of the piece, again and again: a first line that names one is the head
    """
    found = await run_in_threadpool(read_table, await request.body())
    rows = [row for row in found.rows if any(cell.strip() for cell in row)]
    head = rows.pop(0) if rows and matched_head(rows[0], field or ()) else []
    if len(rows) > MOST_ROWS:
        reason = f"has {len(rows)} rows; a piece keeps {MOST_ROWS}, `ulvent names` takes 50,000"
        raise wrong_field("list", reason)
    separators = {",": "commas", ";": "semicolons", "\t": "tabs"}
    said = f"{len(rows)} rows, {found.encoding}, {separators[found.separator]} between cells"
    return NameTable(head=head, rows=rows, said=said)


@router.post("/api/names", response_model=NamesScene)
def names(request: NamesRequest, work: TheWork) -> Response:
    """What comes of some rows of a piece's list."""
    return work.json(_scene, request, seconds=LATER, patient=True)


@router.post("/api/names/mended", response_model=list[MendedRow])
def mended(request: NamesRequest, work: TheWork) -> Response:
    """Smaller letters for rows of a piece's list that do not fit."""
    return work.json(_mended, request, seconds=LATER, patient=True)


_MEASURE_SECONDS = 6.0
"""Of processor time: a question that measures rows for longer is asked again by the page."""
_LEAST: LRUCache[str, dict[str, float]] = LRUCache(4 * MOST_ROWS)
"""The heights that fit rows, by their pieces: each takes a fit."""
_ROWS: LRUCache[str, MadeName] = LRUCache(
    16_000_000, lambda row: 600 + len(row.picture) + len(row.reason) + sum(map(len, row.warnings))
)
"""Rows that were made, by their pieces: a change makes anew what it changes, and no other."""


class _Made:
    """What comes of a piece's own list, row by row.

    measured
        rows whose heights are known, where one height for all is not known yet
    """

    def __init__(self, bench: Bench, piece: Piece) -> None:
        self._workshop = bench.workshop
        self.list = Listed(piece)
        self.heights: dict[str, float] = {}
        self.measured: int | None = None
        if self.list.recipe.one_height:
            self._measure()

    def _measure(self) -> None:
        """The one height of all rows, as far as there is time."""
        until = time.process_time() + _MEASURE_SECONDS
        found: list[dict[str, float]] = []
        for piece in self.list.pieces():
            key = document_hash(piece)
            if key not in _LEAST:
                if time.process_time() > until:
                    self.measured = len(found)
                    return
                _LEAST[key] = one_height(
                    self.list.pattern.piece, [piece],
                    lambda one: self._workshop.in_passing(one).solved,
                )  # fmt: skip
            found.append(_LEAST[key])
        self.heights = least_heights(found)

    def row(self, index: int) -> MadeName:
        """What comes of a row, from 0, with the heights that it has alone."""
        series = self.list.series(index, self.heights)
        cells = self.list.recipe.rows[index].cells
        number = self.list.number(index)
        try:
            key = document_hash(series.piece(cells))
        except PieceError:
            # What is wrong with it is said of it.
            made = _shown(*made_row(series, self._workshop, number, cells))
        else:
            if key not in _ROWS:
                _ROWS[key] = _shown(*made_row(series, self._workshop, number, cells))
            made = _ROWS[key]
        return made.model_copy(update={"row": index})

    def heights_that_fit(self, index: int) -> dict[str, float]:
        """Heights of its own with which a row fits."""
        series = self.list.series(index, self.heights)
        in_passing = self._workshop.in_passing
        try:
            work = in_passing(series.piece(self.list.recipe.rows[index].cells))
            return heights_that_fit(work, in_passing)
        except PieceError:
            return {}


def _scene(bench: Bench, request: NamesRequest) -> NamesScene:
    piece = parse_piece(request.piece)
    fields = list(Pattern(piece).fields)
    work = bench.workshop.of(piece.model_copy(update={"names": None}))
    box, blank = _blank(work)
    scene = NamesScene(
        fields=fields, columns=[], letterings=lettering_names(work.layout), empty=[], twice=[],
        heights={}, box=box, blank=blank, made=[],
    )  # fmt: skip
    if piece.names is None or not piece.names.rows:
        return scene
    made = _Made(bench, piece)
    listed = made.list
    scene.columns = list(listed.list.columns)
    scene.empty = [listed.index(number) for number in listed.list.empty]
    scene.twice = [listed.index(number) for number in listed.list.twice]
    scene.heights = made.heights
    there = set(listed.rows)
    scene.measured = made.measured
    if made.measured is None:
        scene.made = [made.row(index) for index in request.rows if index in there]
    return scene


def _mended(bench: Bench, request: NamesRequest) -> list[MendedRow]:
    made = _Made(bench, parse_piece(request.piece))
    there = set(made.list.rows)
    return [
        MendedRow(row=index, heights=made.heights_that_fit(index))
        for index in request.rows
        if index in there
    ]


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


def _figures(one: LetteringFigures) -> tuple[str, float, float, float]:
    return (one.lettering, one.height, one.gap, one.room)


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

"""Routes for outlines from files: showing them, and taking a guide or a blank from them."""

from __future__ import annotations

from typing import Annotated, Literal

import svgelements
from fastapi import APIRouter, Request
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from ulvent.core.base.arrays import Bounds, united
from ulvent.core.base.errors import CurveError, FieldProblem, PieceError
from ulvent.core.base.fields import MOST_PATH_DATA, Identifier
from ulvent.core.curves import Segment
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.guides.blanks import SHEETS, OutlineBlank, blank_curves
from ulvent.core.guides.kinds.path_guide import PathGuide
from ulvent.core.guides.pathdata import exact_segments
from ulvent.core.outlines import FileOutline, curve_of, in_line, moved_segment
from ulvent.formats.outline_file import OutlineFileError
from ulvent.formats.read_dxf import read_dxf
from ulvent.formats.read_svg import read_svg
from ulvent.formats.svg import segment_data
from ulvent.web.problems import Problem

router = APIRouter(prefix="/api/outlines", tags=["outlines"], responses={422: {"model": Problem}})

sheets = APIRouter()

Box = tuple[float, float, float, float]
Unit = Literal["file", "mm", "inch"]
Data = Annotated[str, Field(min_length=1, max_length=MOST_PATH_DATA)]


class ShownEdge(BaseModel):
    """An edge of an outline.

    path
        for the screen, y down
    data
        to take it by: path data in mm, y up
    """

    path: str
    data: str


class ShownOutline(BaseModel):
    """An outline of a file; `runs` are numbers of edges that go on smoothly."""

    edges: list[ShownEdge]
    runs: list[list[int]]
    closed: bool
    length: float


class ShownFile(BaseModel):
    """All outlines of a file, and the box round them, y down."""

    outlines: list[ShownOutline]
    bounds: Box


class TakenEdges(BaseModel):
    """Edges to be made a guide, in order."""

    id: Identifier
    edges: Annotated[list[Data], Field(min_length=1, max_length=5000)]
    source: str = ""


class TakenOutlines(BaseModel):
    """Whole outlines to be made a blank, each by its edges in order, the outer one first."""

    outlines: Annotated[list[list[Data]], Field(min_length=1, max_length=200)]
    source: str = ""


@router.post(
    "/{format}",
    openapi_extra={
        "requestBody": {
            "required": True,
            "content": {
                "application/octet-stream": {"schema": {"type": "string", "format": "binary"}}
            },
        }
    },
)
async def show(format: Literal["svg", "dxf"], request: Request, unit: Unit = "file") -> ShownFile:
    """The outlines of a file, the middle of their box at the origin; nothing is kept.

    The body is the file as it is.
    """
    data = await request.body()
    return await run_in_threadpool(_shown, format, data, unit)


class SheetSize(BaseModel):
    """A common sheet, mm."""

    name: str
    width: float
    height: float


@sheets.get("/api/sheets", tags=["outlines"])
def common_sheets() -> list[SheetSize]:
    """Common sheets that a blank may lie on."""
    return [SheetSize(name=name, width=w, height=h) for name, (w, h) in SHEETS.items()]


@router.post("/take/guide")
def take_guide(taken: TakenEdges) -> PathGuide:
    """Edges joined in order, as a guide that lies where the file has it."""
    try:
        outline = in_line([_segments(data) for data in taken.edges])
        curve = curve_of(outline)
    except CurveError as error:
        raise PieceError([FieldProblem("edges", str(error))]) from error
    x0, y0, x1, y1 = curve_bounds(curve)
    x, y = round((x0 + x1) / 2.0, 3), round((y0 + y1) / 2.0, 3)
    moved = [moved_segment(segment, -x, -y) for segment in outline.segments]
    data = segment_data(moved, outline.closed, up=True)
    _refuse_long("edges", data)
    return PathGuide(
        id=taken.id,
        kind="path",
        d=data,
        centre=(x, y),
        source=taken.source[:200],
        corners="keep-off",
    )


@router.post("/take/blank")
def take_blank(taken: TakenOutlines) -> OutlineBlank:
    """Whole outlines as a blank, brought to the origin."""
    outlines: list[FileOutline] = []
    for index, edges in enumerate(taken.outlines):
        outline = in_line([_segments(data) for data in edges])
        if not outline.closed:
            raise PieceError([FieldProblem(f"outlines[{index}]", "is open: a blank is closed")])
        outlines.append(outline)
    x0, y0, x1, y1 = _bounds(outlines)
    x, y = (x0 + x1) / 2.0, (y0 + y1) / 2.0
    lines = tuple(
        segment_data([moved_segment(s, -x, -y) for s in outline.segments], closed=True, up=True)
        for outline in sorted(outlines, key=lambda one: -_extent(one))
    )
    for index, line in enumerate(lines):
        _refuse_long(f"outlines[{index}]", line)
    blank = OutlineBlank(kind="outline", lines=lines, source=taken.source[:200])
    blank_curves(blank)
    return blank


def _refuse_long(field: str, data: str) -> None:
    if len(data) > MOST_PATH_DATA:
        reason = f"come to more than {MOST_PATH_DATA} characters of path data: choose fewer"
        raise PieceError([FieldProblem(field, reason)])


def _shown(format: str, data: bytes, unit: Unit) -> ShownFile:
    read = read_svg if format == "svg" else read_dxf
    found: list[ShownOutline] = []
    centred, box = _centred(read(data, unit))
    for outline, length in centred:
        found.append(
            ShownOutline(
                edges=[
                    ShownEdge(
                        path=segment_data(edge, closed=False),
                        data=segment_data(edge, closed=False, up=True),
                    )
                    for edge in outline.edges
                ],
                runs=[[*run] for run in outline.smooth_runs],
                closed=outline.closed,
                length=length,
            )
        )
    return ShownFile(outlines=found, bounds=box)


def _centred(outlines: list[FileOutline]) -> tuple[list[tuple[FileOutline, float]], Box]:
    """The outlines that are lines, moved together to the origin, with their lengths; their box."""
    kept: list[tuple[FileOutline, float]] = []
    for outline in outlines:
        try:
            kept.append((outline, curve_of(outline).length))
        except CurveError:
            # A speck, or a line that does not hang together, is no line to follow.
            continue
    if not kept:
        raise OutlineFileError("the file has no lines that lettering could follow")
    x0, y0, x1, y1 = _bounds([outline for outline, _ in kept])
    x, y = (x0 + x1) / 2.0, (y0 + y1) / 2.0
    moved = [
        (
            FileOutline(
                tuple(moved_segment(segment, -x, -y) for segment in outline.segments),
                outline.closed,
            ),
            length,
        )
        for outline, length in kept
    ]
    return moved, (x0 - x, y - y1, x1 - x, y - y0)


def _bounds(outlines: list[FileOutline]) -> Bounds:
    return united([curve_bounds(curve_of(outline)) for outline in outlines])


def _extent(outline: FileOutline) -> float:
    x0, y0, x1, y1 = curve_bounds(curve_of(outline))
    return (x1 - x0) * (y1 - y0)


def _segments(data: str) -> list[Segment]:
    try:
        segments = exact_segments(svgelements.Path(data))
    except (ValueError, TypeError, IndexError, AttributeError) as error:
        raise PieceError([FieldProblem("edges", "is not path data")]) from error
    if not segments:
        raise PieceError([FieldProblem("edges", "draws nothing")])
    return segments

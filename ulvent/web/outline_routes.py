"""Routes for outlines from files: showing them, and taking a guide or a blank from them."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

import svgelements
from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from ulvent.bench import Bench
from ulvent.core.base.arrays import Bounds
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.fields import MOST_PATH_DATA, Identifier
from ulvent.core.curves import Segment
from ulvent.core.guides.blanks import OutlineBlank
from ulvent.core.guides.kinds.path_guide import PathGuide
from ulvent.core.guides.pathdata import exact_segments
from ulvent.core.guides.taken import blank_of_outlines, centred_lines, guide_of_edges, refuse_long
from ulvent.core.outlines import FileOutline
from ulvent.core.outlines.path_text import segment_data
from ulvent.crew import memory_within
from ulvent.formats.format import FileUnit
from ulvent.formats.outline_file import OutlineFileError
from ulvent.formats.read import READERS
from ulvent.web.problems import Problem
from ulvent.web.request_work import TheWork
from ulvent.web.turning import turned

router = APIRouter(prefix="/api/outlines", tags=["outlines"], responses={422: {"model": Problem}})

if TYPE_CHECKING:
    ReaderName = str
else:
    ReaderName = Literal[tuple(READERS)]
Data = Annotated[str, Field(min_length=1, max_length=MOST_PATH_DATA)]

_READING_SECONDS = 2.0
_READING_BYTES = 300_000_000
"""A file that takes longer to read, or more memory, is refused."""


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
    bounds: Bounds


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
    response_model=ShownFile,
    openapi_extra={
        "requestBody": {
            "required": True,
            "content": {
                "application/octet-stream": {"schema": {"type": "string", "format": "binary"}}
            },
        }
    },
)
async def show(
    format: ReaderName, request: Request, work: TheWork, unit: FileUnit = "file"
) -> Response:
    """The outlines of a file, the middle of their box at the origin; nothing is kept.

    The body is the file as it is.
    """
    data = await request.body()

    def shown() -> Response:
        return work.json(_shown, format, data, unit, seconds=_READING_SECONDS)

    return await run_in_threadpool(shown)


@router.post("/take/guide", response_model=PathGuide)
def take_guide(taken: TakenEdges, work: TheWork) -> Response:
    """Edges joined in order, as a guide that lies where the file has it."""
    return work.json(_guide, taken)


@router.post("/take/blank", response_model=OutlineBlank)
def take_blank(taken: TakenOutlines, work: TheWork) -> Response:
    """Whole outlines as a blank, brought to the origin."""
    return work.json(_blank, taken)


def _guide(_: Bench, taken: TakenEdges) -> PathGuide:
    # Said before it is read: reading it takes as much again as the answer could hold.
    refuse_long("edges", "".join(taken.edges))
    return guide_of_edges(taken.id, [_segments(data) for data in taken.edges], taken.source)


def _blank(_: Bench, taken: TakenOutlines) -> OutlineBlank:
    outlines = [[_segments(data) for data in edges] for edges in taken.outlines]
    return blank_of_outlines(outlines, taken.source)


def _shown(_: Bench, format: str, data: bytes, unit: FileUnit) -> ShownFile:
    with memory_within(_READING_BYTES):
        return _read(format, data, unit)


def _read(format: str, data: bytes, unit: FileUnit) -> ShownFile:
    centred, box = centred_lines(READERS[format].read(data, unit))
    if not centred:
        raise OutlineFileError("the file has no lines that lettering could follow")
    outlines = [_shown_outline(outline, length) for outline, length in centred]
    return turned(ShownFile(outlines=outlines, bounds=box))


def _shown_outline(outline: FileOutline, length: float) -> ShownOutline:
    return ShownOutline(
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


def _segments(data: str) -> list[Segment]:
    try:
        segments = exact_segments(svgelements.Path(data))
    except (ValueError, TypeError, IndexError, AttributeError) as error:
        raise wrong_field("edges", "is not path data") from error
    if not segments:
        raise wrong_field("edges", "draws nothing")
    return segments

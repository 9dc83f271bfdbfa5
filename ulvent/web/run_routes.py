"""Routes for runs: what each pass does, for the page to rehearse, and files of it.

Everything here is in mm and seconds, from the machine's zero, with y down.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Annotated, Any, Literal
from uuid import UUID

import numpy as np
from fastapi import APIRouter, Query, Response
from pydantic import BaseModel

from ulvent.bench import LATER, Bench
from ulvent.core.base.arrays import Bounds, Point
from ulvent.core.base.fields import XY
from ulvent.core.base.outputs import OUTPUTS
from ulvent.core.base.tools import TOOLS, ToolKind
from ulvent.core.curves.segments import as_point
from ulvent.core.recipe import Piece, RunPass, RunSheet, Tabs
from ulvent.core.recipe.run_sheet import What
from ulvent.core.runs import PassRun, Run, Track, fresh_pass, run_choices
from ulvent.core.runs.few_moves import once_each, that_matter
from ulvent.core.runs.loosened import loosened
from ulvent.core.runs.on_the_drawing import Does, done_by_hand, works_of
from ulvent.core.runs.timing import times_along
from ulvent.core.workshop import Workpiece
from ulvent.formats.run_out import RUN_FORMATS
from ulvent.formats.svg_data import broken_line_data
from ulvent.web.problems import Problem
from ulvent.web.request_work import TheWork
from ulvent.web.shelf_routes import Shelf, download
from ulvent.web.turning import turned

router = APIRouter(tags=["run"], responses={422: {"model": Problem}})

if TYPE_CHECKING:
    RunFormatName = str
else:
    RunFormatName = Literal[tuple(RUN_FORMATS)]

_SHOWN = 0.02
"""What is only looked at is off by so much, mm."""


class RunRequest(BaseModel):
    """A piece whose run is looked at."""

    piece: dict[str, Any]


class ByHand(BaseModel):
    """Something done on the drawing of a run, for one pass.

    at
        from the machine's zero: where a line begins, a tab stands, or what is worked on lies;
        nothing: what was at `was` is taken away
    was
        where it was that is pulled or taken away
    """

    piece: dict[str, Any]
    pass_id: str
    does: Does
    at: Point | None = None
    was: Point | None = None


class RunTrack(BaseModel):
    """What a tool does from coming down until it goes up.

    down
        seconds from the beginning of the run at which it is down
    points
        x, y and seconds after it came down, point by point
    line
        which line of its pass it is of
    relief
        of a pointed cutter, the walls that it leaves: x and y of the four corners of each strip,
        and how light it is, from 0 to 1
    """

    down: float
    line: int
    points: list[float]
    relief: list[float] = []


class RunLoose(BaseModel):
    """A part that comes loose, x and y of its edge point by point.

    at
        seconds from the beginning of the run
    kept
        whether it is kept, or falls out
    """

    at: float
    kept: bool
    points: list[float]


class RunLine(BaseModel):
    """A line of a pass, to be jumped to: what it belongs to, and when it is begun."""

    name: str
    begins: float


class ShownPass(BaseModel):
    """A pass of the run sheet, and what it does where it runs.

    letter, dashes
        what tells its tool apart
    starts, tabs
        what was set by hand, seen from the machine's zero
    clears
        mm across of a flat cutter; nothing of other tools
    drawn, idle
        mm with the tool down and up
    begins, seconds
        when it begins, and how long it takes
    """

    number: int
    id: str
    title: str
    tool: ToolKind
    letter: str
    dashes: list[float]
    colour: str
    runs: bool
    clears: float
    speed: float
    power: float
    depth: float
    drawn: float
    idle: float
    begins: float
    seconds: float
    lines: list[RunLine]
    tracks: list[RunTrack]
    starts: list[Point]
    tabs: list[Point]


class Workable(BaseModel):
    """Something that a pass may work on, in words."""

    what: What
    of: str
    name: str


class ShownChoice(BaseModel):
    """A run sheet by one choice."""

    name: str
    title: str
    hint: str
    sheet: RunSheet


class RunScene(BaseModel):
    """A piece's run.

    sheet
        its run sheet, or the plain one
    own
        whether the piece has a run sheet of its own
    blank
        its edge, as path data
    takes, share
        mm across and up that it takes of the sheet, and what share of it that is, where it is known
    loose
        what comes apart, in the order in which it does
    fresh, tabs
        a pass that may be added, and tabs to begin with
    """

    bounds: Bounds
    sheet: RunSheet
    own: bool
    blank: str
    seconds: float
    takes: tuple[float, float]
    share: float | None
    passes: list[ShownPass]
    loose: list[RunLoose]
    workable: list[Workable]
    choices: list[ShownChoice]
    fresh: RunPass | None
    tabs: Tabs


@router.post("/api/run", response_model=RunScene)
def run(request: RunRequest, work: TheWork) -> Response:
    """What the machine does for a piece, pass by pass, and when."""
    return work.json(_run, request, seconds=LATER, patient=True)


@router.get("/api/pieces/{piece_id}/run/{format}", response_class=Response)
def run_file(
    pieces: Shelf,
    work: TheWork,
    piece_id: UUID,
    format: RunFormatName,
    one_pass: Annotated[str, Query(alias="pass", max_length=64)] = "",
) -> Response:
    """The run of a piece, or one pass of it, as a file for a machine or for paper."""
    piece = pieces.get(piece_id).piece
    data = work.done(_written, piece, format, one_pass, seconds=LATER, patient=True)
    wanted = RUN_FORMATS[format]
    return download(data, piece.title, wanted.ending, wanted.media_type)


@router.post("/api/run/by-hand")
def by_hand(request: ByHand, work: TheWork) -> RunSheet:
    """The run sheet of a piece after something was done on its drawing."""
    return work.done(_by_hand, request, seconds=LATER)


def _by_hand(bench: Bench, request: ByHand) -> RunSheet:
    asked = turned(request)
    work = bench.workshop.of_document(asked.piece)
    sheet = work.piece.run or work.run.sheet
    return done_by_hand(
        work.layout, work.groups, sheet, asked.pass_id, asked.does, asked.at, asked.was
    )


def _written(bench: Bench, piece: Piece, format: str, one_pass: str) -> bytes:
    found = bench.workshop.of(piece).run
    return RUN_FORMATS[format].write(found.only(one_pass) if one_pass else found)


def _run(bench: Bench, request: RunRequest) -> RunScene:
    return turned(_scene(bench.workshop.of_document(request.piece)))


def _scene(work: Workpiece) -> RunScene:
    found, piece = work.run, work.piece
    return RunScene(
        bounds=found.frame,
        sheet=found.sheet,
        own=piece.run is not None,
        blank="".join(broken_line_data(ring, closed=True) for ring in found.blank),
        seconds=found.seconds,
        takes=found.takes,
        share=found.takes[0] * found.takes[1] / (piece.sheet.width * piece.sheet.height)
        if piece.sheet
        else None,
        passes=_passes(found),
        loose=_loose(found),
        workable=_workable(work, found.sheet),
        choices=[
            ShownChoice(name=one.name, title=one.title, hint=one.hint, sheet=one.sheet)
            for one in run_choices(piece, work.groups)
        ],
        fresh=fresh_pass(found.sheet, work.groups),
        tabs=Tabs(),
    )  # fmt: skip


def _workable(work: Workpiece, sheet: RunSheet) -> list[Workable]:
    found = [Workable(**works_of(group).model_dump(), name=group.name) for group in work.groups]
    if sheet.marks:
        found.append(Workable(what="marks", of="", name="Marks to lay it by again"))
    return found


def _passes(found: Run) -> list[ShownPass]:
    """All passes of the sheet; those that do not run do nothing."""
    running = {one.number: one for one in found.passes}
    shown: list[ShownPass] = []
    begins = 0.0
    for number, recipe in enumerate(found.sheet.passes, 1):
        tool, one = TOOLS[recipe.tool], running.get(number)
        shown.append(
            ShownPass(
                number=number,
                id=recipe.id,
                title=recipe.name or tool.title,
                tool=recipe.tool,
                letter=tool.letter,
                dashes=list(tool.dashes),
                colour=OUTPUTS[tool.output][2],
                runs=one is not None,
                speed=one.speed if one else recipe.speed or tool.speed,
                power=one.power if one else recipe.power or tool.power,
                depth=one.depth if one else recipe.depth,
                drawn=one.drawn if one else 0.0,
                idle=one.idle if one else 0.0,
                begins=begins,
                seconds=one.seconds if one else 0.0,
                clears=one.clears if one else 0.0,
                tracks=(tracks := _tracks(one, begins) if one else []),
                lines=_lines(one, tracks) if one else [],
                starts=_seen(found, recipe.begins),
                tabs=_seen(found, recipe.tabs.at if recipe.tabs else ()),
            )
        )
        begins += one.seconds if one else 0.0
    return shown


def _loose(found: Run) -> list[RunLoose]:
    few = once_each(
        lambda ring: (ring[that_matter(ring, _SHOWN)] * (1.0, -1.0)).round(3).ravel().tolist()
    )
    return [
        RunLoose(at=round(one.at, 3), kept=one.kept, points=few(one.ring))
        for one in loosened(found)
    ]


def _seen(found: Run, places: Sequence[XY]) -> list[Point]:
    return [as_point(found.place.from_piece(at).round(3)) for at in places]


def _tracks(one: PassRun, begins: float) -> list[RunTrack]:
    timed = once_each(lambda points: _timed(points, times_along(points, one.speed, one.motion)))
    found: list[RunTrack] = []
    for track, lasts in zip(one.tracks, one.lasts, strict=True):
        if track.row is None:
            points = timed(track.way)
        else:
            points = _timed(track.points, np.array([0.0, lasts.up - lasts.down]))
        found.append(
            RunTrack(
                down=round(begins + lasts.down, 3), line=track.line, points=points,
                relief=_relief(one, track),
            )
        )  # fmt: skip
    return found


def _relief(one: PassRun, track: Track) -> list[float]:
    found = one.relief(track)
    if found is None:
        return []
    corners = (found.corners * (1.0, -1.0)).reshape(-1, 8)
    listed: list[float] = np.column_stack([corners, found.light]).round(3).ravel().tolist()
    return listed


def _timed(points: np.ndarray, times: np.ndarray) -> list[float]:
    """The points of a track that matter, each with its time."""
    few = np.column_stack([points[:, :2] * (1.0, -1.0), times])[that_matter(points, _SHOWN)]
    found: list[float] = few.round(3).ravel().tolist()
    return found


def _lines(one: PassRun, tracks: list[RunTrack]) -> list[RunLine]:
    """The lines of a pass in the order in which they are begun."""
    first: dict[int, float] = {}
    for track in tracks:
        first.setdefault(track.line, track.down)
    return [RunLine(name=one.names[line], begins=at) for line, at in first.items()]

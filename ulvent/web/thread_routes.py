"""Routes for thread: what is sewn of a piece, for the page to rehearse, and stitch files.

Everything here is in mm and seconds, on the sheet, with y down.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Any, Literal
from uuid import UUID

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel

from ulvent.bench import LATER, Bench
from ulvent.core.base.arrays import Bounds, Point, box_round, united
from ulvent.core.base.errors import PieceError
from ulvent.core.layout.names import lettering_names
from ulvent.core.recipe import Piece
from ulvent.core.recipe.sewing import Sewing, SewnLettering
from ulvent.core.stitches import CLOTHS, THREADS, Embroidery
from ulvent.core.stitches.cloths import SOURCE, cloth_of
from ulvent.core.stitches.columns_by_hand import Does, columns_seen, set_by_hand
from ulvent.core.stitches.hoops import hoopings, one_hooping
from ulvent.core.stitches.thread_figures import figures
from ulvent.core.workshop import Workpiece
from ulvent.formats.svg_data import broken_line_data
from ulvent.formats.thread_out import THREAD_FORMATS
from ulvent.web.problems import Problem
from ulvent.web.request_work import TheWork
from ulvent.web.shelf_routes import Shelf, download
from ulvent.web.turning import turned

router = APIRouter(tags=["thread"], responses={422: {"model": Problem}})

if TYPE_CHECKING:
    ThreadFormatName = str
else:
    ThreadFormatName = Literal[tuple(THREAD_FORMATS)]


class StitchRequest(BaseModel):
    """A piece that is looked at in thread."""

    piece: dict[str, Any]


class ShownThread(BaseModel):
    """Thread that is neither cut nor lifted.

    colour
        which of the colours
    begins
        seconds from the beginning of the sewing
    points
        x and y of each needle point
    what
        a digit for each stitch: tie, way, underlay, satin, rows, run, mark
    """

    colour: int
    name: str
    letter: str
    lettering: str
    place: int
    begins: float
    points: list[float]
    what: str


class ShownColour(BaseModel):
    """One thread.

    asks
        what is to be done before it, in words
    """

    colour: str
    asks: str
    stitches: int
    trims: int
    begins: float
    seconds: float
    metres: float


class ShownLettering(BaseModel):
    """A lettering that is sewn, with what it is sewn with.

    overhead
        of one line through its letters, as a share of their own lines; none where it is not
    """

    name: str
    wish: SewnLettering
    overhead: float | None


class ShownHooping(BaseModel):
    """Where a hoop is laid: its edge, its centre, and crosses that it shares with the next one."""

    box: Bounds
    centre: Point
    marks: list[Point]


class Named(BaseModel):
    """Something to choose, in words."""

    name: str
    title: str


class UsualFigures(BaseModel):
    """What is usual for the cloth and thread, mm, and where the figures come from."""

    spacing: float
    pull: float
    length: float
    source: str


class OfLetter(BaseModel):
    """A letter of a lettering of a piece."""

    piece: dict[str, Any]
    lettering: str
    place: int


class ByHand(OfLetter):
    """What is done to one line across one column of it; what was set is forgotten by `as found`.

    side
        which end of the line is pulled to `at`: 0, or 1
    """

    does: Does
    column: int = 0
    line: int = 0
    side: Literal[0, 1] = 0
    at: Point = (0.0, 0.0)


class LetterColumns(BaseModel):
    """The columns of a letter, each as lines across it from edge to edge.

    by_hand
        whether someone has set them, for all words in this face
    """

    face: str
    letter: str
    by_hand: bool
    columns: list[list[tuple[Point, Point]]]


class StitchScene(BaseModel):
    """A piece in thread.

    own
        whether the piece says how it is sewn
    thread
        mm that a laid thread is wide
    seconds_a_stitch
        at the speed of the piece
    """

    bounds: Bounds
    blank: str
    own: bool
    recipe: Sewing
    usual: UsualFigures
    thread: float
    seconds_a_stitch: float
    stitches: int
    jumps: int
    trims: int
    seconds: float
    metres: float
    size: tuple[float, float]
    colours: list[ShownColour]
    threads: list[ShownThread]
    letterings: list[ShownLettering]
    hoopings: list[ShownHooping]
    too_large: str
    cloths: list[Named]
    thread_kinds: list[Named]


@router.post("/api/stitches", response_model=StitchScene)
def stitches(request: StitchRequest, work: TheWork) -> Response:
    """A piece in thread, stitch by stitch."""
    return work.json(_stitches, request, seconds=LATER, patient=True)


@router.post("/api/stitches/columns")
def columns(request: OfLetter, work: TheWork) -> LetterColumns:
    """The columns of a letter, to be set by hand."""
    return turned(work.done(_columns, request, seconds=LATER))


@router.post("/api/stitches/by-hand")
def by_hand(request: ByHand, work: TheWork) -> Sewing:
    """How a piece is sewn after a column of a letter was set by hand."""
    return work.done(_by_hand, turned(request), seconds=LATER)


@router.get("/api/pieces/{piece_id}/thread/{format}", response_class=Response)
def thread_file(
    pieces: Shelf,
    work: TheWork,
    piece_id: UUID,
    format: ThreadFormatName,
    hooping: Annotated[int, Query(ge=0, le=1000)] = 0,
) -> Response:
    """A piece in thread, as a stitch file: all of it, or, from 1, what one hooping holds."""
    piece = pieces.get(piece_id).piece
    data = work.done(_written, piece, format, hooping, seconds=LATER, patient=True)
    wanted = THREAD_FORMATS[format]
    title = f"{piece.title} hoop {hooping}".strip() if hooping else piece.title
    return download(data, title, wanted.ending, wanted.media_type)


def _written(bench: Bench, piece: Piece, format: str, hooping: int) -> bytes:
    found = bench.workshop.of(piece).embroidery
    return THREAD_FORMATS[format].write(one_hooping(piece, found, hooping))


def _stitches(bench: Bench, request: StitchRequest) -> StitchScene:
    return turned(_scene(bench.workshop.of_document(request.piece)))


def _columns(bench: Bench, request: OfLetter) -> LetterColumns:
    work = bench.workshop.of_document(request.piece)
    found = columns_seen(work.layout, work.groups, request.lettering, request.place)
    return LetterColumns(**found._asdict())


def _by_hand(bench: Bench, asked: ByHand) -> Sewing:
    work = bench.workshop.of_document(asked.piece)
    return set_by_hand(
        work.layout, work.groups, asked.lettering, asked.place, asked.does, asked.column,
        asked.line, asked.side, asked.at,
    )  # fmt: skip


def _scene(work: Workpiece) -> StitchScene:
    piece, embroidery = work.piece, work.embroidery
    recipe = piece.sewing or Sewing()
    come_to = figures(embroidery, recipe.speed)
    shown, too_large = _hoopings(embroidery, recipe)
    box = embroidery.bounds or (0.0, 0.0, 1.0, 1.0)
    lie = piece.lie.matrix
    blank = [curve.samples[1] @ lie[:, :2].T + lie[:, 2] for curve in work.layout.blank]
    return StitchScene(
        bounds=united([box, *(one.box for one in shown), *map(box_round, blank)]),
        blank="".join(broken_line_data(ring * (1.0, -1.0), closed=True) for ring in blank),
        own=piece.sewing is not None,
        recipe=recipe,
        usual=_usual(recipe),
        thread=embroidery.cloth.thread,
        seconds_a_stitch=60.0 / recipe.speed,
        stitches=come_to.stitches,
        jumps=come_to.jumps,
        trims=come_to.trims,
        seconds=come_to.seconds,
        metres=come_to.metres,
        size=(box[2] - box[0], box[3] - box[1]),
        colours=[
            ShownColour(colour=colour.colour, asks=colour.asks, **vars(one))
            for colour, one in zip(embroidery.colours, come_to.colours, strict=True)
        ],
        threads=_threads(embroidery, come_to.begins),
        letterings=_letterings(work, recipe),
        hoopings=shown,
        too_large=too_large,
        cloths=[Named(name=name, title=one.title) for name, one in CLOTHS.items()],
        thread_kinds=[Named(name=name, title=one.title) for name, one in THREADS.items()],
    )


def _usual(recipe: Sewing) -> UsualFigures:
    cloth = cloth_of(recipe.model_copy(update={"spacing": None, "pull": None, "length": None}))
    return UsualFigures(spacing=cloth.spacing, pull=cloth.pull, length=cloth.run, source=SOURCE)


def _threads(embroidery: Embroidery, begins: tuple[float, ...]) -> list[ShownThread]:
    found: list[ShownThread] = []
    for number, colour in enumerate(embroidery.colours):
        for one in colour.sewn:
            found.append(
                ShownThread(
                    colour=number,
                    name=one.name,
                    letter=one.letter,
                    lettering=one.lettering,
                    place=one.place,
                    begins=round(begins[len(found)], 2),
                    points=(one.points * (1.0, -1.0)).round(2).ravel().tolist(),
                    what="".join(map(str, one.thread.what.tolist())),
                )
            )
    return found


def _letterings(work: Workpiece, recipe: Sewing) -> list[ShownLettering]:
    names = lettering_names(work.layout)
    wishes = {one.of: one for one in recipe.letterings}
    lines = work.embroidery.quilted
    return [
        ShownLettering(
            name=names[one.id],
            wish=wishes.get(one.id, SewnLettering(of=one.id)),
            overhead=lines[one.id].overhead if one.id in lines else None,
        )
        for one in work.piece.letterings
    ]


def _hoopings(embroidery: Embroidery, recipe: Sewing) -> tuple[list[ShownHooping], str]:
    """Where the hoop is laid, y up as yet; or why it cannot be."""
    if recipe.hoop is None:
        return [], ""
    width, height = recipe.hoop.sides
    try:
        every = hoopings(embroidery, recipe.hoop)
    except PieceError as error:
        return [], error.problems[0].reason
    return [
        ShownHooping(
            box=(one.centre[0] - width / 2, one.centre[1] - height / 2,
                 one.centre[0] + width / 2, one.centre[1] + height / 2),
            centre=one.centre,
            marks=[(float(x), float(y)) for x, y in one.marks],
        )
        for one in every
    ], ""  # fmt: skip

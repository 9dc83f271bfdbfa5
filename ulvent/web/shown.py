"""What the layout view is shown: the scene, as data.

Everything is in mm with y down, as SVG has it, so that the screen paints and computes
nothing.
"""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from ulvent.core.drawing.dimensions import Dimension
from ulvent.core.guides.grip import Grip
from ulvent.core.proof import Finding
from ulvent.core.recipe.lettering import Nudge

Box = tuple[float, float, float, float]


class NamedPlace(BaseModel):
    """A place on a guide that has a name, as a share of its length."""

    name: str
    share: float


class SceneGuide(BaseModel):
    """A guide as path data, with its length and the places on it that have names.

    note
        what a maker should know of how it came out
    tight
        path data of where it bends more tightly than the letters on it can follow
    sizes
        figures of it that lettering can size
    """

    id: str
    path: str
    length: float
    closed: bool
    places: list[NamedPlace]
    bounds: Box
    shown: bool
    note: str
    tight: str
    sizes: list[str]


class MovedLine(BaseModel):
    """What of a line of lettering moves while something is held: as in `SceneLettering`."""

    id: str
    line: int
    matrices: list[float]
    outlines: list[str]
    drawn: list[bool]
    band: str


class Moved(BaseModel):
    """What moves on the drawing while something is held.

    guides
        path data by their ids
    grips
        where grips are, by their names
    """

    guides: dict[str, str]
    lines: list[MovedLine]
    grips: dict[str, tuple[float, float]]
    dimensions: list[Dimension]


class SceneMeasure(BaseModel):
    """A guide measured between two stations, or at one.

    radius
        of the bend at the last station; nothing where the guide is straight there
    """

    guide: str
    path: str
    points: list[tuple[float, float]]
    stations: list[float]
    length: float
    chord: float | None
    radius: float | None
    text: str


class SceneTicks(BaseModel):
    """Ticks of a dial as path data."""

    path: str
    strokes: bool


class SceneLast(BaseModel):
    """Where the words end on an open guide, and what is left of it after them, mm."""

    at: tuple[float, float]
    left: float


class SceneFit(BaseModel):
    """A figure that was solved, and why there is no exact answer, where there is none.

    figures, guide_figures
        what fields of the lettering and of its guide come to
    """

    kind: str
    value: float
    note: str
    figures: dict[str, float]
    guide_figures: dict[str, float]


class SceneLettering(BaseModel):
    """A line of a lettering: outlines by name, six figures of a matrix each, and more.

    line
        which line of its lettering it is
    outlines
        instead of names and matrices: path data of letters that follow the curve
    ticks
        path data, and whether they are single strokes
    places
        where each letter stands in the lettering's words; -1 for a mark
    hand
        what was done to letters of the whole lettering by hand, on its words as they are now
    labels, label_texts
        on a dial: the label that each letter belongs to, and what the labels say
    drawn
        whether each letter has a place on its guide
    fit
        what came of the lettering's fit
    last
        where the last letter of an open guide ends, and how far that is from the guide's end
    band
        path data of the band it stands in, for showing that it is chosen
    """

    id: str
    guide: str
    line: int
    shapes: list[str]
    matrices: list[float]
    outlines: list[str]
    ticks: list[SceneTicks]
    places: list[int]
    hand: list[Nudge]
    labels: list[int]
    label_texts: dict[int, str]
    drawn: list[bool]
    strokes: bool
    last: SceneLast | None
    fit: SceneFit | None
    band: str
    bounds: Box | None
    length: float
    room: float


class SceneGaps(BaseModel):
    """The gaps of a line on the strip, one figure a gap in every list.

    after
        the place in the words of the letter before it; -1 after a mark
    found, designed
        as it is and as its designer gave it, mm
    share
        their quotient
    excess
        by how much it is wider, mm, than it would be if all were alike
    worst
        which of them stand out
    held_apart
        how many stand at the least distance, since an even gap would bring them nearer
    usual
        the middle one of the shares: how the curve widens or narrows all of them
    spread
        by how much, as a share of that, they differ from it at most
    """

    x: list[float]
    after: list[int]
    found: list[float]
    designed: list[float]
    share: list[float]
    excess: list[float]
    worst: list[int]
    held_apart: int
    usual: float
    spread: float


class StripLine(BaseModel):
    """A line of a lettering on the strip.

    shapes
        names of outlines, where those on the drawing are bent
    places, by_hand, starts, ends
        of each letter: its place in the words, whether it was changed by hand, and the x
        between which it stands
    over_seam
        whether it crosses the seam of a closed guide, and shows at both ends
    """

    id: str
    line: int
    shapes: list[str]
    matrices: list[float]
    places: list[int]
    by_hand: list[bool]
    starts: list[float]
    ends: list[float]
    upright: bool
    gaps: SceneGaps
    over_seam: bool
    height: float
    foot: float


class SceneStrip(BaseModel):
    """The chosen guide, straight.

    corners
        where it has corners
    bends
        stretches where it bends more tightly than the letters on it can follow
    """

    guide: str
    length: float
    closed: bool
    against: bool
    lines: list[StripLine]
    free: list[tuple[float, float]]
    corners: list[float]
    bends: list[tuple[float, float]]


class SceneFrame(BaseModel):
    """The sheet, or what the tool reaches, as a box."""

    kind: Literal["sheet", "area"]
    box: Box


class Scene(BaseModel):
    """All that the layout view shows."""

    bounds: Box
    blank: list[str]
    blank_bounds: Box
    frames: list[SceneFrame]
    guides: list[SceneGuide]
    letterings: list[SceneLettering]
    dimensions: list[Dimension]
    grips: list[Grip]
    measure: SceneMeasure | None
    strip: SceneStrip | None
    findings: list[Finding]

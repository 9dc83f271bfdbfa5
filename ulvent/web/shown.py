"""What the layout view is shown: the scene, as data.

Everything is in mm; path data and matrices have y down, as SVG has it, and points and boxes are
turned last of all (`turning`), so that the screen paints and computes nothing.
"""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from ulvent.core.base.arrays import Bounds, Point
from ulvent.core.base.inputs import Figure
from ulvent.core.base.outputs import OutputOrNone
from ulvent.core.drawing.dimensions import Dimension
from ulvent.core.drawing.judged_gaps import JudgedGaps
from ulvent.core.guides.grip import Grip
from ulvent.core.proof import Finding
from ulvent.core.recipe import Nudge


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
    size
        what it is, in a few words with its size
    readings
        which ways lettering can read on it, along it and against it, in words
    extent
        how wide and how high it is, mm
    label_at
        where it is said what becomes of it
    sizes
        figures of it that lettering can size
    becomes
        kinds that it can become, by their names, with their titles
    leans_on
        ids of the guides that it is made from
    """

    id: str
    path: str
    length: float
    closed: bool
    places: list[NamedPlace]
    bounds: Bounds
    extent: tuple[float, float]
    label_at: Point
    becomes: dict[str, str]
    leans_on: list[str]
    shown: bool
    note: str
    tight: str
    size: str
    readings: tuple[str, str]
    sizes: list[Figure]


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
    grips: dict[str, Point]
    dimensions: list[Dimension]


class SceneMeasure(BaseModel):
    """A guide measured between two stations, or at one.

    radius
        of the bend at the last station; nothing where the guide is straight there
    """

    guide: str
    path: str
    points: list[Point]
    stations: list[float]
    length: float
    chord: float | None
    radius: float | None
    text: str


class Spot(BaseModel):
    """What figures on the drawing keep off, mm."""

    at: Point
    reach: float


class SceneTicks(BaseModel):
    """Ticks of a dial as path data."""

    path: str
    strokes: bool


class SceneLast(BaseModel):
    """Where the words end on an open guide, and what is left of it after them, mm."""

    at: Point
    left: float


class SceneFit(BaseModel):
    """A figure that was solved, and why there is no exact answer, where there is none.

    size
        the field of its guide that was solved
    figures, guide_figures
        what fields of the lettering and of its guide come to, as one would measure them
    """

    kind: str
    value: float
    note: str
    size: str
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
    text
        the words of the whole lettering, with what a row of the list brings
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
    arrangement, placing
        how its words stand, and, of a dial, how its places are said
    fits, keeps
        kinds of fits, and what they may keep inside of, that go together with how it stands
    line_to_line
        from line to line, mm, where no pitch is given
    spots
        of each letter that is drawn, and of ticks: its middle, x and y, and how far it reaches
    label_boxes
        on a dial: path data of each label's box, by the label
    name, output
        what it is called, and whether its letters are cut, drawn or engraved
    """

    id: str
    guide: str
    line: int
    shapes: list[str]
    matrices: list[float]
    outlines: list[str]
    ticks: list[SceneTicks]
    places: list[int]
    text: str
    hand: list[Nudge]
    labels: list[int]
    label_texts: dict[int, str]
    drawn: list[bool]
    strokes: bool
    last: SceneLast | None
    fit: SceneFit | None
    band: str
    bounds: Bounds | None
    length: float
    room: float
    arrangement: str
    placing: str
    fits: list[str]
    keeps: list[str]
    line_to_line: float
    spots: list[Spot]
    label_boxes: dict[int, str]
    name: str
    output: OutputOrNone


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
    gaps: JudgedGaps
    over_seam: bool
    height: float
    foot: float


class SceneStrip(BaseModel):
    """The chosen guide, straight, or the lines that fill it, one below the other.

    corners
        where it has corners
    bends
        stretches where it bends more tightly than the letters on it can follow
    """

    guide: str
    length: float
    closed: bool
    filled: bool
    against: bool
    lines: list[StripLine]
    free: list[tuple[float, float]]
    corners: list[float]
    bends: list[tuple[float, float]]


class SceneFrame(BaseModel):
    """The sheet, or what the tool reaches, as a box."""

    kind: Literal["sheet", "area"]
    box: Bounds


class Scene(BaseModel):
    """All that the layout view shows.

    lie
        how it lies: the six figures of a matrix, y down
    extent
        how wide and how high the blank is, mm, where there is one
    """

    bounds: Bounds
    extent: tuple[float, float] | None
    lie: list[float]
    blank: list[str]
    blank_words: str
    blank_bounds: Bounds
    frames: list[SceneFrame]
    guides: list[SceneGuide]
    letterings: list[SceneLettering]
    dimensions: list[Dimension]
    grips: list[Grip]
    measure: SceneMeasure | None
    strip: SceneStrip | None
    findings: list[Finding]

"""The run sheet: which tool works on what, in which order, and how."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from ulvent.core.base.fields import (
    XY,
    Degrees,
    Identifier,
    Model,
    Share,
    Speed,
    Text,
    ToolCoordinate,
    ToolSize,
    ToolSizeOrNone,
    WrongRecipeError,
)
from ulvent.core.base.outputs import Name
from ulvent.core.base.tools import ToolKind
from ulvent.core.recipe.gcode_words import GcodeWords
from ulvent.core.recipe.lying import Bed, Corner

MOST_PASSES = 20
MOST_WORKS = 400
MOST_REPEATS = 50
MOST_TABS = 200
MOST_LEVELS = 200
MOST_BY_HAND = 400

What = Literal[
    "draw", "engrave", "cut", "letters", "ticks", "border", "guide", "edge", "whole", "marks"
]
ONE_OF_A_KIND = ("draw", "engrave", "cut", "edge", "whole", "marks")


PAPERS: dict[str, tuple[float, float]] = {
    "a4": (210.0, 297.0),
    "a3": (297.0, 420.0),
    "letter": (215.9, 279.4),
    "tabloid": (279.4, 431.8),
}
"""Papers that tiles are printed on, mm: ISO 216, and ANSI Y14.1 A and B."""


class Works(Model):
    """What a pass works on.

    what
        all that is drawn, engraved or cut; or one thing; `marks` are those that the sheet is laid
        by again
    of
        which: the lettering of letters or ticks, a guide, or the layer of a border
    """

    what: What
    of: Annotated[str, Field(max_length=80)] = ""

    @model_validator(mode="after")
    def _names_what_there_are_many_of(self) -> Self:
        if (self.what in ONE_OF_A_KIND) == bool(self.of):
            reason = "must be empty" if self.of else f"must say which {self.what} it is"
            raise WrongRecipeError("of", reason)
        return self


class Kerf(Model):
    """Half the width of what a tool takes away, given back on one side of the line.

    side
        `outward`: what lies inside the line is kept; `inward`: it is cut out
    of
        the lettering whose letters and borders it is for; empty: all letterings that were made
        one; none: every one
    edges
        whether closed guides and the blank's edge are moved as well
    """

    width: ToolSize
    side: Literal["outward", "inward"] = "outward"
    of: Annotated[str, Field(max_length=80)] | None = None
    edges: bool = False

    @property
    def offset(self) -> float:
        """mm by which the line is moved outward."""
        return self.width / 2.0 if self.side == "outward" else -self.width / 2.0


class Tabs(Model):
    """What is left standing so that a part stays in its sheet.

    number, apart
        of each closed line, or, where it is given, how far apart they are about, mm; 0: only where
        they are set by hand
    at
        places near which tabs stand instead, on the closed lines that are nearest, mm in the piece
        as it is designed
    width
        mm
    height
        mm of the depth that is left standing; nothing: all of it
    """

    number: Annotated[int, Field(ge=0, le=MOST_TABS)] = 3
    apart: ToolSizeOrNone = 0.0
    at: Annotated[tuple[XY, ...], Field(max_length=MOST_BY_HAND)] = ()
    width: ToolSize = 2.0
    height: ToolSizeOrNone = 0.0


class Filling(Model):
    """Lines that fill an area, to and fro.

    overscan
        mm that the tool runs on beyond each line, at speed and without power
    """

    pitch: ToolSize = 0.2
    angle: Degrees = 0.0
    overscan: ToolSizeOrNone = 3.0


class Carving(Model):
    """The cutter that carves areas, and how.

    angle
        between the sides of a pointed one, degrees
    bit
        its diameter, mm; nothing: what is usual for the tool
    over
        per cent of its diameter from one way round to the next, of a flat one
    left
        mm that a flat one leaves standing at the edges, for another to finish
    """

    angle: Annotated[float, Field(ge=10.0, le=150.0, allow_inf_nan=False)] = 60.0
    bit: ToolSizeOrNone = 0.0
    over: Annotated[float, Field(ge=5.0, le=100.0, allow_inf_nan=False)] = 40.0
    left: ToolSizeOrNone = 0.0


class RunPass(Model):
    """One tool that works on one set of lines.

    on, held
        whether it runs; a pass that is held back waits for the next time that the piece runs
    pause
        what the machine asks for before it, in words; empty: nothing
    speed, power
        mm per second and per cent; those that are left out are usual for the tool
    depth, step
        mm, and how deep one round goes; nothing: all at once
    repeats
        how often each line is followed
    overcut
        mm that a closed line is followed beyond where it began
    trail
        mm that a blade that turns by itself trails its pivot
    lead
        mm of the arc on which the tool comes to a closed line from the waste, and leaves it
    milling
        which way round a cutter goes: `climb` has the material that stays on its right
    filling, carving
        how areas are filled by a tool that fills, and carved by one that carves
    begins
        places near which the closed lines that are nearest are begun, mm in the piece as it is
        designed
    kerf
        what of the tool's width is given back; the last that is for a lettering counts
    """

    id: Identifier
    name: Name = ""
    tool: ToolKind
    works: Annotated[tuple[Works, ...], Field(min_length=1, max_length=MOST_WORKS)]
    on: bool = True
    held: bool = False
    pause: Annotated[Text, Field(max_length=200)] = ""
    speed: Speed | None = None
    power: Share | None = None
    depth: ToolSizeOrNone = 0.0
    step: ToolSizeOrNone = 0.0
    repeats: Annotated[int, Field(ge=1, le=MOST_REPEATS)] = 1
    overcut: ToolSizeOrNone = 0.0
    trail: ToolSizeOrNone = 0.0
    lead: ToolSizeOrNone = 0.0
    tabs: Tabs | None = None
    milling: Literal["conventional", "climb"] = "conventional"
    filling: Filling = Filling()
    carving: Carving = Carving()
    begins: Annotated[tuple[XY, ...], Field(max_length=MOST_BY_HAND)] = ()
    kerf: Annotated[tuple[Kerf, ...], Field(max_length=MOST_WORKS)] = ()

    @model_validator(mode="after")
    def _in_so_many_rounds(self) -> Self:
        if self.step and self.depth / self.step > MOST_LEVELS:
            least = self.depth / MOST_LEVELS
            reason = f"makes more than {MOST_LEVELS} rounds; {least:g} mm or more would do"
            raise WrongRecipeError("step", reason)
        return self


class RunSheet(Model):
    """The passes of a piece, in order.

    zero, at
        where on the blank the machine begins, and where that lies from the machine's zero, mm: the
        corner to come back to
    bed
        of the machine that it is meant for
    marks
        mm outside the blank, or what is worked on, at which marks are drawn to lay it by again;
        nothing: none
    mirrored
        for film that is cut from its back
    rehearsal
        whether the tool stays up: round the bounds, or along all of the path
    weeding
        mm from what a blade cuts to a box that it cuts round it, so that the film round it comes
        off; nothing: none
    weeding_apart
        mm between lines across that box, clear of what is cut, so that it comes off in strips
    paper
        what a PDF is printed on: one page as large as it needs, or tiles
    gcode
        how G-code is worded
    """

    passes: Annotated[tuple[RunPass, ...], Field(max_length=MOST_PASSES)] = ()
    zero: Corner = "lower-left"
    at: tuple[ToolCoordinate, ToolCoordinate] = (0.0, 0.0)
    bed: Bed | None = None
    marks: ToolSizeOrNone = 0.0
    mirrored: bool = False
    rehearsal: Literal["off", "bounds", "path"] = "off"
    weeding: ToolSizeOrNone = 0.0
    weeding_apart: ToolSizeOrNone = 0.0
    paper: Literal["one", "a4", "a3", "letter", "tabloid"] = "one"
    gcode: GcodeWords = GcodeWords()

    @model_validator(mode="after")
    def _each_has_its_id(self) -> Self:
        seen: set[str] = set()
        for index, one in enumerate(self.passes):
            if one.id.lower() in seen:
                raise WrongRecipeError(f"passes[{index}].id", f"“{one.id}” is used twice")
            seen.add(one.id.lower())
        return self

"""The recipe of a lettering: what a person decided about words on a guide, as data."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal, Self

from pydantic import Field, field_validator, model_validator

from ulvent.core.base.fields import (
    LENGTH,
    Coordinate,
    Degrees,
    Identifier,
    Model,
    Size,
    Text,
    WrongRecipeError,
)
from ulvent.core.base.outputs import Name, OutputOrNone
from ulvent.core.recipe.dial import Dial, Figure, Millimetres
from ulvent.core.recipe.fit import Fit
from ulvent.core.recipe.mark import Mark
from ulvent.core.recipe.preparing import Prepare
from ulvent.core.stances import SIDE_BY_SIDE, STANCES

MOST_LETTERS = 2000
MOST_LINES = 50
MOST_REPEATS = 1000

Place = Annotated[int, Field(ge=0, lt=MOST_LETTERS)]
PlaceKind = Literal["mm", "share", "start", "middle", "end", "top", "bottom"]
if TYPE_CHECKING:
    StanceName = str
else:
    StanceName = Literal[tuple(STANCES)]
Tag = Annotated[str, Field(pattern=r"^[\x20-\x7e]{4}$")]


class Repeat(Model):
    """The words again and again along the guide.

    times, pitch
        how often, or how far from each to the next, mm; neither: as often as there is room
    separator
        a mark between them
    gap
        the white at every joint, mm, added to what the face gives; none: whatever makes
        the words go round evenly, the seam no different from the other joints
    """

    times: Annotated[int, Field(ge=1, le=MOST_REPEATS)] | None = None
    pitch: Size | None = None
    separator: Mark | None = None
    gap: Millimetres | None = None

    @model_validator(mode="after")
    def _one_way(self) -> Self:
        if self.times is not None and self.pitch is not None:
            raise WrongRecipeError("pitch", "is one too many: give times or pitch")
        if self.pitch is not None and self.gap is not None:
            raise WrongRecipeError("gap", "follows from the pitch: leave one of them out")
        return self


class Laps(Model):
    """What one lap has no room for goes on round the next one, `pitch` mm away."""

    pitch: Size
    way: Literal["outward", "inward"] = "inward"


class Fill(Model):
    """The guide's inside filled with the words; the guide is closed.

    way
        line by line across it, or round and round on its parallels, from the outermost inward
    margin
        kept free all round, whole lines looked at, mm
    pitch
        from line to line, mm; none: as usual
    angle
        of the lines, degrees
    even
        whether each line's gaps are opened evenly until it is as long as there is room
    again
        whether the words begin anew until the shape is full
    """

    way: Literal["lines", "around"] = "lines"
    margin: Annotated[float, Field(ge=0.0, le=1000.0, allow_inf_nan=False), LENGTH] = 2.0
    pitch: Size | None = None
    angle: Annotated[float, Field(ge=-360.0, le=360.0, allow_inf_nan=False)] = 0.0
    even: bool = True
    again: bool = False

    @model_validator(mode="after")
    def _goes_together(self) -> Self:
        if self.way == "around" and self.again:
            raise WrongRecipeError("again", "goes only with lines")
        return self


class LineChoice(Model):
    """What one line of several has of its own."""

    height: Size | None = None
    align: Literal["start", "centre", "end"] | None = None


class Nudge(Model):
    """What was done by hand to one letter.

    letter
        its place in the words
    along, across
        moved, mm, in its reading direction and toward its head
    turn
        degrees, counter-clockwise
    size
        factor
    gap
        by how much the gap after it is opened, mm
    """

    letter: Place
    along: Millimetres = 0.0
    across: Millimetres = 0.0
    turn: Degrees = 0.0
    size: Annotated[float, Field(ge=0.05, le=20.0, allow_inf_nan=False)] = 1.0
    gap: Millimetres = 0.0


def _refuse_unfitting(lettering: Lettering, fit: Fit) -> None:
    """Refuse fits of what follows from other figures already."""
    for arrangement in ("dial", "fill"):
        if getattr(lettering, arrangement) is not None:
            raise WrongRecipeError("fit", f"does not go together with {arrangement}")
    if lettering.laps is not None and fit.kind != "height":
        raise WrongRecipeError("fit", "must be of the height with laps")
    if lettering.repeat is not None and fit.kind in ("gap", "taper"):
        raise WrongRecipeError("fit", "must be of height, guide or repeats with repeat")
    if lettering.repeat is None and fit.kind == "repeats":
        raise WrongRecipeError("fit", "of the repeats needs repeat")
    if lettering.with_guide and fit.kind in ("height", "taper"):
        raise WrongRecipeError("fit", "does not go together with with_guide")


class Lettering(Model):
    """Words on one guide.

    text
        one line, or several
    height, measured
        mm, of what: a flat capital, a small x, from descender to ascender, or the type size
    end_height, with_guide
        the height at the last letter; or whether letters grow as a growing
        spiral does, or as a band is wide where they stand
    standoff
        from the guide to the touch line, mm, positive away from the letters' feet
    at, at_in
        the place on the guide: a station in mm, a share of the guide's length, or mm
        from a named place of the guide
    width, slant
        of the letters: a factor, and degrees
    fit
        a figure that is solved: the typed one counts no longer
    spacing, space_all
        gaps as the face has its advances; every gap as its designer made it on the straight;
        or one gap for all. Figures and punctuation keep the face's advances unless all are spaced.
        Or letters overlap by `overlap` mm, so that each word holds together as one piece
    tracking, word_space
        added to every gap between letters, and to every space, mm
    spread_joined
        whether tracking pulls letters apart that join
    shape
        letters keep their shape, follow the curve, or are stacked down the guide,
        turned with it or upright to the page
    line_pitch, lines
        from each line to the next, mm, and what single lines have of their own
    ends
        a mark before the first letter and after the last
    prepare
        what is done to its outlines before a tool gets them
    output, name
        whether it is cut, drawn or engraved, or left out of files; none: as its face and the
        material ask. What a person calls it
    hand, hand_words
        what was done to letters by hand, and the words it was done to
    """

    id: Identifier
    guide: Identifier
    text: Annotated[Text, Field(max_length=MOST_LETTERS)]
    face: Annotated[Text, Field(min_length=1, max_length=200)]
    height: Size
    measured: Literal["capital", "x-height", "ascender", "type"] = "capital"
    end_height: Size | None = None
    with_guide: bool = False
    reading: Literal["along", "against"] = "along"
    touch: Literal["ascender", "capital", "middle", "baseline", "descender"] = "baseline"
    standoff: Coordinate = 0.0
    at: Coordinate = 0.0
    at_in: PlaceKind = "mm"
    align: Literal["start", "centre", "end"] = "start"
    fit: Fit | None = None
    spacing: Literal["font", "even", "same", "overlap"] = "font"
    overlap: Annotated[float, Field(gt=0.0, le=100.0, allow_inf_nan=False), LENGTH] = 0.5
    space_all: bool = False
    tracking: Millimetres = 0.0
    word_space: Millimetres = 0.0
    spread_joined: bool = False
    shape: StanceName = "rigid"
    width: Annotated[float, Field(ge=0.1, le=10.0, allow_inf_nan=False)] = 1.0
    slant: Annotated[float, Field(ge=-60.0, le=60.0, allow_inf_nan=False)] = 0.0
    mirrored: bool = False
    features: dict[Tag, Annotated[int, Field(ge=0, le=99)]] = Field(default_factory=dict)
    axes: dict[Tag, Figure] = Field(default_factory=dict)
    line_pitch: Size | None = None
    lines: Annotated[tuple[LineChoice, ...], Field(max_length=MOST_LINES)] = ()
    ends: Mark | None = None
    repeat: Repeat | None = None
    laps: Laps | None = None
    dial: Dial | None = None
    fill: Fill | None = None
    prepare: Prepare | None = None
    output: OutputOrNone | None = None
    name: Name = ""
    hand: Annotated[tuple[Nudge, ...], Field(max_length=MOST_LETTERS)] = ()
    hand_words: Annotated[Text, Field(max_length=MOST_LETTERS)] = ""

    def no_lengths(self) -> tuple[str, ...]:
        return ("at",) if self.at_in == "share" else ()

    @field_validator("text")
    @classmethod
    def _few_lines(cls, text: str) -> str:
        if text.count("\n") >= MOST_LINES:
            raise ValueError(f"must have at most {MOST_LINES} lines")
        return text

    @model_validator(mode="after")
    def _goes_together(self) -> Self:
        arrangements = {"repeat": self.repeat, "laps": self.laps, "dial": self.dial,
                        "fill": self.fill}  # fmt: skip
        given = [name for name, value in arrangements.items() if value is not None]
        if len(given) > 1:
            raise WrongRecipeError(given[1], f"does not go together with {given[0]}")
        grows = "end_height" if self.end_height is not None else "with_guide"
        if self.end_height is not None and self.with_guide:
            raise WrongRecipeError("with_guide", "is one too many: there is an end height")
        if (self.end_height is not None or self.with_guide) and given:
            raise WrongRecipeError(grows, f"does not go together with {given[0]}")
        if self.fit is not None:
            _refuse_unfitting(self, self.fit)
        if self.shape not in SIDE_BY_SIDE and (self.dial or self.fill):
            where = "on a dial" if self.dial else "where a shape is filled"
            raise WrongRecipeError("shape", f"must be {' or '.join(SIDE_BY_SIDE)} {where}")
        if self.repeat and not self.text.strip() and self.repeat.separator is None:
            raise WrongRecipeError("text", "is missing: there is nothing to repeat")
        return self

"""How a piece is sewn: on which cloth, with which thread and stitches, and in which hoop."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from ulvent.core.base.fields import (
    Degrees,
    Identifier,
    Model,
    Text,
    ToolSize,
    refuse_twice,
)

ClothName = Literal["woven-cotton", "knit", "felt", "canvas", "towelling"]
ThreadName = Literal["40", "60", "quilting"]
StitchType = Literal["auto", "satin", "rows", "run", "bean", "edge", "applique", "quilted"]
Underlay = Literal["auto", "none", "centre", "edge", "zigzag"]
MOST_SEWN = 100
MOST_RUNGS = 60


class SewnLetter(Model):
    """What one letter is sewn with, unlike its lettering.

    place
        of the letter in the words, from 0
    """

    place: Annotated[int, Field(ge=0, le=10_000)]
    stitch: StitchType


class SewnLettering(Model):
    """What a lettering is sewn with.

    of
        the lettering
    stitch
        `auto`: satin where its strokes allow it, a triple line where they are too thin, rows where
        they are too wide; `edge`: a line along the outline; `quilted`: one line through all letters
    angle
        of rows
    width
        mm of satin along single strokes; none: they are sewn as a line
    underlay
        none: as the piece says
    letters
        that are sewn with something else
    """

    of: Identifier
    stitch: StitchType = "auto"
    angle: Degrees = 45.0
    width: Annotated[ToolSize, Field(ge=0.8, le=12.0)] | None = None
    underlay: Underlay | None = None
    letters: Annotated[tuple[SewnLetter, ...], Field(max_length=MOST_SEWN)] = ()

    @model_validator(mode="after")
    def _each_letter_once(self) -> Self:
        refuse_twice([one.place for one in self.letters], "letters", "place")
        return self


_InHeights = Annotated[float, Field(ge=-50.0, le=50.0, allow_inf_nan=False)]
Rung = tuple[tuple[_InHeights, _InHeights], tuple[_InHeights, _InHeights]]


class Correction(Model):
    """The columns of a letter as someone set them, for every word in that face.

    face, letter
        which letter it is
    columns
        each a row of lines across it, from edge to edge: the first and the last are its ends,
        those between say the direction; in heights of a capital, from the letter's origin, y up
    """

    face: Identifier
    letter: Annotated[Text, Field(min_length=1, max_length=20)]
    columns: Annotated[
        tuple[Annotated[tuple[Rung, ...], Field(min_length=2, max_length=MOST_RUNGS)], ...],
        Field(min_length=1, max_length=30),
    ]


class Hoop(Model):
    """The frame that cloth is held in.

    width, height
        mm that can be sewn
    turned
        by 90°
    basting
        whether a line round all of it is sewn first, that holds the cloth and comes out again
    """

    width: Annotated[ToolSize, Field(ge=20.0, le=2000.0)] = 130.0
    height: Annotated[ToolSize, Field(ge=20.0, le=2000.0)] = 180.0
    turned: bool = False
    basting: bool = False

    @property
    def sides(self) -> tuple[float, float]:
        """As it lies, mm."""
        return (self.height, self.width) if self.turned else (self.width, self.height)


class Ground(Model):
    """A wandering line round the words, which flattens the cloth there.

    apart
        mm between its turns
    clear
        mm that it keeps from the words
    """

    apart: Annotated[ToolSize, Field(ge=1.5, le=50.0)] = 5.0
    clear: Annotated[ToolSize, Field(ge=0.5, le=50.0)] = 2.0


class Sewing(Model):
    """How a piece is sewn.

    cloth, thread
        whose figures are usual
    spacing
        mm between stitches of one side of a column, and between rows; none: the usual
    pull
        mm that columns are made wider on each side; none: the usual
    length
        mm of stitches in lines; none: the usual
    underlay
        what lies under satin
    order
        of letters: along the words, or from the middle of each lettering outward
    speed
        stitches a minute
    """

    cloth: ClothName = "woven-cotton"
    thread: ThreadName = "40"
    spacing: Annotated[ToolSize, Field(ge=0.2, le=5.0)] | None = None
    pull: Annotated[float, Field(ge=0.0, le=2.0, allow_inf_nan=False)] | None = None
    length: Annotated[ToolSize, Field(ge=0.8, le=12.0)] | None = None
    underlay: Underlay = "auto"
    order: Literal["along", "centre"] = "along"
    speed: Annotated[float, Field(ge=50.0, le=3000.0, allow_inf_nan=False)] = 700.0
    letterings: Annotated[tuple[SewnLettering, ...], Field(max_length=MOST_SEWN)] = ()
    corrections: Annotated[tuple[Correction, ...], Field(max_length=MOST_SEWN)] = ()
    hoop: Hoop | None = None
    ground: Ground | None = None

    @model_validator(mode="after")
    def _each_once(self) -> Self:
        refuse_twice([one.of for one in self.letterings], "letterings", "of")
        refuse_twice(
            [f"{one.letter}” of “{one.face}" for one in self.corrections], "corrections", "letter"
        )
        return self

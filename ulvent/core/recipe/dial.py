"""The recipe of a dial: labels spread along a guide, their places, and the ticks beside them."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal, Self

from pydantic import Field, model_validator

from ulvent.core.base.fields import LENGTH, Degrees, Model, Size, Text, WrongRecipeError
from ulvent.core.base.outputs import OutputOrNone
from ulvent.core.stances import LABEL_STANCES

MOST_LABELS = 720
MOST_TICKS = 5000

Figure = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]
Millimetres = Annotated[float, Field(ge=-1000.0, le=1000.0, allow_inf_nan=False), LENGTH]
LONGEST_LABEL = 80
LabelText = Annotated[Text, Field(max_length=LONGEST_LABEL)]
if TYPE_CHECKING:
    LabelStanceName = str
else:
    LabelStanceName = Literal[tuple(LABEL_STANCES)]


class Numbers(Model):
    """Labels that count: figures, Roman figures or letters."""

    kind: Literal["figures", "roman", "letters"]
    first: Figure = 1.0
    step: Figure = 1.0
    last: Figure | None = None
    decimals: Annotated[int, Field(ge=0, le=6)] = 0
    pad: Annotated[int, Field(ge=0, le=12)] = 0
    sign: bool = False
    unit: Annotated[Text, Field(max_length=12)] = ""

    @model_validator(mode="after")
    def _gets_there(self) -> Self:
        if self.step == 0.0:
            raise WrongRecipeError("step", "must not be 0")
        if self.last is not None and (self.last - self.first) * self.step < 0.0:
            raise WrongRecipeError("last", "is never reached: the step leads away from it")
        return self


class Names(Model):
    """Labels that have names of their own: compass points, months, or listed words."""

    kind: Literal["compass", "months", "list"]
    points: Literal[4, 8, 16, 32] = 8
    words: Annotated[tuple[LabelText, ...], Field(max_length=MOST_LABELS)] = ()
    short: bool = True


class Phrase(Model):
    """Labels that are the letters of the lettering's own words, one a place.

    spaces
        whether a space holds a place, which stays empty
    """

    kind: Literal["phrase"]
    spaces: bool = True


class LabelChange(Model):
    """One label that is not like the others; what is left out stays as it is."""

    label: Annotated[int, Field(ge=0, lt=MOST_LABELS)]
    text: LabelText | None = None
    height: Size | None = None
    along: Millimetres = 0.0
    across: Millimetres = 0.0
    turn: Degrees = 0.0
    hidden: bool = False


class Tick(Model):
    """One kind of tick. Width 0 is a single stroke."""

    length: Size
    width: Annotated[float, Field(ge=0.0, le=1000.0, allow_inf_nan=False), LENGTH] = 0.0


class Ticks(Model):
    """Ticks at the labels and between them.

    parts
        into how many parts the way from label to label is divided
    middle
        the tick at half way; none: like the minor ones
    output
        what becomes of them; none: the same as of the labels
    """

    major: Tick | None = None
    middle: Tick | None = None
    minor: Tick | None = None
    parts: Annotated[int, Field(ge=1, le=200)] = 1
    side: Literal["outside", "inside", "both"] = "inside"
    output: OutputOrNone | None = None


class Dial(Model):
    """Labels spread along the guide in place of words.

    divisions
        how many equal parts the guide is divided into
    places, places_in
        instead: where each label stands, from where the lettering is placed
    pitch
        instead: from each label to the next, along the guide, mm
    on
        instead: at the guide's own corners, or at the points of a drawn one
    way
        along the guide's direction or against it
    stand
        how each label stands: on the guide, upright to the page, or reading away from
        the guide or toward it
    curved
        whether a label on the guide follows it, or is straight
    """

    labels: Annotated[Numbers | Names | Phrase, Field(discriminator="kind")]
    divisions: Annotated[int, Field(ge=1, le=MOST_LABELS)] | None = None
    places: Annotated[tuple[Annotated[Figure, LENGTH], ...], Field(max_length=MOST_LABELS)] = ()
    places_in: Literal["degrees", "mm"] = "degrees"
    pitch: Size | None = None
    on: Literal["corners", "points"] | None = None
    way: Literal["along", "against"] = "along"
    stand: LabelStanceName = "on-guide"
    curved: bool = True
    changes: Annotated[tuple[LabelChange, ...], Field(max_length=MOST_LABELS)] = ()
    ticks: Ticks | None = None

    def no_lengths(self) -> tuple[str, ...]:
        return ("places",) if self.places_in == "degrees" else ()

    @model_validator(mode="after")
    def _divided_one_way(self) -> Self:
        ways = {"divisions": self.divisions, "places": self.places or None,
                "pitch": self.pitch, "on": self.on}  # fmt: skip
        given = [name for name, value in ways.items() if value is not None]
        if len(given) > 1:
            raise WrongRecipeError(given[1], f"is one too many: give {given[0]} or {given[1]}")
        seen: set[int] = set()
        for change in self.changes:
            if change.label in seen:
                raise WrongRecipeError("changes", f"changes label {change.label} twice")
            seen.add(change.label)
        return self

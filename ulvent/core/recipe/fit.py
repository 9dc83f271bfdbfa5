"""The recipe of a fit: what is solved of a lettering or its guide, and from which condition."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from ulvent.core.base.fields import LENGTH, Coordinate, Model, Text, WrongRecipeError
from ulvent.core.recipe.mark import Mark

FieldName = Annotated[Text, Field(max_length=40)]


class GivesWay(Model):
    """A figure that gives way, within limits, once a fit has reached its own."""

    figure: Literal["height", "width"]
    least: Annotated[float, Field(gt=0.0, allow_inf_nan=False), LENGTH] | None = None
    most: Annotated[float, Field(gt=0.0, allow_inf_nan=False), LENGTH] | None = None

    def no_lengths(self) -> tuple[str, ...]:
        return ("least", "most") if self.figure == "width" else ()

    @model_validator(mode="after")
    def _ordered(self) -> Self:
        _refuse_crossed(self.least, self.most)
        return self


class Fit(Model):
    """One figure that is solved in place of being typed.

    kind
        `height`: the largest that has room. `gap`: the tracking that fills the guide.
        `taper`: the height of the last letter with which the words end where it ends.
        `guide`: a figure of the guide, so that the words fill it. `repeats`: how often the
        words go round with joints nearest to the face's own
    margin
        left free at both ends, over the seam, or beside other lettering on the guide, mm
    least, most
        between which the solved figure should lie, mm
    part
        the stations of the guide between which the words are to fit
    within, clear
        what letters keep inside of, whole outlines looked at, and the distance they keep,
        mm: the blank's edges, the edges that the guide lies between, and the letters on other
        turns or laps
    alike
        letterings whose fits have this name get one height, the largest with which all fit
    gives
        what gives way, in this order, where a gap reaches its limits
    figure, until
        of a guide that is fitted: which figure, and whether the words fill it or their turns
        lie `clear` of each other
    seam, mark
        of a gap that fills a closed guide: whether the gap over the seam is one between letters
        or one between words, and a mark that stands in it
    typed, typed_guide
        the lettering's and its guide's own figures from before the fit: they come back when it
        ends, and stand in while it has no answer
    """

    kind: Literal["height", "gap", "taper", "guide", "repeats"]
    margin: Annotated[float, Field(ge=0.0, le=10_000.0, allow_inf_nan=False), LENGTH] = 0.0
    least: Coordinate | None = None
    most: Coordinate | None = None
    part: tuple[Coordinate, Coordinate] | None = None
    within: Annotated[tuple[Literal["blank", "edges", "turns"], ...], Field(max_length=3)] = ()
    clear: Annotated[float, Field(ge=0.0, le=1000.0, allow_inf_nan=False), LENGTH] = 0.0
    alike: Annotated[Text, Field(max_length=80)] = ""
    gives: Annotated[tuple[GivesWay, ...], Field(max_length=2)] = ()
    figure: Annotated[Text, Field(max_length=40)] = ""
    until: Literal["filled", "clear"] = "filled"
    seam: Literal["letter", "word"] = "letter"
    mark: Mark | None = None
    typed: dict[FieldName, Coordinate | None] = Field(default_factory=dict, max_length=8)
    typed_guide: dict[FieldName, Coordinate | None] = Field(default_factory=dict, max_length=8)

    def no_lengths(self) -> tuple[str, ...]:
        """What was typed has figures of all units: whoever scales knows whose they are."""
        limits = ("least", "most") if self.kind in ("guide", "repeats") else ()
        return (*limits, "typed", "typed_guide")

    @model_validator(mode="after")
    def _goes_together(self) -> Self:
        _refuse_crossed(self.least, self.most)
        for field, kinds in _FIT_FIELDS.items():
            if getattr(self, field) != Fit.model_fields[field].default and self.kind not in kinds:
                raise WrongRecipeError(field, f"is not for a fit of kind {self.kind}")
        if self.part is not None and self.part[0] == self.part[1]:
            raise WrongRecipeError("part", "must have a length")
        return self


_FIT_FIELDS = {
    "part": ("height", "gap", "taper"),
    "within": ("height",),
    "clear": ("height", "guide"),
    "alike": ("height",),
    "gives": ("gap",),
    "figure": ("guide",),
    "until": ("guide",),
    "seam": ("gap",),
    "mark": ("gap",),
}
"""Which fields of a fit are for some kinds only."""


def _refuse_crossed(least: float | None, most: float | None) -> None:
    if least is not None and most is not None and least > most:
        raise WrongRecipeError("least", f"must be at most {most:g}, the most")

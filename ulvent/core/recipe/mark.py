"""The recipe of a mark that stands among words."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from ulvent.core.base.fields import Model, PathData, Text, WrongRecipeError


class Mark(Model):
    """A mark that stands among words like a letter.

    letter
        any characters of the face, where the kind is `letter`
    d
        path data of an outline, y up, where the kind is `outline`
    size, raised
        its height, and where its middle stands, in capitals' heights
    """

    kind: Literal["dot", "ring", "diamond", "star", "leaf", "letter", "outline"]
    letter: Annotated[Text, Field(max_length=8)] = ""
    d: PathData | None = None
    size: Annotated[float, Field(gt=0.0, le=10.0, allow_inf_nan=False)] = 0.4
    raised: Annotated[float, Field(ge=-10.0, le=10.0, allow_inf_nan=False)] = 0.5

    @model_validator(mode="after")
    def _has_what_it_shows(self) -> Self:
        if self.kind == "letter" and not self.letter.strip():
            raise WrongRecipeError("letter", "is missing: which character is the mark?")
        if self.kind == "outline" and self.d is None:
            raise WrongRecipeError("d", "is missing: the mark's outline")
        return self

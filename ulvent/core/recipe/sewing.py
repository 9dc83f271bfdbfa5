"""How a piece is sewn: on which cloth, and with which stitches its letterings are made."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from ulvent.core.base.fields import Degrees, Identifier, Model, ToolSize, WrongRecipeError

ClothName = Literal["woven-cotton", "knit", "felt", "canvas", "towelling"]
StitchType = Literal["auto", "satin", "rows", "run", "bean"]
MOST_SEWN = 100


class SewnLettering(Model):
    """What a lettering is sewn with.

    of
        the lettering
    stitch
        `auto`: satin where its strokes allow it, a triple line where they are too thin, rows where
        they are too wide
    angle
        of rows
    """

    of: Identifier
    stitch: StitchType = "auto"
    angle: Degrees = 45.0


class Sewing(Model):
    """How a piece is sewn.

    cloth
        whose figures are usual
    spacing
        mm between stitches of one side of a column, and between rows; none: the cloth's
    pull
        mm that columns are made wider on each side; none: the cloth's
    """

    cloth: ClothName = "woven-cotton"
    spacing: Annotated[ToolSize, Field(ge=0.2, le=5.0)] | None = None
    pull: Annotated[float, Field(ge=0.0, le=2.0, allow_inf_nan=False)] | None = None
    letterings: Annotated[tuple[SewnLettering, ...], Field(max_length=MOST_SEWN)] = ()

    @model_validator(mode="after")
    def _each_lettering_once(self) -> Self:
        seen: set[str] = set()
        for index, one in enumerate(self.letterings):
            if one.of in seen:
                raise WrongRecipeError(f"letterings[{index}].of", f"“{one.of}” is there twice")
            seen.add(one.of)
        return self

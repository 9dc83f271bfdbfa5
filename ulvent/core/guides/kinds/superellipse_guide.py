"""A superellipse: between an ellipse and a rectangle."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.base.fields import Size, Turn, WrongRecipeError
from ulvent.core.base.figures import shown
from ulvent.core.base.inputs import Figure
from ulvent.core.curves import Curve, Superellipse
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import (
    TURN,
    DrawnFigure,
    Extent,
    GuideKind,
    Sizes,
    Start,
    beside,
    box_figures,
)
from ulvent.core.guides.shared_lines import around, two_digits


class SuperellipseGuide(GuideRecipe):
    """|2x/width|ⁿ + |2y/height|ⁿ = 1: from an ellipse at exponent 2 towards a rectangle."""

    kind: Literal["superellipse"]
    width: Size
    height: Size
    exponent: Annotated[float, Field(ge=2.0, le=40.0, allow_inf_nan=False)] = 2.5
    turn: Turn = "clockwise"


_LEAST = 1e-5
"""Half a size, mm, whose power to the largest exponent is still a figure."""


def _line(guide: SuperellipseGuide, _: tuple[Curve, ...]) -> Curve:
    rx, ry, clockwise = guide.width / 2.0, guide.height / 2.0, guide.turn == "clockwise"
    if min(rx, ry) < _LEAST:
        thin = "width" if rx < ry else "height"
        raise WrongRecipeError(thin, f"must be at least {2.0 * _LEAST:g} mm")
    return Superellipse(rx, ry, guide.exponent, 180.0, clockwise=clockwise)


def _drawn(guide: SuperellipseGuide) -> list[DrawnFigure]:
    where = around(min(guide.width, guide.height) / 2.0, 40.0)
    return [
        *box_figures(guide.width, guide.height),
        beside("exponent", "Squareness, 2 is oval", "ⁿ ", guide.exponent, where, ""),
    ]


def _first(sizes: Sizes) -> dict[str, object]:
    width, height = two_digits(0.7 * sizes.blank), two_digits(0.55 * sizes.blank)
    return {"width": width, "height": height, "exponent": 3.5}


KIND = GuideKind(
    recipe=SuperellipseGuide,
    line=_line,
    title="superellipse",
    words=lambda guide: f"superellipse {shown(guide.width)} × {shown(guide.height)} mm",
    rank=140,
    blame="width",
    inputs=(
        Figure("width", "Width"),
        Figure("height", "Height"),
        Figure("exponent", "Squareness, 2 is oval", ""),
        TURN,
    ),
    starts=(
        Start(
            "soft square",
            "M22 5C34 5 36 7 36 16S34 27 22 27S8 25 8 16S10 5 22 5Z",
            _first,
            140,
            "soft",
        ),
    ),
    sized_by=("width", "height"),
    drawn=_drawn,
    extent=Extent(
        "closed",
        of=lambda guide: (guide.width, guide.height),
        to=lambda width, height: {"width": width, "height": height, "exponent": 4.0},
    ),
)

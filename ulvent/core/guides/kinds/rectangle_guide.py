"""A rectangle."""

from __future__ import annotations

import math
from typing import Literal, Self

from pydantic import model_validator

from ulvent.core.base.fields import Size, SizeOrNone, Turn, refuse_wide_radius
from ulvent.core.base.figures import shown
from ulvent.core.base.inputs import Figure
from ulvent.core.curves import Curve
from ulvent.core.guides.guide_recipe import CornerChoice, GuideRecipe
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
from ulvent.core.guides.shared_lines import rectangle_line, two_digits


class RectangleGuide(GuideRecipe):
    """A rectangle, its corners rounded by `radius`. It starts in the middle of its left side."""

    kind: Literal["rectangle"]
    width: Size
    height: Size
    radius: SizeOrNone = 0.0
    turn: Turn = "clockwise"
    corners: CornerChoice = "keep-off"

    @model_validator(mode="after")
    def _radius_fits(self) -> Self:
        refuse_wide_radius(self.radius, self.width, self.height)
        return self


def _line(guide: RectangleGuide, _: tuple[Curve, ...]) -> Curve:
    return rectangle_line(guide.width, guide.height, guide.radius, guide.turn)


def _drawn(guide: RectangleGuide) -> list[DrawnFigure]:
    x, y, r = guide.width / 2.0, guide.height / 2.0, guide.radius
    corner = (x - r * (1 - math.sqrt(0.5)), y - r * (1 - math.sqrt(0.5)))
    return [
        *box_figures(guide.width, guide.height),
        beside("radius", "Radius of the corners", "R ", r, corner),
    ]


def _first(sizes: Sizes) -> dict[str, object]:
    width, height = two_digits(0.7 * sizes.blank), two_digits(0.45 * sizes.blank)
    return {"width": width, "height": height, "radius": 0}


KIND = GuideKind(
    recipe=RectangleGuide,
    line=_line,
    title="rectangle",
    words=lambda guide: f"rectangle {shown(guide.width)} × {shown(guide.height)} mm",
    rank=110,
    blame="width",
    inputs=(
        Figure("width", "Width"),
        Figure("height", "Height"),
        Figure("radius", "Corner radius"),
        TURN,
    ),
    starts=(
        Start(
            "rectangle",
            "M10 6H34a3 3 0 0 1 3 3V23a3 3 0 0 1 -3 3H10a3 3 0 0 1 -3 -3V9a3 3 0 0 1 3 -3Z",
            _first,
            110,
            "rectangle",
        ),
    ),
    sized_by=("width", "height"),
    drawn=_drawn,
    extent=Extent(
        "closed",
        of=lambda guide: (guide.width, guide.height),
        to=lambda width, height: {
            "width": width,
            "height": height,
            "radius": two_digits(0.12 * min(width, height)),
        },
    ),
)

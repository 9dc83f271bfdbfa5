"""A star."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from ulvent.core.base.arrays import Point
from ulvent.core.base.fields import Size, SizeOrNone, Turn, WrongRecipeError
from ulvent.core.base.figures import shown
from ulvent.core.base.inputs import Figure
from ulvent.core.base.tolerances import CORNER, ROUNDING
from ulvent.core.curves import Curve
from ulvent.core.curves.rounded import rounded
from ulvent.core.guides.guide_recipe import CornerChoice, GuideRecipe
from ulvent.core.guides.kind import TURN, DrawnFigure, GuideKind, Sizes, Start, beside
from ulvent.core.guides.shared_lines import around, closed_polyline, two_digits


class StarGuide(GuideRecipe):
    """A star with a tip at the top; a starburst is one with many tips."""

    kind: Literal["star"]
    tips: Annotated[int, Field(ge=3, le=200)]
    outer: Size
    inner: Size
    tip_radius: SizeOrNone = 0.0
    valley_radius: SizeOrNone = 0.0
    turn: Turn = "clockwise"
    corners: CornerChoice = "keep-off"

    @model_validator(mode="after")
    def _has_tips(self) -> Self:
        if self.inner >= self.outer:
            raise WrongRecipeError("inner", f"must be less than the outer {self.outer:g}")
        return self


def _line(guide: StarGuide, _: tuple[Curve, ...]) -> Curve:
    step = 180.0 / guide.tips
    ring: list[Point] = []
    # It starts in the valley opposite the tip at the top, or beside it.
    first = -90.0 - (0.0 if guide.tips % 2 else step)
    for index in range(guide.tips):
        ring.append(around(guide.inner / 2.0, first - 2.0 * step * index))
        ring.append(around(guide.outer / 2.0, first - step * (2 * index + 1)))
    line = closed_polyline(ring, guide.turn)
    turns = line.corners.turns.tolist()
    tip_way = -1.0 if guide.turn == "clockwise" else 1.0
    radii = [guide.tip_radius if t * tip_way > 0.0 else guide.valley_radius for t in turns]
    # The seam lies in a valley, which is none where the star is a polygon.
    if abs(line.seam_turn) > CORNER:
        radii.append(guide.valley_radius)
    found = rounded(line, radii)
    smallest = min((r for r in (guide.tip_radius, guide.valley_radius) if r > 0.0), default=0.0)
    if found.least_radius < smallest - ROUNDING:
        field = "tip_radius" if guide.tip_radius else "valley_radius"
        raise WrongRecipeError(
            field, f"must be less: the sides have room for {found.least_radius:.4g}"
        )
    return found.curve


def _drawn(guide: StarGuide) -> list[DrawnFigure]:
    inner, outer = guide.inner / 2.0, guide.outer / 2.0
    across, along = ((0.0, -outer), (0.0, outer)), ((-inner, 0.0), (inner, 0.0))
    tips, valleys = around(outer, 60.0), around(outer, 20.0)
    return [
        DrawnFigure("outer", "Circle of the tips", "⌀ ", guide.outer, *across, 0.15),
        DrawnFigure("inner", "Circle of the valleys", "⌀ ", guide.inner, *along),
        beside("tip_radius", "Radius of the tips", "R ", guide.tip_radius, tips),
        beside("valley_radius", "Radius of the valleys", "R ", guide.valley_radius, valleys),
    ]


def _first(sizes: Sizes) -> dict[str, object]:
    outer, inner = two_digits(0.75 * sizes.blank), two_digits(0.55 * sizes.blank)
    return {"tips": 8, "outer": outer, "inner": inner}


KIND = GuideKind(
    recipe=StarGuide,
    line=_line,
    title="star",
    words=lambda guide: f"{guide.tips} tips ⌀ {shown(guide.outer)} mm",
    rank=130,
    blame="tip_radius",
    inputs=(
        Figure("tips", "Number of tips", ""),
        Figure("outer", "Diameter of the tips"),
        Figure("inner", "Diameter of the valleys"),
        Figure("tip_radius", "Radius of the tips"),
        Figure("valley_radius", "Radius of the valleys"),
        TURN,
    ),
    starts=(
        Start(
            "star",
            "M22 4L25.5 12.5L35 13L27.8 18.8L30.2 28L22 23L13.8 28L16.2 18.8L9 13L18.5 12.5Z",
            _first,
            130,
            "star",
        ),
    ),
    drawn=_drawn,
)

"""A regular polygon."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.base.fields import Size, SizeOrNone, Turn
from ulvent.core.base.figures import shown
from ulvent.core.base.inputs import Figure
from ulvent.core.curves import Curve
from ulvent.core.guides.guide_recipe import CornerChoice, GuideRecipe
from ulvent.core.guides.kind import TURN, DrawnFigure, GuideKind, Sizes, Start, beside
from ulvent.core.guides.shared_lines import around, closed_polyline, exactly_rounded, two_digits


class PolygonGuide(GuideRecipe):
    """A regular polygon standing on a side; `across` is the circle through its corners."""

    kind: Literal["polygon"]
    sides: Annotated[int, Field(ge=3, le=200)]
    across: Size
    radius: SizeOrNone = 0.0
    turn: Turn = "clockwise"
    corners: CornerChoice = "keep-off"


def _line(guide: PolygonGuide, _: tuple[Curve, ...]) -> Curve:
    radius, step = guide.across / 2.0, 360.0 / guide.sides
    # Standing on a side, and started in the middle of the side at its lower left.
    first = 270.0 - step / 2.0
    ring = [around(radius, first - step * index) for index in range(guide.sides)]
    middle = ((ring[0][0] + ring[-1][0]) / 2.0, (ring[0][1] + ring[-1][1]) / 2.0)
    line = closed_polyline([middle, *ring], guide.turn)
    return exactly_rounded(line, guide.radius, "radius")


def _drawn(guide: PolygonGuide) -> list[DrawnFigure]:
    half = guide.across / 2.0
    ends = (-half, 0.0), (half, 0.0)
    return [
        DrawnFigure("across", "Circle through the corners", "⌀ ", guide.across, *ends),
        beside("radius", "Radius of the corners", "R ", guide.radius, around(half, 30.0)),
    ]


def _first(sizes: Sizes) -> dict[str, object]:
    return {"sides": 6, "across": two_digits(0.7 * sizes.blank)}


KIND = GuideKind(
    recipe=PolygonGuide,
    line=_line,
    title="polygon",
    words=lambda guide: f"{guide.sides} sides ⌀ {shown(guide.across)} mm",
    rank=120,
    blame="radius",
    inputs=(
        Figure("sides", "Number of sides", ""),
        Figure("across", "Diameter through corners"),
        Figure("radius", "Corner radius"),
        TURN,
    ),
    starts=(Start("polygon", "M16 5H28L36 16L28 27H16L8 16Z", _first, 120, "polygon"),),
    sized_by=("across",),
    drawn=_drawn,
)

"""An arc by radius and angle."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.base.fields import Size
from ulvent.core.base.figures import shown
from ulvent.core.base.inputs import Figure, Option
from ulvent.core.curves import CircularArc, Curve
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import DrawnFigure, GuideKind, Sizes, Start
from ulvent.core.guides.shared_lines import ORIGIN, around, two_digits


class ArcGuide(GuideRecipe):
    """An arc of `angle` degrees with its middle at the top of its circle, or at its bottom."""

    kind: Literal["arc"]
    radius: Size
    angle: Annotated[float, Field(gt=0.0, lt=360.0, allow_inf_nan=False)]
    side: Literal["top", "bottom"] = "top"


def _line(guide: ArcGuide, _: tuple[Curve, ...]) -> Curve:
    if guide.side == "top":
        return CircularArc(ORIGIN, guide.radius, 90.0 + guide.angle / 2.0, -guide.angle)
    return CircularArc(ORIGIN, guide.radius, 270.0 - guide.angle / 2.0, guide.angle)


def _drawn(guide: ArcGuide) -> list[DrawnFigure]:
    up = 1.0 if guide.side == "top" else -1.0
    middle, top = (0.0, 0.0), (0.0, up * guide.radius)
    end = around(guide.radius, 90.0 * up + guide.angle / 2.0)
    return [
        DrawnFigure("radius", "Radius", "R ", guide.radius, middle, top, off="pointing"),
        DrawnFigure(
            "angle", "Angle of the arc", "∠ ", guide.angle, middle, end, unit="°", off="pointing"
        ),
    ]


def _first(sizes: Sizes) -> dict[str, object]:
    return {"radius": two_digits(0.36 * sizes.blank), "angle": 140}


KIND = GuideKind(
    recipe=ArcGuide,
    line=_line,
    title="arc",
    words=lambda guide: f"arc R {shown(guide.radius)} mm",
    rank=30,
    blame="radius",
    inputs=(
        Figure("radius", "Radius"),
        Figure("angle", "Angle", "°"),
        Option("side", "Part of its circle", (("top", "top"), ("bottom", "bottom"))),
    ),
    starts=(Start("arc", "M8 20A15 15 0 0 1 36 20M22 24L36 20", _first, 30, "arc"),),
    sized_by=("radius", "angle"),
    drawn=_drawn,
)

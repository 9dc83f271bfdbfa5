"""A made-up kind of guide: a straight line that rises."""

from __future__ import annotations

from typing import Literal

from ulvent.core.base.fields import Size
from ulvent.core.base.inputs import Figure
from ulvent.core.curves import Curve, Line
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import DrawnFigure, GuideKind, Start


class SlopeGuide(GuideRecipe):
    """A straight line from the left and below to the right and above; the centre is its middle."""

    kind: Literal["slope"]
    width: Size
    rise: Size


def _line(guide: SlopeGuide, _: tuple[Curve, ...]) -> Curve:
    return Line((-guide.width / 2.0, -guide.rise / 2.0), (guide.width / 2.0, guide.rise / 2.0))


def _drawn(guide: SlopeGuide) -> list[DrawnFigure]:
    x, y = guide.width / 2.0, guide.rise / 2.0
    return [DrawnFigure("rise", "Rise", "↕ ", guide.rise, (x, -y), (x, y))]


KIND = GuideKind(
    recipe=SlopeGuide,
    line=_line,
    title="slope",
    words=lambda guide: f"slope {guide.width:g} × {guide.rise:g}",
    rank=65,
    blame="width",
    inputs=(Figure("width", "Width"), Figure("rise", "Rise")),
    starts=(Start("slope", "M6 26L38 6", lambda _: {"width": 80.0, "rise": 60.0}, 65, "slope"),),
    sized_by=("width", "rise"),
    drawn=_drawn,
)

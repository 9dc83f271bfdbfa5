"""A straight line."""

from __future__ import annotations

from typing import Literal

from ulvent.core.base.fields import Size
from ulvent.core.base.figures import shown
from ulvent.core.base.inputs import Figure
from ulvent.core.curves import Curve, Line
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import DrawnFigure, Extent, GuideKind, Sizes, Start
from ulvent.core.guides.shared_lines import two_digits


class LineGuide(GuideRecipe):
    """A straight line; the centre is its middle."""

    kind: Literal["line"]
    length: Size


def _line(guide: LineGuide, _: tuple[Curve, ...]) -> Curve:
    return Line((-guide.length / 2.0, 0.0), (guide.length / 2.0, 0.0))


def _drawn(guide: LineGuide) -> list[DrawnFigure]:
    half = guide.length / 2.0
    return [DrawnFigure("length", "Length", "↔ ", guide.length, (-half, 0.0), (half, 0.0))]


def _first(sizes: Sizes) -> dict[str, object]:
    return {"length": two_digits(0.8 * sizes.blank)}


KIND = GuideKind(
    recipe=LineGuide,
    line=_line,
    title="straight line",
    words=lambda guide: f"straight line {shown(guide.length)} mm",
    rank=60,
    blame="length",
    inputs=(Figure("length", "Length"),),
    starts=(Start("straight", "M6 16H38", _first, 60, "straight"),),
    sized_by=("length",),
    drawn=_drawn,
    extent=Extent(
        "open", of=lambda guide: (guide.length, 0.0), to=lambda length, _: {"length": length}
    ),
)

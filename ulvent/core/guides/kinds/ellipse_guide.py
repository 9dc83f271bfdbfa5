"""An ellipse, or an arc of one."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.base.fields import Degrees, Size, Turn
from ulvent.core.base.figures import shown
from ulvent.core.base.inputs import Figure
from ulvent.core.curves import Curve, EllipseArc
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
from ulvent.core.guides.shared_lines import ORIGIN, around, two_digits


class EllipseGuide(GuideRecipe):
    """An ellipse, or the arc of one that begins at the angle `start` and goes on by `angle`."""

    kind: Literal["ellipse"]
    width: Size
    height: Size
    start: Degrees = 180.0
    angle: Annotated[float, Field(gt=0.0, le=360.0, allow_inf_nan=False)] = 360.0
    turn: Turn = "clockwise"


def _line(guide: EllipseGuide, _: tuple[Curve, ...]) -> Curve:
    forward = -1.0 if guide.turn == "clockwise" else 1.0
    rx, ry = guide.width / 2.0, guide.height / 2.0
    begin = _eccentric(guide.start, rx, ry)
    if guide.angle == 360.0:
        return EllipseArc(ORIGIN, rx, ry, begin, forward * 360.0)
    end = _eccentric(guide.start + forward * guide.angle, rx, ry)
    return EllipseArc(ORIGIN, rx, ry, begin, end - begin)


def _eccentric(degrees: float, rx: float, ry: float) -> float:
    """The eccentric angle of the point seen from the centre at an angle, in the same turn."""
    angle = math.radians(degrees)
    seen = math.atan2(rx * math.sin(angle), ry * math.cos(angle))
    # Both angles lie in the same quarter, so the nearest turn is the right one.
    return math.degrees(seen + 2.0 * math.pi * round((angle - seen) / (2.0 * math.pi)))


def _drawn(guide: EllipseGuide) -> list[DrawnFigure]:
    figures = box_figures(guide.width, guide.height)
    if guide.angle < 360.0:
        end = around(guide.width / 2.0, guide.start)
        figures.append(beside("angle", "Angle of the arc", "∠ ", guide.angle, end, "°"))
    return figures


def _first(sizes: Sizes) -> dict[str, object]:
    return {"width": two_digits(0.8 * sizes.blank), "height": two_digits(0.5 * sizes.blank)}


KIND = GuideKind(
    recipe=EllipseGuide,
    line=_line,
    title="ellipse",
    words=lambda guide: f"ellipse {shown(guide.width)} × {shown(guide.height)} mm",
    rank=50,
    blame="width",
    inputs=(
        Figure("width", "Width"),
        Figure("height", "Height"),
        Figure("start", "Starts at", "°"),
        Figure("angle", "Angle", "°"),
        TURN,
    ),
    starts=(Start("ellipse", "M6 16a16 9 0 1 1 32 0a16 9 0 1 1 -32 0", _first, 50, "ellipse"),),
    sized_by=("width", "height"),
    drawn=_drawn,
    extent=Extent(
        "closed",
        of=lambda guide: (guide.width, guide.height),
        to=lambda width, height: {"width": width, "height": height},
        whole=lambda guide: bool(guide.angle == 360.0),
    ),
)

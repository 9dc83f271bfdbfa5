"""A circle, by diameter, radius or length round."""

from __future__ import annotations

import cmath
import math
from typing import Literal, Self

from pydantic import model_validator

from ulvent.core.base.fields import Degrees, Size, Turn, exactly
from ulvent.core.base.figures import shown
from ulvent.core.base.inputs import Figure, Way
from ulvent.core.curves import CircularArc, Curve
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import TURN, DrawnFigure, Extent, GuideKind, Hold, Sizes, Start, beside
from ulvent.core.guides.shared_lines import ORIGIN, around, two_digits


class CircleGuide(GuideRecipe):
    """A circle by diameter, radius or length round. Its seam is at the angle `start`, degrees."""

    kind: Literal["circle"]
    diameter: Size | None = None
    radius: Size | None = None
    round: Size | None = None
    start: Degrees = 90.0
    turn: Turn = "clockwise"

    @model_validator(mode="after")
    def _one_size(self) -> Self:
        exactly(1, diameter=self.diameter, radius=self.radius, round=self.round)
        return self


def circle_diameter(guide: CircleGuide) -> float:
    """The diameter of a circle, however its size is given, mm."""
    if guide.diameter is not None:
        return guide.diameter
    if guide.radius is not None:
        return 2.0 * guide.radius
    assert guide.round is not None
    return guide.round / math.pi


def _line(guide: CircleGuide, _: tuple[Curve, ...]) -> Curve:
    clockwise = guide.turn == "clockwise"
    return CircularArc.circle(ORIGIN, circle_diameter(guide) / 2.0, guide.start, clockwise)


def _words(guide: CircleGuide) -> str:
    if guide.radius is not None:
        return f"circle R {shown(guide.radius)} mm"
    if guide.round is not None:
        return f"circle ○ {shown(guide.round)} mm"
    return f"circle ⌀ {shown(guide.diameter or 0.0)} mm"


def _drawn(guide: CircleGuide) -> list[DrawnFigure]:
    radius = circle_diameter(guide) / 2.0
    if guide.radius is not None:
        return [
            DrawnFigure("radius", "Radius", "R ", radius, (0.0, 0.0), (radius, 0.0), off="pointing")
        ]
    if guide.round is not None:
        return [beside("round", "Circumference", "○ ", guide.round, around(radius, -35.0))]
    assert guide.diameter is not None
    ends = (-radius, 0.0), (radius, 0.0)
    return [
        DrawnFigure("diameter", "Diameter of the guide", "⌀ ", guide.diameter, *ends, off="turned")
    ]


def _restated(guide: CircleGuide) -> dict[str, float]:
    diameter = circle_diameter(guide)
    return {"diameter": diameter, "radius": diameter / 2.0, "round": math.pi * diameter}


def _pulled(guide: CircleGuide, hold: Hold) -> GuideRecipe | None:
    if hold.grip != "start":
        return None
    away = complex(*hold.end) - complex(*guide.centre)
    angle = math.degrees(cmath.phase(away)) - guide.turned
    return guide.model_copy(update={"start": round(angle % 360.0, 3), "seam": 0.0})


def _readings(guide: CircleGuide) -> tuple[str, str]:
    forward = (guide.turn == "clockwise") != guide.reverse
    return ("clockwise", "anticlockwise") if forward else ("anticlockwise", "clockwise")


def _first(sizes: Sizes) -> dict[str, object]:
    return {"diameter": two_digits(0.7 * sizes.blank), "start": 180}


KIND = GuideKind(
    recipe=CircleGuide,
    line=_line,
    title="circle",
    words=_words,
    rank=10,
    blame="diameter",
    inputs=(
        Way(
            1,
            (
                Figure("diameter", "Diameter"),
                Figure("radius", "Radius"),
                Figure("round", "Circumference"),
            ),
        ),
        Figure("start", "Starts at (the seam)", "°"),
        TURN,
    ),
    starts=(
        Start("ring", "M11 16a11 11 0 1 1 22 0a11 11 0 1 1 -22 0", _first, 10, "ring", usual=True),
    ),
    sized_by=("diameter", "radius", "round"),
    drawn=_drawn,
    restated=_restated,
    turns=False,
    seam_moves=False,
    readings=_readings,
    pulled=_pulled,
    extent=Extent(
        "closed",
        of=lambda guide: (circle_diameter(guide), circle_diameter(guide)),
        to=lambda width, height: {"diameter": (width + height) / 2.0},
    ),
)

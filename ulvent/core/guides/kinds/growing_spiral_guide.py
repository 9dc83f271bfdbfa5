"""A logarithmic spiral."""

from __future__ import annotations

import math
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from ulvent.core.base.fields import (
    LONGEST,
    Degrees,
    Size,
    Turn,
    WrongRecipeError,
    exactly,
)
from ulvent.core.base.inputs import Figure, Way
from ulvent.core.curves import Curve, GrowingSpiral
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import TURN, DrawnFigure, GuideKind, Sizes, Start, beside
from ulvent.core.guides.shared_lines import around, two_digits
from ulvent.core.guides.spirals import (
    INWARD,
    MOST_TURNS,
    STARTS_AT,
    outer_figure,
    run,
    signed,
    start_figure,
    start_of,
)


class GrowingSpiralGuide(GuideRecipe):
    """A spiral every turn of which lies `growth` times as far out as the last."""

    kind: Literal["growing-spiral"]
    start_radius: Size | None = None
    inner: Size | None = None
    growth: Annotated[float, Field(gt=1.0, le=100.0, allow_inf_nan=False)]
    outer: Size | None = None
    turns: Annotated[float, Field(gt=0.0, le=MOST_TURNS, allow_inf_nan=False)] | None = None
    length: Size | None = None
    start: Degrees = 90.0
    turn: Turn = "clockwise"
    inward: bool = False

    @model_validator(mode="after")
    def _one_extent(self) -> Self:
        exactly(1, start_radius=self.start_radius, inner=self.inner)
        exactly(1, outer=self.outer, turns=self.turns, length=self.length)
        return self


def _turns_of(guide: GrowingSpiralGuide, length: float) -> float:
    """How many turns have a length: s = a·√(1+b²)/b · (e^{bθ} − 1), b the growth a radian."""
    rate = math.log(guide.growth)
    b = rate / (2.0 * math.pi)
    return math.log1p(length * b / (start_of(guide) * math.hypot(1.0, b))) / rate


def _turns(guide: GrowingSpiralGuide) -> float:
    first = start_of(guide)
    if guide.turns is not None:
        return guide.turns
    if guide.outer is not None:
        if guide.outer / 2.0 <= first:
            raise WrongRecipeError("outer", f"must be more than the inner {2.0 * first:g}")
        return math.log(guide.outer / 2.0 / first) / math.log(guide.growth)
    assert guide.length is not None
    return _turns_of(guide, guide.length)


def _line(guide: GrowingSpiralGuide, _: tuple[Curve, ...]) -> Curve:
    turns = _turns(guide)
    if turns > MOST_TURNS:
        reason = f"makes {turns:.0f} turns; at most {MOST_TURNS:g} are made"
        raise WrongRecipeError("growth", reason)
    if turns * math.log(guide.growth) > math.log(LONGEST / start_of(guide)):
        reason = f"makes it larger than {LONGEST / 1e6:g} km; fewer turns would do, or less growth"
        raise WrongRecipeError("growth", reason)
    curve = GrowingSpiral(start_of(guide), guide.growth, signed(turns, guide), guide.start)
    return run(curve, guide)


def _drawn(guide: GrowingSpiralGuide) -> list[DrawnFigure]:
    first = start_of(guide)
    figures = [
        start_figure(guide),
        beside(
            "growth", "Each turn larger by", "× ", guide.growth, around(2.0 * first, -30.0), "×"
        ),
    ]
    where = around(2.0 * first, -75.0)
    if guide.outer is not None:
        figures.append(outer_figure(guide.outer, guide.outer / 2.0))
    if guide.turns is not None:
        figures.append(beside("turns", "Number of turns", "turns ", guide.turns, where, ""))
    if guide.length is not None:
        figures.append(beside("length", "Length", "⌇ ", guide.length, where))
    return figures


def _restated(guide: GrowingSpiralGuide) -> dict[str, float]:
    first, length = start_of(guide), _line(guide, ()).length
    turns = _turns_of(guide, length)
    return {
        "start_radius": first,
        "inner": 2.0 * first,
        "length": length,
        "turns": turns,
        "outer": 2.0 * first * guide.growth**turns,
    }


def _first(sizes: Sizes) -> dict[str, object]:
    return {"inner": two_digits(0.1 * sizes.blank), "growth": 1.8, "turns": 3, "inward": True}


KIND = GuideKind(
    recipe=GrowingSpiralGuide,
    line=_line,
    title="growing spiral",
    words=lambda _: "growing spiral",
    rank=100,
    blame="growth",
    inputs=(
        STARTS_AT,
        Way(
            1,
            (
                Figure("outer", "Outer diameter"),
                Figure("turns", "Number of turns", ""),
                Figure("length", "Length"),
            ),
        ),
        Figure("growth", "Each turn larger by", "×"),
        Figure("start", "Starts at", "°"),
        TURN,
        INWARD,
    ),
    starts=(
        Start(
            "growing spiral",
            "M21 19c1-2 4 0 2 3s-8 0-7-5s10-9 17-3s1 17-12 16",
            _first,
            100,
            "shell",
        ),
    ),
    sized_by=("turns", "outer"),
    drawn=_drawn,
    restated=_restated,
    winds=True,
    grows_from=lambda guide: guide.centre,
)

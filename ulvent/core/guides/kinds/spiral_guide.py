"""A spiral with even gain."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from ulvent.core.base.arrays import Point
from ulvent.core.base.fields import (
    Degrees,
    Size,
    SizeOrNone,
    Turn,
    WrongRecipeError,
    exactly,
)
from ulvent.core.base.inputs import Figure, Way
from ulvent.core.curves import Curve, Spiral
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


class SpiralGuide(GuideRecipe):
    """A spiral with even gain; two of outer diameter, gain, turns and length give its extent.

    start_radius, inner
        where it starts, as a radius or as a diameter
    inward
        whether it runs from the outside in
    """

    kind: Literal["spiral"]
    start_radius: SizeOrNone | None = None
    inner: SizeOrNone | None = None
    outer: Size | None = None
    gain: Size | None = None
    turns: Annotated[float, Field(gt=0.0, le=MOST_TURNS, allow_inf_nan=False)] | None = None
    length: Size | None = None
    start: Degrees = 90.0
    turn: Turn = "clockwise"
    inward: bool = False

    @model_validator(mode="after")
    def _two_of_four(self) -> Self:
        exactly(1, start_radius=self.start_radius, inner=self.inner)
        exactly(2, outer=self.outer, gain=self.gain, turns=self.turns, length=self.length)
        return self


def spiral_extent(guide: SpiralGuide) -> tuple[float, float]:
    """Gain a turn, mm, and number of turns, from whichever two figures are given.

    Raises
    ------
    WrongRecipeError
        When no spiral has the figures.
    """
    first = start_of(guide)
    span = None if guide.outer is None else guide.outer / 2.0 - first
    if span is not None and span <= 0.0:
        raise WrongRecipeError("outer", f"must be more than the inner {2.0 * first:g}")
    gain, turns, length = guide.gain, guide.turns, guide.length
    if gain is not None and turns is not None:
        return gain, turns
    if span is not None and turns is not None:
        return span / turns, turns
    if span is not None and gain is not None:
        return gain, span / gain
    assert length is not None
    if gain is not None:
        each = gain
        return gain, _solved(lambda n: _spiral_length(first, each, n), length)
    if turns is not None:
        least = 2.0 * math.pi * first * turns
        if length <= least:
            reason = f"must be more than {least:.4g}, which {turns:g} turns without gain have"
            raise WrongRecipeError("length", reason)
        number = turns
        return _solved(lambda g: _spiral_length(first, g, number), length), turns
    assert span is not None
    if length <= span:
        raise WrongRecipeError("length", f"must be more than the {span:.4g} to the outer edge")
    reach = span
    turns = _solved(lambda n: _spiral_length(first, reach / n, n), length)
    return span / turns, turns


def _spiral_length(first: float, gain: float, turns: float) -> float:
    """The closed form: with r = bθ, s = b/2·(θ√(1+θ²) + asinh θ), between two angles."""
    rate = gain / (2.0 * math.pi)
    begin = first / rate

    def from_centre(angle: float) -> float:
        return rate / 2.0 * (angle * math.hypot(1.0, angle) + math.asinh(angle))

    return from_centre(begin + 2.0 * math.pi * turns) - from_centre(begin)


def _solved(length_at: Callable[[float], float], wanted: float) -> float:
    """The figure at which a growing length is as wanted."""
    # Imported when it is needed: SciPy would double the start of the command line.
    from scipy.optimize import brentq

    low, high = 1e-6, 1.0
    if length_at(low) > wanted:
        raise WrongRecipeError("length", f"must be more than {length_at(low):.4g}")
    while length_at(high) < wanted:
        low, high = high, 2.0 * high
        if high > 1e7:
            raise WrongRecipeError("length", "no such spiral; give another figure")
    return float(brentq(lambda value: length_at(value) - wanted, low, high, xtol=1e-14, rtol=1e-15))


def _line(guide: SpiralGuide, _: tuple[Curve, ...]) -> Curve:
    gain, turns = spiral_extent(guide)
    if turns > MOST_TURNS:
        raise WrongRecipeError("gain", f"makes {turns:.0f} turns; at most {MOST_TURNS:g} are made")
    return run(Spiral(start_of(guide), gain, signed(turns, guide), guide.start), guide)


def _drawn(guide: SpiralGuide) -> list[DrawnFigure]:
    gain, turns = spiral_extent(guide)
    last = start_of(guide) + gain * turns
    figures = [start_figure(guide)]
    x, y = around(1.0, guide.start)

    def out(radius: float) -> Point:
        return (x * radius, y * radius)

    if guide.outer is not None:
        figures.append(outer_figure(guide.outer, last))
    if guide.gain is not None:
        ends = out(max(last - gain, 0.0)), out(last)
        figures.append(DrawnFigure("gain", "From turn to turn", "⇥ ", gain, *ends, off="left"))
    if guide.turns is not None:
        where = around(last, -35.0)
        figures.append(beside("turns", "Number of turns", "n ", guide.turns, where, ""))
    if guide.length is not None:
        figures.append(beside("length", "Length", "⌇ ", guide.length, around(last, -60.0)))
    return figures


def _restated(guide: SpiralGuide) -> dict[str, float]:
    first = start_of(guide)
    gain, turns = spiral_extent(guide)
    return {
        "start_radius": first,
        "inner": 2.0 * first,
        "length": _line(guide, ()).length,
        "gain": gain,
        "turns": turns,
        "outer": 2.0 * (first + gain * turns),
    }


def _first(sizes: Sizes) -> dict[str, object]:
    inner, outer = two_digits(0.2 * sizes.blank), two_digits(0.85 * sizes.blank)
    return {"inner": inner, "outer": outer, "turns": 4, "inward": True}


KIND = GuideKind(
    recipe=SpiralGuide,
    line=_line,
    title="spiral",
    words=lambda _: "spiral",
    rank=90,
    blame="gain",
    inputs=(
        STARTS_AT,
        Way(
            2,
            (
                Figure("outer", "Outer diameter"),
                Figure("gain", "From turn to turn"),
                Figure("turns", "Number of turns", ""),
                Figure("length", "Length"),
            ),
        ),
        Figure("start", "Starts at", "°"),
        TURN,
        INWARD,
    ),
    starts=(
        Start(
            "spiral",
            "M22 16c2-3 6 0 4 4s-11 3-11-4s10-11 16-6s4 17-7 18",
            _first,
            90,
            "spiral",
            usual=True,
        ),
    ),
    sized_by=("gain", "turns", "outer"),
    # A given outside takes fewer turns, the more each gains.
    shortened_by=lambda guide, figure: guide.outer is not None and figure == "gain",
    drawn=_drawn,
    restated=_restated,
    winds=True,
)

"""What spirals of all kinds have: where they start, and which way they run."""

from __future__ import annotations

from typing import Protocol

from ulvent.core.base.arrays import Millimetres
from ulvent.core.base.inputs import Figure, Switch, Way
from ulvent.core.curves import Curve
from ulvent.core.guides.kind import DrawnFigure
from ulvent.core.guides.shared_lines import around

MOST_TURNS = 500.0

STARTS_AT = Way(1, (Figure("inner", "Inner diameter"), Figure("start_radius", "Start radius")))
INWARD = Switch("inward", "From the outside in")


class SpiralRecipe(Protocol):
    """What the recipes of spirals have in common."""

    @property
    def start_radius(self) -> float | None: ...
    @property
    def inner(self) -> float | None: ...
    @property
    def turn(self) -> str: ...
    @property
    def inward(self) -> bool: ...


def start_of(guide: SpiralRecipe) -> Millimetres:
    """Where a spiral starts, however that is given, mm from its centre."""
    if guide.start_radius is not None:
        return guide.start_radius
    assert guide.inner is not None
    return guide.inner / 2.0


def signed(turns: float, guide: SpiralRecipe) -> float:
    """Turns from the inside out: what is travelled inward turns the other way round."""
    clockwise = (guide.turn == "clockwise") != guide.inward
    return -turns if clockwise else turns


def run(curve: Curve, guide: SpiralRecipe) -> Curve:
    """A spiral that was made from the inside out, as it is to run."""
    return curve.reversed() if guide.inward else curve


def start_figure(guide: SpiralRecipe) -> DrawnFigure:
    """The radius or the diameter at which a spiral starts."""
    first = start_of(guide)
    if guide.start_radius is not None:
        end = around(first, -90.0)
        return DrawnFigure("start_radius", "Radius of the start", "R ", first, (0.0, 0.0), end)
    ends = (-first, 0.0), (first, 0.0)
    return DrawnFigure("inner", "Inner diameter", "⌀ ", 2.0 * first, *ends)


def outer_figure(outer: Millimetres, radius: Millimetres) -> DrawnFigure:
    """The outer diameter across a spiral."""
    return DrawnFigure("outer", "Outer diameter", "⌀ ", outer, (-radius, 0.0), (radius, 0.0), 0.8)

"""Giving the size of a guide by other figures, so that the line stays what it is."""

from __future__ import annotations

import math

from ulvent.core.base.errors import FieldProblem, PieceError
from ulvent.core.guides.build import guide_curve
from ulvent.core.guides.kinds import circle_diameter, spiral_extent, spiral_start_radius
from ulvent.core.recipe.recipes import AnyGuide, CircleGuide, GrowingSpiralGuide, SpiralGuide

_DECIMALS = 6


def given_as(guide: AnyGuide, figures: tuple[str, ...]) -> AnyGuide:
    """The same line with its size given by `figures`, and by no others.

    Raises
    ------
    PieceError
        When the guide cannot be given by them.
    """
    known = _figures(guide)
    if not known or not set(figures) <= set(known):
        raise PieceError([FieldProblem("figures", "this guide is not given by such figures")])
    changed = {name: round(known[name], _DECIMALS) if name in figures else None for name in known}
    try:
        return type(guide).model_validate({**guide.model_dump(), **changed})
    except ValueError as error:
        raise PieceError([FieldProblem("figures", "these figures do not go together")]) from error


def _figures(guide: AnyGuide) -> dict[str, float]:
    """All figures by which the size of a guide can be given."""
    if isinstance(guide, CircleGuide):
        diameter = circle_diameter(guide)
        return {"diameter": diameter, "radius": diameter / 2.0, "round": math.pi * diameter}
    if isinstance(guide, SpiralGuide | GrowingSpiralGuide):
        first = spiral_start_radius(guide)
        plain = {"part": None, "scaled": 1.0, "corners": "pass"}
        length = guide_curve(guide.model_copy(update=plain)).length
        found = {"start_radius": first, "inner": 2.0 * first, "length": length}
        if isinstance(guide, SpiralGuide):
            gain, turns = spiral_extent(guide)
            return found | {"gain": gain, "turns": turns, "outer": 2.0 * (first + gain * turns)}
        rate = math.log(guide.growth)
        # s = a·√(1+b²)/b · (e^{bθ} − 1): turns from the length.
        b = rate / (2.0 * math.pi)
        turns = math.log1p(length * b / (first * math.hypot(1.0, b))) / rate
        return found | {"turns": turns, "outer": 2.0 * first * guide.growth**turns}
    return {}

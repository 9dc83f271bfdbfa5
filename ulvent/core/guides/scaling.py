"""Recipes made larger or smaller: every length of the design by one factor."""

from __future__ import annotations

from typing import Any, TypeVar

from ulvent.core.base.fields import Length, Model
from ulvent.core.base.marked import Change, Changer
from ulvent.core.guides.guide_recipe import GuideRecipe

_DECIMALS = 9
"""Figures are kept to a millionth of a micrometre, so that 80 % of 300 is 240."""

Recipe = TypeVar("Recipe", bound=Model)
AGuide = TypeVar("AGuide", bound=GuideRecipe)


def scaled_lengths(recipe: Recipe, factor: float) -> Recipe:
    """The recipe with each of its lengths multiplied; figures of tools and angles stay."""
    change = _SCALING.change_of(type(recipe))
    found: Recipe = change(recipe, factor) if change else recipe
    return found


def resized(guide: AGuide, factor: float) -> AGuide:
    """The guide as many times as large about its own centre, with its part and its corners."""
    figures = scaled_lengths(real_figures(guide), factor)
    scaled = round(guide.scaled * factor, _DECIMALS) if guide.keeps_scale else 1.0
    return figures.model_copy(update={"centre": guide.centre, "scaled": scaled})


def real_figures(guide: AGuide) -> AGuide:
    """The same line with the figures that one would measure, and no scale beside them.

    Lines that have no figures of their own keep their scale.
    """
    if guide.scaled == 1.0 or guide.keeps_scale:
        return guide
    # These are measured on the line as it is already.
    kept = {name: getattr(guide, name) for name in ("centre", "seam", "part", "corner_radius")}
    return scaled_lengths(guide, guide.scaled).model_copy(update={**kept, "scaled": 1.0})


def _scale_of(marks: tuple[Any, ...]) -> Change | None:
    return _scaled if any(isinstance(mark, Length) for mark in marks) else None


def _scaled(value: Any, factor: float) -> Any:
    return _scaled_path(value, factor) if isinstance(value, str) else _times(value, factor)


def _times(value: float, factor: float) -> float:
    return round(value * factor, _DECIMALS) + 0.0


def _scaled_path(data: str, factor: float) -> str:
    # Imported when it is needed: reading path data is not for every start of the command line.
    from ulvent.core.curves.placed import Placed
    from ulvent.core.guides.pathdata import curve_from_path_data
    from ulvent.core.outlines.path_text import segment_data

    curve = curve_from_path_data(data)
    placed = Placed(curve, factor, 0.0, (0.0, 0.0))
    return segment_data(placed.segments(), curve.closed, up=True)


_SCALING = Changer(_scale_of, lambda value: value.no_lengths())

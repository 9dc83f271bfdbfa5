"""A recipe's own frame: from it to the piece and back."""

from __future__ import annotations

import cmath
import math
from collections.abc import Sequence

from ulvent.core.base.arrays import Point
from ulvent.core.guides.guide_recipe import GuideRecipe

_DECIMALS = 4


def to_piece(guide: GuideRecipe, point: Point) -> Point:
    """Where a point of the recipe's frame lies in the piece, mm."""
    return placed(guide, [complex(*point)])[0]


def placed(guide: GuideRecipe, points: Sequence[complex]) -> list[Point]:
    """Where points of the recipe's frame lie in the piece, mm."""
    centre, turn = complex(*guide.centre), _turn(guide)
    return [(at.real, at.imag) for at in (centre + point * turn for point in points)]


def to_recipe(guide: GuideRecipe, point: Point) -> Point:
    """Where a point of the piece lies in the recipe's frame, mm, rounded as it is stored."""
    own = (complex(*point) - complex(*guide.centre)) / _turn(guide)
    return rounded_point(own)


def to_recipe_vector(guide: GuideRecipe, start: Point, end: Point) -> complex:
    """The way from `start` to `end` in the piece, as a vector of the recipe's frame."""
    return (complex(*end) - complex(*start)) / _turn(guide)


def rounded_point(point: complex) -> Point:
    """As stored: to a tenth of a micrometre."""
    return (round(point.real, _DECIMALS) + 0.0, round(point.imag, _DECIMALS) + 0.0)


def _turn(guide: GuideRecipe) -> complex:
    return guide.scaled * cmath.exp(1j * math.radians(guide.turned))

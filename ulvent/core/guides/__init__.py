"""Guides: from a recipe, which is data, to the exact curve that lettering follows."""

from ulvent.core.guides.build import (
    guide_curve,
    guide_curves,
    guide_note,
    guides_in_order,
    own_line,
)
from ulvent.core.guides.places import named_places, place_share

__all__ = [
    "guide_curve",
    "guide_curves",
    "guide_note",
    "guides_in_order",
    "named_places",
    "own_line",
    "place_share",
]

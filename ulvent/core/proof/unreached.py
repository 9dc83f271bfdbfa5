"""Corners that a round cutter does not come into."""

from __future__ import annotations

import math
from typing import Literal

from ulvent.core.shapes import Region

_CRUMB = 0.002


def unreached(area: Region, diameter: float, side: Literal["inside", "outside"]) -> Region:
    """Corners that a round cutter does not come into: where it clears the inside of an area,
    what it leaves of it; where it goes round the outside, what it cannot take beside it.
    """
    radius = diameter / 2.0
    # Along curves reach and area are nearly the same: crumbs of the difference are no corners.
    if side == "inside":
        rest = area.minus(area.offset(-radius).offset(radius + _CRUMB))
    else:
        rest = area.offset(radius).offset(-radius - _CRUMB).minus(area)
    return _big_enough(rest, math.pi * (0.02 * diameter) ** 2)


def _big_enough(region: Region, least: float) -> Region:
    return Region.joined(part for part in region.parts if part.area > least)

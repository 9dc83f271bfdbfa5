"""A column as someone set it: lines across it, and the edges of the letter between them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.outlines import Polyline
from ulvent.core.outlines.polyline import Walk
from ulvent.core.shapes import Region
from ulvent.core.stitches.column import STEP, Column

XY = tuple[float, float]

_EDGE_STEP = 0.05
_EDGE_NEAR = 0.3
"""mm from an edge at which someone who set a line across a column meant the edge."""


def scaled(rungs: Sequence[tuple[XY, XY]], by: float) -> tuple[tuple[XY, XY], ...]:
    """Lines across a column made larger, or smaller."""
    return tuple(((a[0] * by, a[1] * by), (b[0] * by, b[1] * by)) for a, b in rungs)


def corrected(rungs: Sequence[tuple[XY, XY]], part: Region) -> Column | None:
    """A column as someone set it by lines across it; none where these lie elsewhere.

    Between two lines the rails follow the edge of the shape, or are straight where the ends of
    the lines are not on one edge.
    """
    lines = np.array(rungs)
    if not part.offset(_EDGE_NEAR).contains(lines.mean(axis=1)).all():
        return None
    rings = [Polyline(ring, True).walk() for ring in part.rings]
    left, right = (_rail(lines[:, side], rings) for side in (0, 1))
    count = max(3, round(max(one.length for one in (left, right)) / STEP))
    one, other = (_evenly(rail, lines[:, side], count) for side, rail in ((0, left), (1, right)))
    return Column((one + other) / 2.0, one, other)


def _rail(ends: Points, rings: Sequence[Walk]) -> Walk:
    """The line through the ends of lines across a column, along an edge where there is one."""
    feet = [_foot(end, rings) for end in ends]
    found = [ends[:1]]
    for (one, other), end in zip(pairwise(feet), ends[1:], strict=True):
        walk = rings[one[0]]
        ahead = (other[1] - one[1]) % walk.length
        gone = ahead if ahead <= walk.length / 2.0 else ahead - walk.length
        chord = math.dist(walk.at(np.array(one[1])), walk.at(np.array(other[1])))
        if one[0] == other[0] and max(one[2], other[2]) < _EDGE_NEAR and abs(gone) < 2.0 * chord:
            count = max(2, math.ceil(abs(gone) / STEP))
            found.append(walk.at((one[1] + gone * np.arange(1, count) / count) % walk.length))
        found.append(end[None])
    return Polyline(np.concatenate(found), False).walk()


def _foot(point: Points, rings: Sequence[Walk]) -> tuple[int, float, float]:
    """The ring that is nearest to a point, the station there, and how far it is."""
    best = (0, 0.0, math.inf)
    for index, walk in enumerate(rings):
        stations = np.linspace(0.0, walk.length, max(8, math.ceil(walk.length / _EDGE_STEP)))
        off = np.hypot(*(walk.at(stations) - point).T)
        nearest = int(np.argmin(off))
        if off[nearest] < best[2]:
            best = (index, float(stations[nearest]), float(off[nearest]))
    return best


def _evenly(rail: Walk, ends: Points, count: int) -> Points:
    """A rail at places that go evenly from each line across the column to the next."""
    at = [0.0]
    for end in ends[1:]:
        off = np.hypot(*(rail.points - end).T)
        off[rail.along <= at[-1]] = math.inf
        at.append(float(rail.along[int(np.argmin(off))]))
    shares = np.linspace(0.0, len(ends) - 1.0, count + 1)
    return rail.at(np.interp(shares, np.arange(len(ends)), at))

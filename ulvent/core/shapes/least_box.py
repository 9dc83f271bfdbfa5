"""The least rectangle round a shape, which lies along its straight edges where it has any."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.shapes.region import Region

_AS_SMALL = 1.01
"""Rectangles that are so little larger are as good: a round shape has no least one."""


class LeastBox(NamedTuple):
    """A rectangle that lies anyhow, mm.

    middle
        (2,)
    way
        (2,) unit vector along its longer sides
    length, width
        of its longer and its shorter sides
    hull
        mm², the area of what is convex round the shape
    """

    middle: Points
    way: Points
    length: float
    width: float
    hull: float


def least_box(part: Region) -> LeastBox:
    """The least rectangle round a connected shape; of those as small the most upright.

    One of its sides lies along an edge of the convex hull (Freeman and Shapira 1975).
    """
    from scipy.spatial import ConvexHull

    points = np.concatenate(part.rings)
    hull = ConvexHull(points)
    corners = points[hull.vertices]
    edges = np.roll(corners, -1, axis=0) - corners
    turn = np.arctan2(edges[:, 1], edges[:, 0]) % (np.pi / 2.0)
    one = np.stack([np.cos(turn), np.sin(turn)], axis=1)
    ways = np.stack([one, np.stack([-one[:, 1], one[:, 0]], axis=1)], axis=1)
    along = ways @ corners.T
    low, high = along.min(axis=2), along.max(axis=2)
    sides = high - low
    areas = sides.prod(axis=1)
    longer = sides.argmax(axis=1)
    good = np.flatnonzero(areas <= _AS_SMALL * areas.min())
    best = int(good[np.argmax(np.abs(ways[good, longer[good], 1]))])
    way = ways[best, longer[best]]
    middle: Points = ((low[best] + high[best]) / 2.0) @ ways[best]
    length, width = float(sides[best].max()), float(sides[best].min())
    return LeastBox(middle, way, length, width, float(hull.volume))

"""Many regions, asked for what of them lies near some place, or outside of one."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ulvent.core.base.arrays import Booleans, Bounds, Floats, Integers, Points
from ulvent.core.shapes.region import Region

_PAIRS_AT_ONCE = 1_000_000


class Scattered:
    """Regions by where they lie: letters, ties, or the parts of one region.

    What is done to all of them takes as long as all are; near a place there are few.
    """

    def __init__(self, regions: Sequence[Region]) -> None:
        self._regions = regions
        self._boxes = np.array([region.bounds for region in regions]).reshape(-1, 4)

    def near(self, bounds: Bounds) -> Region:
        """All whose boxes have something in common with a box, made one; empty without any."""
        x0, y0, x1, y1 = bounds
        low_x, low_y, high_x, high_y = self._boxes.T
        near = (low_x < x1) & (high_x > x0) & (low_y < y1) & (high_y > y0)
        return Region.joined(self._regions[index] for index in np.flatnonzero(near).tolist())


def corners_beyond(regions: Sequence[Region], shape: Region) -> tuple[Points, Integers]:
    """(n, 2) corners of regions that are outside of a shape, and which region each is of."""
    corners = [np.concatenate(region.rings) for region in regions if region.rings]
    if not corners:
        return np.empty((0, 2)), np.empty(0, dtype=int)
    points = np.concatenate(corners)
    counts = np.array([len(some) for some in corners])
    starts = np.cumsum(counts) - counts
    boxes = np.concatenate(
        [np.minimum.reduceat(points, starts), np.maximum.reduceat(points, starts)], axis=1
    )
    inside, outside = wholly(boxes, shape)
    filled = np.array([index for index, region in enumerate(regions) if region.rings])
    beyond = np.repeat(outside, counts)
    doubtful = np.repeat(~inside & ~outside, counts)
    beyond[doubtful] = ~shape.contains(points[doubtful])
    return points[beyond], np.repeat(filled, counts)[beyond]


def wholly(boxes: Floats, shape: Region) -> tuple[Booleans, Booleans]:
    """(n,) which boxes (n, 4), as `Region.bounds`, are inside of a shape with all that is in them,
    and which are outside; those that an edge may come into are neither."""
    begins, ends = shape.edges
    lows, highs = np.minimum(begins, ends), np.maximum(begins, ends)
    clear = np.empty(len(boxes), dtype=bool)
    for some in np.array_split(np.arange(len(boxes)), 1 + len(boxes) * len(lows) // _PAIRS_AT_ONCE):
        x0, y0, x1, y1 = boxes[some].T[..., None]
        over = (lows[:, 0] <= x1) & (highs[:, 0] >= x0) & (lows[:, 1] <= y1) & (highs[:, 1] >= y0)
        clear[some] = ~over.any(axis=1)
    inside = shape.contains(boxes[:, :2])
    return clear & inside, clear & ~inside


def reaching_out(regions: Sequence[Region], shape: Region) -> Booleans:
    """(n,) whether each has a corner outside of a shape."""
    _, owners = corners_beyond(regions, shape)
    out: Booleans = np.bincount(owners, minlength=len(regions)) > 0
    return out

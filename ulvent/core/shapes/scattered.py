"""Many regions, asked for what of them lies near some place, or outside of one."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ulvent.core.base.arrays import Booleans, Bounds, Integers, Points
from ulvent.core.shapes.region import Region


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
    corners = [np.concatenate(region.rings or _NO_RINGS) for region in regions]
    if not corners:
        return np.empty((0, 2)), np.empty(0, dtype=int)
    points = np.concatenate(corners)
    owners = np.repeat(np.arange(len(regions)), [len(some) for some in corners])
    beyond = ~shape.contains(points)
    return points[beyond], owners[beyond]


def reaching_out(regions: Sequence[Region], shape: Region) -> Booleans:
    """(n,) whether each has a corner outside of a shape."""
    _, owners = corners_beyond(regions, shape)
    out: Booleans = np.bincount(owners, minlength=len(regions)) > 0
    return out


_NO_RINGS = (np.empty((0, 2)),)

"""A region in many parts, asked for what lies near some place."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Bounds
from ulvent.core.shapes.region import Region


class Scattered:
    """The parts of a region by where they lie.

    What is done to a whole region takes as long as all of it; near a place there are few parts.
    """

    def __init__(self, region: Region) -> None:
        self._parts = region.parts
        self._boxes = np.array([part.bounds for part in self._parts]).reshape(-1, 4)

    def near(self, bounds: Bounds) -> Region:
        """All parts whose boxes touch a box."""
        x0, y0, x1, y1 = bounds
        low_x, low_y, high_x, high_y = self._boxes.T
        touching = (low_x <= x1) & (high_x >= x0) & (low_y <= y1) & (high_y >= y0)
        return Region.joined(self._parts[index] for index in np.flatnonzero(touching).tolist())

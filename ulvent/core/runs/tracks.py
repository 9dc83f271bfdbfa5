"""What a tool does from coming down until it goes up."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import Floats, Lengths, Points
from ulvent.core.runs.raster_rows import Row


class Track(NamedTuple):
    """What a tool does from coming down until it goes up.

    points
        (k, 2) mm from the machine's zero
    line
        which line of the pass it is of
    depth
        mm, of a tool that goes to a depth
    depths
        (k,) mm at each point, where it goes up and down on its way
    row
        where it stands in its row, of what is filled row by row; nothing: it begins and ends at
        rest
    """

    points: Points
    line: int
    depth: float = 0.0
    row: Row | None = None
    depths: Lengths | None = None

    @property
    def way(self) -> Floats:
        """(k, 2) where it goes, or (k, 3) with how deep it is there."""
        if self.depths is None:
            return self.points
        return np.column_stack([self.points, self.depths])

    @property
    def enters(self) -> Points:
        """(2,) where the tool begins to move along it."""
        return self.points[0] if self.row is None else self.row.enters(self.points)

    @property
    def leaves(self) -> Points:
        """(2,) where the tool has come to rest."""
        return self.points[-1] if self.row is None else self.row.leaves(self.points)

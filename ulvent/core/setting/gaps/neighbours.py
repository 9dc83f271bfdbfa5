"""Which letters stand on different turns of a line, or on different lines."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Integers, Stations
from ulvent.core.base.trees import point_tree
from ulvent.core.curves import Frames

_HALF_TURN = np.pi
"""Letters that are farther apart than this along their line stand on other turns of it."""


class Turns(NamedTuple):
    """On which turn of which line letters stand, (n,) each.

    closed
        whether their line is: that has one turn, and its ends are neighbours
    """

    turnings: Floats
    rows: Integers
    closed: Booleans

    @classmethod
    def of(cls, rows: Sequence[Frames], closed: Sequence[bool]) -> Turns:
        """Of rows by the frames of their letters, and whether their baselines are closed."""
        counts = [len(frames.points) for frames in rows]
        return cls(
            np.concatenate([frames.turnings for frames in rows]),
            np.repeat(np.arange(len(rows)), counts),
            np.repeat(closed, counts),
        )

    @property
    def several(self) -> bool:
        """Whether any two letters can be on different turns or lines."""
        if len(np.unique(self.rows)) > 1:
            return True
        if not len(self.rows) or self.closed.all():
            return False
        return bool(np.ptp(self.turnings) > _HALF_TURN)

    def pairs(self, middles: Stations, reach: float) -> tuple[Integers, Integers]:
        """Letters on different turns whose middles are no farther apart than `reach`, mm."""
        inked = np.flatnonzero(np.isfinite(middles[:, 0]))
        found = point_tree(middles[inked]).query_pairs(reach, output_type="ndarray")
        ones, twos = inked[found[:, 0]], inked[found[:, 1]]
        turned = np.abs(self.turnings[ones] - self.turnings[twos]) > _HALF_TURN
        other = (self.rows[ones] != self.rows[twos]) | (turned & ~self.closed[ones])
        return ones[other], twos[other]

"""The edges of lettering, and where rays through it cross them."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Floats
from ulvent.core.shapes import Region

_PAIRS_AT_ONCE = 500_000


class InkEdges:
    """The edges of an area; those farther from all rays than `reach` mm are not looked at."""

    def __init__(self, ink: Region, reach: float) -> None:
        rings = ink.rings
        self._begins = np.concatenate(rings)
        self._ends = np.concatenate([np.roll(ring, -1, axis=0) for ring in rings])
        self._lows = np.minimum(self._begins, self._ends)
        self._highs = np.maximum(self._begins, self._ends)
        self._reach = reach

    def crossings(self, origins: Floats, ways: Floats) -> tuple[Floats, Floats, Floats]:
        """How far each ray (n, 2) is where it enters ink, leaves it, and enters it again."""
        found = np.full((3, len(origins)), np.inf)
        low, high = origins.min(axis=0) - self._reach, origins.max(axis=0) + self._reach
        near = np.flatnonzero(((self._lows <= high) & (self._highs >= low)).all(axis=1))
        begins, ends = self._begins[near], self._ends[near]
        chunks = 1 + len(origins) * len(near) // _PAIRS_AT_ONCE
        for some in np.array_split(np.arange(len(origins)), chunks):
            o, w = origins[some, None], ways[some]
            side, along = _sides(begins - o, w)
            side_at_end, along_at_end = _sides(ends - o, w)
            ray, edge = np.nonzero((side < 0.0) != (side_at_end < 0.0))
            s0, s1 = side[ray, edge], side_at_end[ray, edge]
            a0, a1 = along[ray, edge], along_at_end[ray, edge]
            far = a0 + s0 / (s0 - s1) * (a1 - a0)
            ray, far = ray[far > 0.0], far[far > 0.0]
            order = np.lexsort((far, ray))
            ray, far = ray[order], far[order]
            rank = np.arange(len(ray)) - np.searchsorted(ray, ray)
            for which in range(3):
                mine = rank == which
                found[which, some[ray[mine]]] = far[mine]
        return found[0], found[1], found[2]


def _sides(ways: Floats, rays: Floats) -> tuple[Floats, Floats]:
    """How far to the side of rays (n, 2), and along them, ways (n, m, 2) lead: (n, m) each."""
    x, y = ways[..., 0], ways[..., 1]
    return rays[:, :1] * y - rays[:, 1:] * x, rays[:, :1] * x + rays[:, 1:] * y

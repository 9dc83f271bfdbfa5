"""The edges of lettering, and where rays through it cross them."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Floats, Integers
from ulvent.core.shapes import Region

_RAYS_AT_ONCE = 50


class InkEdges:
    """The edges of an area, for rays through it.

    Parameters
    ----------
    first, farthest
        edges that rays come to farther away, mm, are not looked at: first few, and all that
        count for those rays that have not found `enough` white beyond ink among them
    """

    def __init__(self, ink: Region, first: float, farthest: float, enough: float) -> None:
        rings = ink.rings
        begins = np.concatenate(rings)
        ends = np.concatenate([np.roll(ring, -1, axis=0) for ring in rings])
        order = np.argsort(np.minimum(begins[:, 0], ends[:, 0]))
        self._begins, self._ends = begins[order], ends[order]
        self._lows = np.minimum(self._begins, self._ends)
        self._highs = np.maximum(self._begins, self._ends)
        self._widest = float((self._highs - self._lows)[:, 0].max())
        self._first, self._farthest, self._enough = first, farthest, enough

    def crossings(
        self, origins: Floats, ways: Floats, together: int = 1
    ) -> tuple[Floats, Floats, Floats]:
        """How far each ray (n, 2) is where it enters ink, leaves it, and enters it again.

        So many rays, one after another, belong `together`, and are seen equally far.
        """
        found = self._within(self._first, origins, ways)
        # What is found so near is all there is so near.
        done = (found[1] <= self._first - self._enough).reshape(-1, together).all(axis=1)
        rest = np.flatnonzero(~np.repeat(done, together))
        if len(rest):
            found[:, rest] = self._within(self._farthest, origins[rest], ways[rest])
        return found[0], found[1], found[2]

    def _within(self, reach: float, origins: Floats, ways: Floats) -> Floats:
        """(3, n) the crossings of rays with edges, all that are within reach."""
        found = np.full((3, len(origins)), np.inf)
        tips = origins + reach * ways
        low, high = np.minimum(origins, tips), np.maximum(origins, tips)
        # Few at a time, so that there is little in the box that holds them.
        for some in np.array_split(np.arange(len(origins)), 1 + len(origins) // _RAYS_AT_ONCE):
            near = self._near(low[some].min(axis=0), high[some].max(axis=0))
            begins, ends = self._begins[near], self._ends[near]
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
        return found

    def _near(self, low: Floats, high: Floats) -> Integers:
        """Edges whose boxes touch a box."""
        begin = np.searchsorted(self._lows[:, 0], low[0] - self._widest)
        end = np.searchsorted(self._lows[:, 0], high[0], side="right")
        lows, highs = self._lows[begin:end], self._highs[begin:end]
        near: Integers = begin + np.flatnonzero(((lows <= high) & (highs >= low)).all(axis=1))
        return near


def _sides(ways: Floats, rays: Floats) -> tuple[Floats, Floats]:
    """How far to the side of rays (n, 2), and along them, ways (n, m, 2) lead: (n, m) each."""
    x, y = ways[..., 0], ways[..., 1]
    return rays[:, :1] * y - rays[:, 1:] * x, rays[:, :1] * x + rays[:, 1:] * y

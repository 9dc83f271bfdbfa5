"""Whether points are inside of a ring, by the edges beside their level."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Integers, Points, counted_up
from ulvent.core.base.tolerances import JOINT

_PAIRS_AT_ONCE = 1_000_000
_MOST_STRIPS = 4096


def to_the_right(points: Points, begins: Points, ends: Points) -> Booleans:
    """Whether edges cross the level of points to the right of them."""
    x, y = points[..., 0], points[..., 1]
    spans = (begins[..., 1] <= y) != (ends[..., 1] <= y)
    rise = ends[..., 1] - begins[..., 1]
    cross = begins[..., 0] + (y - begins[..., 1]) * (ends - begins)[..., 0] / np.where(
        rise == 0.0, 1.0, rise
    )
    crossed: Booleans = spans & (x < cross)
    return crossed


class Strips:
    """The edges of a ring sorted into level strips: a point is held against those of its own."""

    def __init__(self, ring: Points) -> None:
        self._begins, self._ends = ring, np.roll(ring, -1, axis=0)
        lows = np.minimum(self._begins, self._ends)[:, 1]
        highs = np.maximum(self._begins, self._ends)[:, 1]
        self._count = min(1 + len(ring) // 8, _MOST_STRIPS)
        self._bottom = float(lows.min())
        self._scale = self._count / max(float(highs.max()) - self._bottom, JOINT)
        first, last = self._strip_of(lows), self._strip_of(highs)
        edges, places = counted_up(last - first + 1)
        strips = first[edges] + places
        order = np.argsort(strips, kind="stable")
        self._edges = edges[order]
        self._starts = np.searchsorted(strips[order], np.arange(self._count + 1))

    def _strip_of(self, levels: Floats) -> Integers:
        strip: Integers = np.clip(
            ((levels - self._bottom) * self._scale).astype(int), 0, self._count - 1
        )
        return strip

    def inside(self, points: Points) -> Booleans:
        """Whether points (n, 2) are inside, by the edges that cross their level to the right."""
        mine = self._strip_of(points[:, 1])
        counts = self._starts[mine + 1] - self._starts[mine]
        inside = np.zeros(len(points), dtype=bool)
        chunks = 1 + int(counts.sum()) // _PAIRS_AT_ONCE
        for some in np.array_split(np.arange(len(points)), chunks):
            owners, places = counted_up(counts[some])
            rows = some[owners]
            edge = self._edges[self._starts[mine[rows]] + places]
            crossed = to_the_right(points[rows], self._begins[edge], self._ends[edge])
            hits = np.bincount(rows[crossed], minlength=len(points))
            inside[some] = hits[some] % 2 == 1
        return inside

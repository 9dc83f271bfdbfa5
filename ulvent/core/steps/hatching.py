"""Areas filled with single lines: hatched, or with rings inset until they are full.

The tool's line has a width: everything is kept half of it inside. Hatching goes through an
area line by line with as few lifts as it can: from the end of one line to the next one the
tool runs along the outline.
"""

from __future__ import annotations

import math

import numpy as np

from ulvent.core.base.arrays import Floats, counted_up
from ulvent.core.base.tolerances import JOINT
from ulvent.core.outlines import Polyline
from ulvent.core.shapes import Region

_FARTHEST_LINK = 4.0
"""A link along the outline is at most so many pitches long."""


def hatched(area: Region, pitch: float, angle: float, pen: float) -> list[Polyline]:
    """Lines at `angle` degrees, `pitch` mm apart, joined along the outline to chains."""
    inside = area.offset(-pen / 2.0)
    found: list[Polyline] = []
    for part in inside.parts:
        found.extend(
            Polyline(chain, False) for chain in _hatched_part(part, pitch, math.radians(angle))
        )
    return found


def rings_until_full(area: Region, pitch: float, pen: float) -> list[Polyline]:
    """Rings inside the outline, `pitch` mm apart, until nothing is left."""
    found: list[Polyline] = []
    inside = area.offset(-pen / 2.0)
    while not inside.is_empty:
        found.extend(Polyline(ring, True) for ring in inside.rings)
        inside = inside.offset(-pitch)
    return found


def _hatched_part(part: Region, pitch: float, angle: float) -> list[Floats]:
    cos, sin = math.cos(angle), math.sin(angle)
    upright = np.array([[cos, -sin], [sin, cos]])
    rings = [ring @ upright for ring in part.rings]
    crossings = _Crossings(rings, pitch)
    return [chain @ upright.T for chain in crossings.chains()]


class _Crossings:
    """Where level lines, `pitch` apart, cross the rings; in pairs, they are the hatching."""

    def __init__(self, rings: list[Floats], pitch: float) -> None:
        self._rings, self._pitch = rings, pitch
        self._along = [Polyline(ring, True).walk().along for ring in rings]
        levels, xs, which, places = [], [], [], []
        for index, ring in enumerate(rings):
            begins, ends = ring, np.roll(ring, -1, axis=0)
            # Half-open: a line that goes through a corner point crosses once or not at all.
            low = np.ceil(np.minimum(begins[:, 1], ends[:, 1]) / pitch - 0.5).astype(int)
            high = np.ceil(np.maximum(begins[:, 1], ends[:, 1]) / pitch - 0.5).astype(int)
            edges, steps = counted_up(high - low)
            level = low[edges] + steps
            rise = ends[edges, 1] - begins[edges, 1]
            share = ((level + 0.5) * pitch - begins[edges, 1]) / rise
            levels.append(level)
            xs.append(begins[edges, 0] + share * (ends[edges, 0] - begins[edges, 0]))
            which.append(np.full(len(edges), index))
            lengths = np.diff(self._along[index])
            places.append(self._along[index][edges] + share * lengths[edges])
        level, x = np.concatenate(levels), np.concatenate(xs)
        order = np.lexsort((x, level))
        self._level, self._x = level[order], x[order]
        self._ring = np.concatenate(which)[order]
        self._place = np.concatenate(places)[order]

    def chains(self) -> list[Floats]:
        count = len(self._x) // 2
        by_level: dict[int, list[int]] = {}
        for line in range(count):
            by_level.setdefault(int(self._level[2 * line]), []).append(line)
        free = set(range(count))
        found: list[Floats] = []
        for line in range(count):
            if line not in free:
                continue
            free.discard(line)
            pieces = [self._points(2 * line, 2 * line + 1)]
            at = 2 * line + 1
            while True:
                following = self._following(at, by_level, free)
                if following is None:
                    break
                entry, link = following
                free.discard(entry // 2)
                pieces.extend([link, self._points(entry, entry ^ 1)])
                at = entry ^ 1
            chain = np.concatenate(pieces)
            kept = np.hypot(*np.diff(chain, axis=0, prepend=chain[:1] - 1.0).T) > JOINT
            found.append(chain[kept])
        return found

    def _points(self, one: int, two: int) -> Floats:
        y = (self._level[one] + 0.5) * self._pitch
        return np.array([[self._x[one], y], [self._x[two], y]])

    def _following(
        self, at: int, by_level: dict[int, list[int]], free: set[int]
    ) -> tuple[int, Floats] | None:
        """The nearest end of a free line of the next level, and the way along the outline."""
        ring, place = int(self._ring[at]), float(self._place[at])
        total = float(self._along[ring][-1])
        best: tuple[float, int] | None = None
        for line in by_level.get(int(self._level[at]) + 1, ()):
            if line not in free:
                continue
            for end in (2 * line, 2 * line + 1):
                if self._ring[end] != ring:
                    continue
                way = math.remainder(float(self._place[end]) - place, total)
                if abs(way) <= _FARTHEST_LINK * self._pitch and (
                    best is None or abs(way) < abs(best[0])
                ):
                    best = way, end
        if best is None:
            return None
        way, end = best
        return end, self._between(ring, place, way)

    def _between(self, ring: int, place: float, way: float) -> Floats:
        """The ring's points passed on the way from a place."""
        along, points = self._along[ring][:-1], self._rings[ring]
        total = float(self._along[ring][-1])
        low, high = min(place, place + way), max(place, place + way)
        laps = np.concatenate([along - total, along, along + total])
        indices = np.flatnonzero((laps > low) & (laps < high))
        passed = np.tile(points, (3, 1))[indices]
        return passed if way > 0.0 else passed[::-1]

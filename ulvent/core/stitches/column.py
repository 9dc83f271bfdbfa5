"""A column: a stroke of a letter between two rails, and rungs from one to the other."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Integers, Points, Stations, turned_left
from ulvent.core.base.tolerances import JOINT
from ulvent.core.outlines import Polyline
from ulvent.core.shapes import Region

STEP = 0.1
"""mm between places of a column, where no thread is finer."""
_SMOOTHED = 0.35
"""Share of a stroke's half width over which its direction is smoothed."""


@dataclass(frozen=True, eq=False)
class Column:
    """A stroke between two rails, mm.

    axis, left, right
        (k, 2) each, place by place
    closed
        whether it comes back to where it began
    """

    axis: Points
    left: Points
    right: Points
    closed: bool = False

    @property
    def reversed(self) -> Column:
        """The same, gone from its end."""
        return Column(self.axis[::-1], self.right[::-1], self.left[::-1], self.closed)

    @classmethod
    def along(cls, points: Points, width: float) -> Column:
        """One of an even width along a line."""
        walk = Polyline(points, False).walk()
        axis = walk.at(np.linspace(0.0, walk.length, max(3, round(walk.length / STEP)) + 1))
        ways = ways_along(axis, False, width / 2.0, STEP)
        out = turned_left(ways) * width / 2.0
        left, right = axis + out, axis - out
        left, right, kept = unfolded(left, right, ways)
        return cls(axis[kept], left[kept], right[kept])

    def some(self, places: Integers) -> Column:
        """What of it is at some of its places."""
        return Column(self.axis[places], self.left[places], self.right[places])

    def part(self, begin: int, end: int) -> Column:
        """From one place to another, both of them in it, gone that way."""
        low, high = min(begin, end), max(begin, end)
        found = self.some(np.arange(low, high + 1))
        return found if begin <= end else found.reversed

    def from_place(self, place: int) -> Column:
        """A closed one as one that is open at a place, gone once round."""
        count = len(self.axis)
        return self.some((np.arange(count + 1) + place) % count)

    @property
    def middles(self) -> Points:
        """(k, 2) half way between the rails."""
        return (self.left + self.right) / 2.0

    @property
    def widths(self) -> Floats:
        """(k,) mm from rail to rail."""
        found: Floats = np.hypot(*(self.left - self.right).T)
        return found

    @property
    def width(self) -> float:
        """mm: its usual one."""
        return float(np.median(self.widths))

    @property
    def stations(self) -> Stations:
        """(k,) mm along the axis."""
        return Polyline(self.axis, False).walk().along

    @property
    def swept(self) -> Region:
        """What thread between the rails covers."""
        strips = np.stack([self.left[:-1], self.right[:-1], self.right[1:], self.left[1:]], axis=1)
        x, y = strips[..., 0], strips[..., 1]
        turn = np.sum(x * np.roll(y, -1, axis=1) - y * np.roll(x, -1, axis=1), axis=1)
        return Region.of_rings([ring if way > 0.0 else ring[::-1]
                                for ring, way in zip(strips, turn, strict=True)])  # fmt: skip


def ways_along(axis: Points, closed: bool, radius: float, step: float) -> Points:
    """(k, 2) unit directions along a stroke, smoothed over a share of its half width."""
    span = max(1, round(_SMOOTHED * radius / step * 2.0))
    if closed:
        ahead, behind = np.roll(axis, -span, axis=0), np.roll(axis, span, axis=0)
    else:
        index = np.arange(len(axis))
        ahead = axis[np.minimum(index + span, len(axis) - 1)]
        behind = axis[np.maximum(index - span, 0)]
    way = ahead - behind
    found: Points = way / np.maximum(np.hypot(*way.T), JOINT)[:, None]
    return found


def unfolded(left: Points, right: Points, ways: Points) -> tuple[Points, Points, Booleans]:
    """Rails (k, 2) on which no rung goes back, and which rungs (k,) still cross none before them.

    On the inside of a bend that is tighter than the stroke is wide rungs cross. There a rail waits
    until it is passed again: half of it where it was before, half where it goes on.
    """
    rails = [(_waiting(rail, ways) + _waiting(rail[::-1], -ways[::-1])[::-1]) / 2.0
             for rail in (left, right)]  # fmt: skip
    return rails[0], rails[1], _forward(rails[0], rails[1], ways)


def _waiting(rail: Points, ways: Points) -> Points:
    """A rail that stays where it is while it would go back."""
    along = _goes_on(rail, ways)
    last, found = 0, []
    for index in range(len(rail)):
        if along(last, index) >= 0.0:
            last = index
        found.append(last)
    return rail[found]


def _forward(left: Points, right: Points, ways: Points) -> Booleans:
    """(k,) which rungs do not cross the last one that is kept."""
    along_left, along_right = _goes_on(left, ways), _goes_on(right, ways)
    kept = np.zeros(len(left), dtype=bool)
    last = -1
    for index in range(len(left)):
        if last < 0 or (along_left(last, index) > -JOINT and along_right(last, index) > -JOINT):
            kept[index] = True
            last = index
    return kept


def _goes_on(rail: Points, ways: Points) -> Callable[[int, int], float]:
    """How far, mm, a rail goes from one place to another along the way at that one."""
    places, along = rail.tolist(), ways.tolist()

    def goes_on(one: int, other: int) -> float:
        (x0, y0), (x, y), (dx, dy) = places[one], places[other], along[other]
        return float((x - x0) * dx + (y - y0) * dy)

    return goes_on

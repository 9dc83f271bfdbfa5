"""Areas filled with straight lines, to and fro, for a tool whose power goes on and off."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.tolerances import JOINT
from ulvent.core.recipe.run_sheet import Filling
from ulvent.core.shapes import Region

MOST_LINES = 100_000


class Row(NamedTuple):
    """Where a line stands in its row, along which the tool moves at a steady speed.

    before, after
        mm that the tool runs on without power before it and behind it
    goes_on, is_followed
        whether the tool comes to it from another line of its row, and goes on to one
    """

    before: float
    after: float
    goes_on: bool
    is_followed: bool

    def enters(self, points: Points) -> Points:
        """(2,) where the tool begins to run, mm."""
        found: Points = points[0] - self.before * _way(points)
        return found

    def leaves(self, points: Points) -> Points:
        """(2,) where the tool has run on to, mm."""
        found: Points = points[1] + self.after * _way(points)
        return found


class RowLine(NamedTuple):
    """A line (2, 2) of a row, mm."""

    points: Points
    row: Row


def filling_lines(area: Region, filling: Filling) -> list[RowLine]:
    """Lines that fill an area, row by row, every other row the other way.

    Rows stand on multiples of the pitch, so that areas side by side have theirs in common.
    """
    if area.is_empty:
        return []
    angle = math.radians(filling.angle)
    upright = np.array([[math.cos(angle), -math.sin(angle)], [math.sin(angle), math.cos(angle)]])
    rings = [ring @ upright for ring in area.rings]
    begins = np.concatenate(rings)
    ends = np.concatenate([np.roll(ring, -1, axis=0) for ring in rings])
    pitch = filling.pitch
    low = math.floor(float(begins[:, 1].min()) / pitch)
    high = math.ceil(float(begins[:, 1].max()) / pitch)
    found: list[RowLine] = []
    overscan = filling.overscan
    lows, highs = np.minimum(begins, ends)[:, 1], np.maximum(begins, ends)[:, 1]
    for row in range(low, high + 1):
        # Half a pitch up, where no row lies on the edge of an area that ends on a multiple.
        level = (row + 0.5) * pitch
        over = np.flatnonzero((lows <= level) & (highs > level))
        if not len(over):
            continue
        b, e = begins[over], ends[over]
        share = (level - b[:, 1]) / (e[:, 1] - b[:, 1])
        xs = np.sort(b[:, 0] + share * (e[:, 0] - b[:, 0]))
        pairs = [(left, right) for left, right in zip(xs[::2], xs[1::2], strict=True)
                 if right - left > JOINT]  # fmt: skip
        if row % 2:
            pairs = [(right, left) for left, right in reversed(pairs)]
        last = len(pairs) - 1
        for place, (one, two) in enumerate(pairs):
            row_of = Row(
                overscan * (place == 0), overscan * (place == last), place > 0, place < last
            )
            points = np.array([[one, level], [two, level]]) @ upright.T
            found.append(RowLine(points, row_of))
    return found


def _way(points: Points) -> Points:
    way: Points = points[1] - points[0]
    way /= np.hypot(*way)
    return way


def refuse_many(area: Region, pitch: float, field: str) -> None:
    """Refuse to fill an area with more lines than `MOST_LINES`: about as many as there are rows by
    how many rings each may cross.

    Raises
    ------
    PieceError
        Naming the field of the pitch, and what would do.
    """
    _, low, _, high = area.bounds
    lines = (high - low) / pitch * max(1, len(area.rings) // 2)
    if lines > MOST_LINES:
        least = pitch * lines / MOST_LINES
        reason = f"makes more than {MOST_LINES} lines; {least:.3g} mm or more would do"
        raise wrong_field(field, reason)

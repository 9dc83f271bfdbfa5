"""Where a line may be begun, and following it from there."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Floats, Points, wrapped
from ulvent.core.base.tolerances import JOINT, SHARP_TURN
from ulvent.core.outlines import Polyline
from ulvent.core.runs.nesting import Line

MOST_PLACES = 16
_CORNER_SHARE = 0.02
"""A place nearer to a corner than this share of the line is seen first, and not offered."""


def beginnings(line: Line, most: int = MOST_PLACES) -> Floats:
    """(k,) stations, mm, at which a closed line may be begun: evenly along it, off corners."""
    walk = Polyline(line.points, True).walk()
    if walk.length <= JOINT:
        return np.zeros(1)
    stations = (np.arange(most) + 0.5) * walk.length / most
    chords = np.diff(walk.points, axis=0)
    angles = np.arctan2(chords[:, 1], chords[:, 0])
    turns = np.abs(wrapped(angles - np.roll(angles, 1)))
    corners = walk.along[:-1][turns > SHARP_TURN]
    if len(corners):
        off = np.abs(stations[:, None] - corners)
        off = np.minimum(off, walk.length - off).min(axis=1)
        clear = off >= _CORNER_SHARE * walk.length
        stations = stations[clear] if clear.any() else stations[[int(np.argmax(off))]]
    return stations


def stretch(ring: Points, station: float, length: float) -> Points:
    """(k, 2) a stretch of a closed line that is not longer than it is, mm from its first point."""
    walk = Polyline(ring, True).walk()
    station = station % walk.length
    along = np.concatenate([walk.along[:-1], walk.along[:-1] + walk.length])
    between = (along > station + JOINT) & (along < station + length - JOINT)
    ends = walk.at(np.array([station, station + length]))
    return np.concatenate([ends[:1], np.tile(ring, (2, 1))[between], ends[1:]])


def seen_backward(ring: Points) -> float:
    """mm from which the station of a place is taken away where a closed line is reversed: its
    first point is then the last one."""
    chords = np.hypot(*np.diff(ring, axis=0, append=ring[:1]).T)
    return float(chords[:-1].sum())

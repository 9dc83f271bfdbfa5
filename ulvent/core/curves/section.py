"""A stretch of a curve that has none of its own kind."""

from __future__ import annotations

from functools import cached_property

import numpy as np

from ulvent.core.base.arrays import Floats, Millimetres, Stations
from ulvent.core.curves.curve import Corners, Curve, Frames, at_corners
from ulvent.core.curves.fitted import fitted_segments
from ulvent.core.curves.segments import Segment


class Section(Curve):
    """The open stretch of `base` between two stations inside `[0, length]`."""

    def __init__(self, base: Curve, begin: float, end: float) -> None:
        self._base = base
        self._begin = begin
        self._end = end

    @property
    def asked(self) -> tuple[Curve, ...]:
        return (self._base,)

    @property
    def length(self) -> float:
        return self._end - self._begin

    @property
    def closed(self) -> bool:
        return False

    @property
    def corners(self) -> Corners:
        of_base = self._base.corners
        inside = (of_base.stations > self._begin) & (of_base.stations < self._end)
        return Corners(of_base.stations[inside] - self._begin, of_base.turns[inside])

    def _frames(self, stations: Stations) -> Frames:
        inside = np.minimum(self._begin + stations, self._base.length)
        corners = self._base.corners.stations
        inside = at_corners(inside, stations, corners - self._begin, corners)
        at = self._base._frames(inside)
        return Frames(at.points, at.tangents, at.curvatures, at.turnings - self._first_turning)

    @cached_property
    def _first_turning(self) -> float:
        return float(self._base._frames(np.array([self._begin])).turnings[0])

    def _reversed(self) -> Curve:
        length = self._base.length
        return stretch_of(self._base.reversed(), length - self._end, length - self._begin)

    @cached_property
    def bends(self) -> tuple[Floats, Floats]:
        stations, bends = self._base.bends
        inside = (stations > self._begin) & (stations < self._end)
        ends = self._base._frames(np.array([self._begin, self._end])).curvatures
        return (
            np.concatenate([[0.0], stations[inside] - self._begin, [self.length]]),
            np.concatenate([ends[:1], bends[inside], ends[1:]]),
        )

    def segments(self) -> tuple[Segment, ...]:
        return fitted_segments(self)

    def _stretch(self, begin: Millimetres, end: Millimetres) -> Curve:
        return stretch_of(self._base, self._begin + begin, self._begin + end)


def stretch_of(curve: Curve, begin: Millimetres, end: Millimetres) -> Curve:
    """The stretch between two stations inside `[0, length]`; past a seam see `seam`."""
    return curve._stretch(begin, end) or Section(curve, begin, end)

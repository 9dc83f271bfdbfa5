"""A straight line."""

from __future__ import annotations

import math

import numpy as np

from ulvent.core.base.arrays import Point, Stations
from ulvent.core.base.errors import CurveError
from ulvent.core.curves.curve import Curve, Frames
from ulvent.core.curves.segments import LineSegment, Segment, as_point


class Line(Curve):
    """The straight line from `start` to `end`, mm."""

    def __init__(self, start: Point, end: Point) -> None:
        self._start = np.array(start, dtype=float)
        self._end = np.array(end, dtype=float)
        self._length = math.dist(start, end)
        if not (math.isfinite(self._length) and self._length > 0.0):
            raise CurveError("a line needs two different points")
        self._tangent = (self._end - self._start) / self._length

    @property
    def length(self) -> float:
        return self._length

    @property
    def closed(self) -> bool:
        return False

    def _frames(self, stations: Stations) -> Frames:
        zeros = np.zeros(len(stations))
        return Frames(
            points=self._start + stations[:, None] * self._tangent,
            tangents=np.broadcast_to(self._tangent, (len(stations), 2)),
            curvatures=zeros,
            turnings=zeros,
        )

    def _reversed(self) -> Line:
        return Line(as_point(self._end), as_point(self._start))

    def _stretch(self, begin: float, end: float) -> Line:
        first, last = self._frames(np.array([begin, end])).points
        return Line(as_point(first), as_point(last))

    def segments(self) -> tuple[Segment, ...]:
        return (LineSegment(as_point(self._start), as_point(self._end)),)

"""A circular arc, kept exact: never stood in for by Beziers."""

from __future__ import annotations

import math

import numpy as np

from ulvent.core.base.arrays import Point, Points, Stations, turned_left
from ulvent.core.base.errors import CurveError
from ulvent.core.curves.curve import Curve, Frames
from ulvent.core.curves.segments import ArcSegment, Segment

FULL_TURN = 360.0


class CircularArc(Curve):
    """An arc round `centre`, from the angle `begin` through `sweep` degrees.

    Counter-clockwise sweeps are positive; a sweep of ±360° is a closed circle.
    """

    def __init__(self, centre: Point, radius: float, begin: float, sweep: float) -> None:
        if not all(math.isfinite(value) for value in (*centre, radius, begin, sweep)):
            raise CurveError("an arc needs finite figures")
        if radius <= 0.0:
            raise CurveError("the radius of an arc must be greater than 0")
        if not 0.0 < abs(sweep) <= FULL_TURN:
            raise CurveError("the sweep of an arc must be more than 0 and at most 360 degrees")
        self.centre = centre
        self.radius = radius
        self.begin = begin
        self.sweep = sweep
        self._turn = math.copysign(1.0, sweep)

    @classmethod
    def circle(cls, centre: Point, radius: float, begin: float, clockwise: bool) -> CircularArc:
        """A whole circle whose seam is at the angle `begin`."""
        return cls(centre, radius, begin, -FULL_TURN if clockwise else FULL_TURN)

    @property
    def length(self) -> float:
        return self.radius * math.radians(abs(self.sweep))

    @property
    def closed(self) -> bool:
        return abs(self.sweep) == FULL_TURN

    def _frames(self, stations: Stations) -> Frames:
        turned = self._turn * stations / self.radius
        angles = math.radians(self.begin) + turned
        outward = np.stack([np.cos(angles), np.sin(angles)], axis=1)
        return Frames(
            points=np.array(self.centre) + self.radius * outward,
            tangents=self._turn * turned_left(outward),
            curvatures=np.full(len(stations), self._turn / self.radius),
            turnings=turned,
        )

    def _reversed(self) -> CircularArc:
        return CircularArc(self.centre, self.radius, self.begin + self.sweep, -self.sweep)

    def segments(self) -> tuple[Segment, ...]:
        return (ArcSegment(self.centre, self.radius, self.begin, self.sweep),)

    def _stretch(self, begin: float, end: float) -> CircularArc:
        degrees = math.degrees(self._turn / self.radius)
        return CircularArc(
            self.centre, self.radius, self.begin + begin * degrees, (end - begin) * degrees
        )

    def _own_feet(self, points: Points) -> Stations:
        """By the angle at the centre; the nearer end where the foot is off an open arc."""
        away = points - np.array(self.centre)
        angles = np.arctan2(away[:, 1], away[:, 0])
        turned = np.mod(self._turn * (angles - math.radians(self.begin)), 2.0 * math.pi)
        stations: Stations = turned * self.radius
        off_end = stations > self.length
        whole = 2.0 * math.pi * self.radius
        nearer_start = whole - stations < stations - self.length
        return np.where(off_end, np.where(nearer_start, 0.0, self.length), stations)

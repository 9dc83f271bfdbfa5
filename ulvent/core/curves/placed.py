"""A curve scaled, turned and moved: a similarity, under which arc length only scales."""

from __future__ import annotations

import math
from functools import cached_property

import numpy as np
from numpy.typing import ArrayLike

from ulvent.core.base.arrays import Floats, Point, Points, Stations
from ulvent.core.curves.curve import Corners, Curve, Frames, Lap, at_corners
from ulvent.core.curves.feet import nearest
from ulvent.core.curves.section import stretch_of
from ulvent.core.curves.segments import ArcSegment, Segment, as_point


class Placed(Curve):
    """`base`, scaled by `scale` and turned by `turned` degrees about the origin, then moved."""

    def __init__(self, base: Curve, scale: float, turned: float, move: Point) -> None:
        self._base = base
        self._scale = scale
        self._degrees = turned
        self._move = np.array(move, dtype=float)
        angle = math.radians(turned)
        self._turn = np.array(
            [[math.cos(angle), -math.sin(angle)], [math.sin(angle), math.cos(angle)]]
        )

    @property
    def asked(self) -> tuple[Curve, ...]:
        return (self._base,)

    @property
    def length(self) -> float:
        return self._base.length * self._scale

    @property
    def closed(self) -> bool:
        return self._base.closed

    @cached_property
    def lap(self) -> Lap | None:
        lap = self._base.lap
        if lap is None:
            return None
        turn, move = complex(*self._turn[:, 0]), complex(*self._move)
        return Lap(lap.turn, self._scale * turn * lap.move + move - lap.turn * move)

    @property
    def corners(self) -> Corners:
        found = self._base.corners
        return Corners(found.stations * self._scale, found.turns)

    @property
    def bends(self) -> tuple[Floats, Floats]:
        stations, bends = self._base.bends
        return stations * self._scale, bends / self._scale

    def _frames(self, stations: Stations) -> Frames:
        inside = np.minimum(stations / self._scale, self._base.length)
        corners = self._base.corners.stations
        inside = at_corners(inside, stations, corners * self._scale, corners)
        at = self._base._frames(inside)
        return Frames(
            self._placed(at.points),
            at.tangents @ self._turn.T,
            at.curvatures / self._scale,
            at.turnings,
        )

    def _placed(self, points: Points) -> Floats:
        placed: Floats = self._scale * (points @ self._turn.T) + self._move
        return placed

    def unplaced(self, points: ArrayLike) -> Floats:
        """Where `points` (n, 2) lie on the untouched curve's own plane."""
        away = np.atleast_2d(np.asarray(points, dtype=float)) - self._move
        back: Floats = away @ self._turn / self._scale
        return back

    def _reversed(self) -> Curve:
        return Placed(self._base.reversed(), self._scale, self._degrees, as_point(self._move))

    def _stretch(self, begin: float, end: float) -> Curve:
        base = stretch_of(self._base, begin / self._scale, end / self._scale)
        return Placed(base, self._scale, self._degrees, as_point(self._move))

    def _own_feet(self, points: Points) -> Stations:
        return nearest(self._base, self.unplaced(points)) * self._scale

    def segments(self) -> tuple[Segment, ...]:
        return tuple(self._placed_segment(segment) for segment in self._base.segments())

    def _placed_segment(self, segment: Segment) -> Segment:
        if isinstance(segment, ArcSegment):
            return ArcSegment(
                as_point(self._placed(np.array([segment.centre]))[0]),
                segment.radius * self._scale,
                segment.begin + self._degrees,
                segment.sweep,
            )
        return type(segment)(*(as_point(point) for point in self._placed(np.array(segment))))

"""The one protocol that every curve obeys.

A curve is asked by *station*: the distance along it from its start, in mm.
Questions come as arrays and are answered as arrays, so that all letters of a
piece are placed in one call.

Terms
-----
tangent     unit vector in the direction of travel
normal      the tangent turned a quarter to the left
curvature   signed, 1/mm, positive where the curve turns left
turning     how far the tangent has turned since station 0, **radians**, counting
            whole turns and corners; it is what the length of a parallel needs

Stations outside `[0, length]` wrap on a closed curve. On an open one the curve
goes on straight along its end tangent, so that letters which have run off the
end still have a place that can be shown.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import ArrayLike

from ulvent.core.base.arrays import Floats, turned_left
from ulvent.core.curves.segments import Segment

if TYPE_CHECKING:
    from ulvent.core.curves.feet import Feet
    from ulvent.core.curves.parallel import Parallel


@dataclass(frozen=True)
class Frames:
    """Where a curve is, and how it lies, at `n` stations.

    points, tangents : (n, 2); curvatures, turnings : (n,)
    """

    points: Floats
    tangents: Floats
    curvatures: Floats
    turnings: Floats

    @property
    def normals(self) -> Floats:
        """Unit vectors to the left of travel, (n, 2)."""
        return turned_left(self.tangents)


@dataclass(frozen=True)
class Corners:
    """Where the tangent of a curve jumps: stations, mm, and turns, radians, (k,)."""

    stations: Floats
    turns: Floats

    @classmethod
    def none(cls) -> Corners:
        return cls(np.empty(0), np.empty(0))


class Curve(ABC):
    """A plane curve by arc length. Immutable."""

    @property
    @abstractmethod
    def length(self) -> float:
        """Length, mm."""

    @property
    @abstractmethod
    def closed(self) -> bool:
        """Whether the end meets the start, so that stations wrap."""

    @abstractmethod
    def _frames(self, stations: Floats) -> Frames:
        """Frames at stations that are known to lie in `[0, length]`."""

    @abstractmethod
    def _reversed(self) -> Curve:
        """The same line travelled the other way, made anew."""

    @abstractmethod
    def segments(self) -> tuple[Segment, ...]:
        """The line as exact segments, in order of travel, for drawing and writing."""

    @property
    def corners(self) -> Corners:
        """Corners strictly inside the curve; see `seam_turn` for a closed one's seam."""
        return Corners.none()

    def reversed(self) -> Curve:
        """The same line travelled the other way."""
        return self._backwards

    @cached_property
    def _backwards(self) -> Curve:
        return self._reversed()

    def frames(self, stations: ArrayLike) -> Frames:
        """Points, tangents, curvatures and turnings at `stations` (n,), mm."""
        asked = np.atleast_1d(np.asarray(stations, dtype=float))
        if self.closed:
            laps = np.floor(asked / self.length)
            inside = np.clip(asked - laps * self.length, 0.0, self.length)
            found = self._frames(inside)
            turnings = found.turnings + laps * self.total_turning
            return Frames(found.points, found.tangents, found.curvatures, turnings)
        inside = np.minimum(np.maximum(asked, 0.0), self.length)
        found = self._frames(inside)
        beyond = asked - inside
        if not beyond.any():
            return found
        points = found.points + beyond[:, None] * found.tangents
        curvatures = np.where(beyond == 0.0, found.curvatures, 0.0)
        return Frames(points, found.tangents, curvatures, found.turnings)

    def points(self, stations: ArrayLike) -> Floats:
        """Points at `stations`, (n, 2), mm."""
        return self.frames(stations).points

    def tangents(self, stations: ArrayLike) -> Floats:
        """Unit tangents at `stations`, (n, 2)."""
        return self.frames(stations).tangents

    def curvatures(self, stations: ArrayLike) -> Floats:
        """Signed curvatures at `stations`, (n,), 1/mm."""
        return self.frames(stations).curvatures

    def turnings(self, stations: ArrayLike) -> Floats:
        """Radians turned since station 0, (n,)."""
        return self.frames(stations).turnings

    @cached_property
    def seam_turn(self) -> float:
        """Radians by which the tangent jumps at the seam; 0 on an open curve."""
        if not self.closed:
            return 0.0
        ends = self._frames(np.array([0.0, self.length]))
        (sx, sy), (ex, ey) = ends.tangents
        return float(np.arctan2(ex * sy - ey * sx, ex * sx + ey * sy))

    @cached_property
    def total_turning(self) -> float:
        """Radians turned over the whole curve, a closed one's seam included."""
        return float(self._frames(np.array([self.length])).turnings[0]) + self.seam_turn

    @cached_property
    def samples(self) -> tuple[Floats, Floats]:
        """Stations (k,) and points (k, 2), dense enough to find where the curve reaches out.

        Stations may be rough: they are where to begin to look.
        """
        stations = np.linspace(0.0, self.length, 401)
        return stations, self._frames(stations).points

    @cached_property
    def bends(self) -> tuple[Floats, Floats]:
        """Stations and curvatures, dense enough to find the sharpest bends, (k,) each."""
        stations = np.linspace(0.0, self.length, 257)
        return stations, self._frames(stations).curvatures

    def section(self, begin: float, end: float) -> Curve:
        """The open stretch from station `begin` to `end`, past the seam of a closed curve too.

        Raises
        ------
        CurveError
            Unless begin < end, both on the curve, and at most one lap apart.
        """
        from ulvent.core.curves.section import section_of

        return section_of(self, begin, end)

    def _section(self, begin: float, end: float) -> Curve:
        """A stretch inside `[0, length]`. Kinds whose stretches are of their own kind say so."""
        from ulvent.core.curves.section import Section

        return Section(self, begin, end)

    def started_at(self, station: float) -> Curve:
        """A closed curve with its seam moved to `station`."""
        from ulvent.core.curves.section import started_at

        return started_at(self, station)

    def parallel(self, distance: float) -> Parallel:
        """The parallel at `distance` mm, positive to the left.

        Raises
        ------
        CurveError
            Where the curve bends more tightly than the distance allows.
        """
        from ulvent.core.curves.parallel import parallel_of

        return parallel_of(self, distance)

    def nearest(self, points: ArrayLike) -> Floats:
        """Stations (n,) whose points lie nearest to `points` (n, 2). See `foot` for how."""
        return self._feet.nearest(np.atleast_2d(np.asarray(points, dtype=float)))

    @cached_property
    def _feet(self) -> Feet:
        from ulvent.core.curves.feet import Feet

        return Feet(self)

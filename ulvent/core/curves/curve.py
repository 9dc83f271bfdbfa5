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
end still have a place that can be shown. A curve on the side of a round part is
closed on the part and not in the plane that the side is laid flat in: each lap of
it lies where its `lap` carries the one before.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import ArrayLike

from ulvent.core.base.arrays import (
    Bends,
    Matrices,
    Millimetres,
    Points,
    Radians,
    Stations,
    Turns,
    Vectors,
    turned_left,
)
from ulvent.core.curves.segments import Segment


@dataclass(frozen=True)
class Frames:
    """Where a curve is, and how it lies, at `n` stations.

    points, tangents : (n, 2); curvatures, turnings : (n,)
    """

    points: Points
    tangents: Vectors
    curvatures: Bends
    turnings: Turns

    @property
    def normals(self) -> Vectors:
        """Unit vectors to the left of travel, (n, 2)."""
        return turned_left(self.tangents)


@dataclass(frozen=True)
class Lap:
    """A turn, as a complex number of length one, and then a move, mm: where the next lap lies."""

    turn: complex
    move: complex

    @property
    def matrix(self) -> Matrices:
        """The same as an affine map (2, 3)."""
        turn, move = self.turn, self.move
        return np.array([[turn.real, -turn.imag, move.real], [turn.imag, turn.real, move.imag]])

    @property
    def back(self) -> Lap:
        """The way back to the lap before."""
        turn = self.turn.conjugate()
        return Lap(turn, -turn * self.move)

    def carried(self, found: Frames, laps: Stations) -> Frames:
        """Frames (n,) of the first lap, each carried on by whole `laps` (n,)."""
        turns = self.turn**laps
        if self.turn == 1.0:
            moves = self.move * laps
        else:
            centre = self.move / (1.0 - self.turn)
            moves = centre * (1.0 - turns)
        points = _pairs(_complex(found.points) * turns + moves)
        tangents = _pairs(_complex(found.tangents) * turns)
        return Frames(points, tangents, found.curvatures, found.turnings)


def _complex(vectors: Vectors) -> Any:
    return vectors[:, 0] + 1j * vectors[:, 1]


def _pairs(numbers: Any) -> Vectors:
    return np.stack([numbers.real, numbers.imag], axis=1)


@dataclass(frozen=True)
class Corners:
    """Where the tangent of a curve jumps: stations, mm, and turns, radians, (k,)."""

    stations: Stations
    turns: Turns

    @classmethod
    def none(cls) -> Corners:
        return cls(np.empty(0), np.empty(0))


def at_corners(carried: Stations, stations: Stations, here: Stations, there: Stations) -> Stations:
    """Stations carried over from one curve to another that has the same corners.

    What is exactly at a corner `here` stays exactly at it `there`: rounding would put it before
    the corner, where the tangent is another one.
    """
    if not len(here):
        return carried
    which = np.minimum(np.searchsorted(here, stations), len(here) - 1)
    return np.where(here[which] == stations, there[which], carried)


class Curve(ABC):
    """A plane curve by arc length. Immutable."""

    @property
    @abstractmethod
    def length(self) -> Millimetres:
        """Length, mm."""

    @property
    @abstractmethod
    def closed(self) -> bool:
        """Whether the end meets the start, so that stations wrap."""

    @abstractmethod
    def _frames(self, stations: Stations) -> Frames:
        """Frames at stations that are known to lie in `[0, length]`."""

    @abstractmethod
    def _reversed(self) -> Curve:
        """The same line travelled the other way, made anew."""

    @abstractmethod
    def segments(self) -> tuple[Segment, ...]:
        """The line as exact segments, in order of travel, for drawing and writing."""

    @property
    def asked(self) -> tuple[Curve, ...]:
        """The curves that it asks for its own points; none where it knows them."""
        return ()

    @property
    def lap(self) -> Lap | None:
        """Where a closed curve's next lap lies; none where it lies on the first."""
        return None

    @property
    def encloses(self) -> bool:
        """Whether it goes round an area of the plane; what is closed on a part only does not."""
        return self.closed and self.lap is None

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
            lap = self.lap
            if lap is not None and laps.any():
                found = lap.carried(found, laps)
            return Frames(found.points, found.tangents, found.curvatures, turnings)
        inside = np.minimum(np.maximum(asked, 0.0), self.length)
        found = self._frames(inside)
        beyond = asked - inside
        if not beyond.any():
            return found
        points = found.points + beyond[:, None] * found.tangents
        curvatures = np.where(beyond == 0.0, found.curvatures, 0.0)
        return Frames(points, found.tangents, curvatures, found.turnings)

    def points(self, stations: ArrayLike) -> Points:
        """Points at `stations`, (n, 2), mm."""
        return self.frames(stations).points

    def tangents(self, stations: ArrayLike) -> Vectors:
        """Unit tangents at `stations`, (n, 2)."""
        return self.frames(stations).tangents

    def curvatures(self, stations: ArrayLike) -> Bends:
        """Signed curvatures at `stations`, (n,), 1/mm."""
        return self.frames(stations).curvatures

    def turnings(self, stations: ArrayLike) -> Turns:
        """Radians turned since station 0, (n,)."""
        return self.frames(stations).turnings

    @cached_property
    def seam_turn(self) -> Radians:
        """Radians by which the tangent jumps at the seam; 0 on an open curve."""
        if not self.closed:
            return 0.0
        (sx, sy), (ex, ey) = self._frames(np.array([0.0, self.length])).tangents
        if self.lap is not None:
            start = complex(sx, sy) * self.lap.turn
            sx, sy = start.real, start.imag
        return float(np.arctan2(ex * sy - ey * sx, ex * sx + ey * sy))

    @cached_property
    def total_turning(self) -> Radians:
        """Radians turned over the whole curve, a closed one's seam included."""
        return float(self._frames(np.array([self.length])).turnings[0]) + self.seam_turn

    @cached_property
    def samples(self) -> tuple[Stations, Points]:
        """Stations (k,) and points (k, 2), dense enough to find where the curve reaches out.

        Stations may be rough: they are where to begin to look.
        """
        stations = np.linspace(0.0, self.length, 401)
        return stations, self._frames(stations).points

    @cached_property
    def bends(self) -> tuple[Stations, Bends]:
        """Stations and curvatures, dense enough to find the sharpest bends, (k,) each."""
        stations = np.linspace(0.0, self.length, 257)
        return stations, self._frames(stations).curvatures

    def _stretch(self, begin: Millimetres, end: Millimetres) -> Curve | None:
        """A stretch inside `[0, length]`, by kinds whose stretches are of their own kind.

        Others say nothing: a `Section` does for them.
        """
        return None

    def _own_feet(self, points: Points) -> Stations | None:
        """Nearest stations (n,) to points (n, 2), by kinds that know them in closed form.

        Others say nothing: `feet` searches for them.
        """
        return None

    @cached_property
    def notes(self) -> dict[str, Any]:
        """What others have worked out of the curve and want to find again, by their names."""
        return {}

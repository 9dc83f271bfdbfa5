"""The parallel of a curve at a distance, exact.

A parallel is not stored as points: it is its base, asked at the foot station
and moved along the normal. Its length up to a foot station s is

    σ(s) = s − d · turning(s)

which is what carries stations from a guide to the line that letters stand on.
At a corner that opens on the side of the parallel, an arc round the corner
joins the two sides; at one that closes, both sides are cut at their crossing.

Where the base bends more tightly than the distance the parallel would run
backwards and cross itself; the loop is cut off at its crossing (`trimmed`).
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ulvent.core.base.arrays import Floats, Integers, Millimetres, Stations, rotated, turned_left
from ulvent.core.base.tolerances import ARC_LENGTH, CORNER
from ulvent.core.curves.curve import Corners, Curve, Frames, Lap
from ulvent.core.curves.fitted import fitted_segments
from ulvent.core.curves.segments import Segment

_MOST_ROUNDS = 64
TRACED = 64
"""Corners from which on a closed line counts as traced: its parallel is not sought corner by
corner."""


@dataclass(frozen=True)
class Span:
    """A stretch of the base that the parallel follows, or a corner it goes round.

    On a corner `begin` equals `end`; the tangent turns by `turn` of the corner's whole
    `jump`, both radians, after the `skip` that is left out.
    """

    begin: float
    end: float
    turn: float = 0.0
    jump: float = 0.0
    skip: float = 0.0

    @classmethod
    def whole_corner(cls, station: float, jump: float) -> Span:
        return cls(station, station, jump, jump)


class Parallel(Curve):
    """The parallel of `base` at `distance` mm to its left. Made by `parallel_of`."""

    def __init__(self, base: Curve, distance: float, spans: list[Span]) -> None:
        self.base = base
        self.distance = distance
        self._spans = tuple(spans)
        self._begins = np.array([span.begin for span in spans])
        self._feet_ends = np.array([span.end for span in spans])
        self._turns = np.array([span.turn for span in spans])
        self._round = self._turns != 0.0
        # The curve after a corner is what it answers with there; before it, less the turn.
        at_seam = self._begins >= base.length
        jumps = np.array([span.jump for span in spans])
        skips = np.array([span.skip for span in spans])
        self._back = np.where(self._round & ~at_seam, jumps, 0.0) - skips
        along = self._feet_ends - self._begins
        if distance != 0.0:
            through = _turnings_before(base, self._feet_ends) - self._begin_turnings
            along = along - distance * through
        self._lengths = np.where(self._round, np.abs(distance * self._turns), along)
        self._ends = np.cumsum(self._lengths)
        self._starts = self._ends - self._lengths

    @cached_property
    def _at_begins(self) -> Frames:
        return self.base._frames(self._begins)

    @cached_property
    def _begin_tangents(self) -> Floats:
        return rotated(self._at_begins.tangents, -self._back)

    @cached_property
    def _begin_turnings(self) -> Floats:
        turnings: Floats = self._at_begins.turnings - self._back
        return turnings

    # ------------------------------------------------------------ the protocol

    @property
    def asked(self) -> tuple[Curve, ...]:
        return (self.base,)

    @property
    def length(self) -> float:
        return float(self._ends[-1])

    @property
    def closed(self) -> bool:
        return self.base.closed

    @property
    def lap(self) -> Lap | None:
        return self.base.lap

    def _reversed(self) -> Parallel:
        """The same spans the other way: nothing is searched for anew."""
        base = self.base.reversed()
        corners = base.corners.stations

        def mirrored(station: Millimetres) -> Millimetres:
            """At a corner exactly there, where rounding would be before it or behind it."""
            at = base.length - station
            near = corners[np.abs(corners - at) <= ARC_LENGTH * base.length]
            return float(near[0]) if len(near) else at

        spans = [
            Span(mirrored(span.end), mirrored(span.begin), -span.turn, -span.jump,
                 span.skip + span.turn - span.jump)
            for span in reversed(self._spans)
        ]  # fmt: skip
        return Parallel(base, -self.distance, spans)

    @property
    def corners(self) -> Corners:
        """Where two spans meet whose feet do not: the crossing at a closing corner."""
        if self.distance == 0.0:
            return self.base.corners
        jumps = self._jumps[:-1]
        sharp = np.abs(jumps) > CORNER
        return Corners(self._ends[:-1][sharp], jumps[sharp])

    @cached_property
    def _jumps(self) -> Floats:
        """Radians by which the tangent jumps from each span to the next, (spans,)."""
        ends = np.where(self._round, self._turns, 0.0) + self._begin_turnings
        ends = np.where(self._round, ends, _turnings_before(self.base, self._feet_ends))
        jumps: Floats = np.roll(self._begin_turnings, -1) - ends
        jumps[-1] = 0.0
        return jumps

    def _frames(self, stations: Stations) -> Frames:
        if self.distance == 0.0:
            return self.base._frames(stations)
        span, feet = self._span_and_feet(stations)
        at = self.base._frames(feet)
        tangents, turnings = at.tangents, at.turnings
        curvatures = at.curvatures / (1.0 - self.distance * at.curvatures)
        at_corner = self._round[span]
        if at_corner.any():
            # Round a corner the tangent turns evenly from one side to the other.
            turned = -(stations - self._starts[span]) / self.distance
            tangents = np.where(
                at_corner[:, None], rotated(self._begin_tangents[span], turned), tangents
            )
            turnings = np.where(at_corner, self._begin_turnings[span] + turned, turnings)
            curvatures = np.where(at_corner, -1.0 / self.distance, curvatures)
        normals = turned_left(tangents)
        points = at.points + self.distance * normals
        return Frames(points, tangents, curvatures, turnings - self._begin_turnings[0])

    @cached_property
    def bends(self) -> tuple[Floats, Floats]:
        if self.distance == 0.0:
            return self.base.bends
        at_base = self.base.bends[0]
        stations = np.unique(np.concatenate([self.carry(at_base), self._starts, self._ends]))
        stations = np.clip(stations, 0.0, self.length)
        return stations, self._frames(stations).curvatures

    def segments(self) -> tuple[Segment, ...]:
        return fitted_segments(self) if self.distance else self.base.segments()

    # ---------------------------------------------------------- foot and carry

    def foot(self, stations: Stations) -> Stations:
        """Stations on the base whose normals carry the given `stations`, (n,)."""
        if self.distance == 0.0:
            return stations
        if self.closed:
            laps = np.floor(stations / self.length)
            return self._span_and_feet(stations - laps * self.length)[1] + laps * self.base.length
        inside = np.clip(stations, 0.0, self.length)
        return self._span_and_feet(inside)[1] + (stations - inside)

    def carry(self, stations: Stations) -> Stations:
        """Stations here of what stands at `stations` (n,) on the base."""
        if self.distance == 0.0:
            return stations
        if self.closed:
            laps = np.floor(stations / self.base.length)
            inside = stations - laps * self.base.length
            beyond = laps * self.length
        else:
            inside = np.clip(stations, 0.0, self.base.length)
            beyond = stations - inside
        # The last span that begins at or before the station: after a corner, its far side.
        span = np.maximum(np.searchsorted(self._begins, inside, side="right") - 1, 0)
        kept = np.clip(inside, self._begins[span], self._feet_ends[span])
        turned = self.base._frames(kept).turnings - self._begin_turnings[span]
        along = (kept - self._begins[span]) - self.distance * turned
        along = np.where(self._round[span], self._lengths[span], along)
        carried: Floats = self._starts[span] + np.clip(along, 0.0, self._lengths[span]) + beyond
        return carried

    def _span_and_feet(self, stations: Stations) -> tuple[Integers, Floats]:
        """Span and foot of stations inside `[0, length]`; bracketed Newton on σ(s)."""
        span = np.searchsorted(self._ends[:-1], stations, side="right")
        begin, begin_turning = self._begins[span], self._begin_turnings[span]
        low, high = begin, self._feet_ends[span]
        wanted = stations - self._starts[span]
        goal = ARC_LENGTH * 1e-2 * self.length
        size = np.maximum(self._lengths[span], goal)
        feet = low + (high - low) * np.clip(wanted / size, 0.0, 1.0)
        for _ in range(_MOST_ROUNDS):
            at = self.base._frames(feet)
            miss = (feet - begin) - self.distance * (at.turnings - begin_turning) - wanted
            low = np.where(miss < 0.0, feet, low)
            high = np.where(miss >= 0.0, feet, high)
            settled = self._round[span] | (np.abs(miss) <= goal) | (high - low <= goal)
            if settled.all():
                break
            slope = 1.0 - self.distance * at.curvatures
            step = feet - miss / np.where(slope > 1e-6, slope, 1.0)
            inside = (step > low) & (step < high)
            feet = np.where(settled, feet, np.where(inside, step, (low + high) / 2.0))
        return span, feet


def _turnings_before(base: Curve, stations: Stations) -> Floats:
    """Turnings just before each station, the jump of a corner there left out."""
    corners = base.corners
    turnings = base._frames(stations).turnings
    if not len(corners.stations):
        return turnings
    index = np.minimum(np.searchsorted(corners.stations, stations), len(corners.stations) - 1)
    return turnings - np.where(corners.stations[index] == stations, corners.turns[index], 0.0)

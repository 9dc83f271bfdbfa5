"""The parallel of a curve at a distance, exact.

A parallel is not stored as points: it is its base, asked at the foot station
and moved along the normal. Its length up to a foot station s is

    σ(s) = s − d · turning(s)

which is what carries stations from a guide to the line that letters stand on.
At a corner that opens on the side of the parallel, an arc round the corner
joins the two sides; at one that closes, both sides are cut at their crossing.

Where the base bends more tightly than the distance the parallel would run
backwards; that is refused here, with the place.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ulvent.core.curves.curve import Corners, Curve, Floats, Frames
from ulvent.core.curves.segments import CubicSegment, Point, Segment
from ulvent.core.errors import CurveError
from ulvent.core.tolerances import ARC_LENGTH, CORNER, JOINT

_MOST_ROUNDS = 64


@dataclass(frozen=True)
class _Span:
    """A stretch of the base that the parallel follows, or a corner it goes round.

    On a corner `begin` equals `end`, and `turn` is what the tangent turns there.
    """

    begin: float
    end: float
    turn: float = 0.0


class Parallel(Curve):
    """The parallel of `base` at `distance` mm to its left. Made by `parallel_of`."""

    def __init__(self, base: Curve, distance: float, spans: list[_Span]) -> None:
        self.base = base
        self.distance = distance
        self._begins = np.array([span.begin for span in spans])
        self._feet_ends = np.array([span.end for span in spans])
        self._turns = np.array([span.turn for span in spans])
        self._round = self._turns != 0.0
        # The curve after a corner is what it answers with there; before it, less the turn.
        at_seam = self._begins >= base.length
        back = np.where(self._round & ~at_seam, self._turns, 0.0)
        begin = base._frames(self._begins)
        self._begin_tangents = _rotated(begin.tangents, -back)
        self._begin_turnings = begin.turnings - back
        through = _turnings_before(base, self._feet_ends) - self._begin_turnings
        along = (self._feet_ends - self._begins) - distance * through
        self._lengths = np.where(self._round, np.abs(distance * self._turns), along)
        self._ends = np.cumsum(self._lengths)
        self._starts = self._ends - self._lengths

    # ------------------------------------------------------------ the protocol

    @property
    def length(self) -> float:
        return float(self._ends[-1])

    @property
    def closed(self) -> bool:
        return self.base.closed

    def _reversed(self) -> Parallel:
        return parallel_of(self.base.reversed(), -self.distance)

    @property
    def corners(self) -> Corners:
        return Corners.none() if self.distance else self.base.corners

    def _frames(self, stations: Floats) -> Frames:
        if self.distance == 0.0:
            return self.base._frames(stations)
        span, feet = self._feet(stations)
        at = self.base._frames(feet)
        tangents, turnings = at.tangents, at.turnings
        curvatures = at.curvatures / (1.0 - self.distance * at.curvatures)
        at_corner = self._round[span]
        if at_corner.any():
            # Round a corner the tangent turns evenly from one side to the other.
            turned = -(stations - self._starts[span]) / self.distance
            tangents = np.where(
                at_corner[:, None], _rotated(self._begin_tangents[span], turned), tangents
            )
            turnings = np.where(at_corner, self._begin_turnings[span] + turned, turnings)
            curvatures = np.where(at_corner, -1.0 / self.distance, curvatures)
        normals = np.stack([-tangents[:, 1], tangents[:, 0]], axis=1)
        points = at.points + self.distance * normals
        return Frames(points, tangents, curvatures, turnings - self._begin_turnings[0])

    def segments(self) -> tuple[Segment, ...]:
        """Cubics with the true end points and tangents, at least eight to a quarter turn.

        For drawing on a screen; nothing that is cut is made from them.
        """
        if self.distance == 0.0:
            return self.base.segments()
        found: list[Segment] = []
        for begin, end in zip(self._starts, self._ends, strict=True):
            if end - begin > JOINT:
                inset = (end - begin) * ARC_LENGTH
                sampled = self._frames(np.linspace(begin + inset, end - inset, 65))
                turned = float(np.abs(np.diff(sampled.turnings)).sum())
                count = max(1, math.ceil(turned / (math.pi / 16.0)))
                found.extend(self._cubics(np.linspace(begin + inset, end - inset, count + 1)))
        return tuple(found)

    def _cubics(self, stations: Floats) -> list[Segment]:
        at = self._frames(stations)
        thirds = np.diff(stations)[:, None] / 3.0
        first = at.points[:-1] + thirds * at.tangents[:-1]
        second = at.points[1:] - thirds * at.tangents[1:]
        return [
            CubicSegment(_pair(a), _pair(b), _pair(c), _pair(d))
            for a, b, c, d in zip(at.points[:-1], first, second, at.points[1:], strict=True)
        ]

    # ---------------------------------------------------------- foot and carry

    def foot(self, stations: Floats) -> Floats:
        """Stations on the base whose normals carry the given `stations`, (n,)."""
        if self.distance == 0.0:
            return stations
        if self.closed:
            laps = np.floor(stations / self.length)
            return self._feet(stations - laps * self.length)[1] + laps * self.base.length
        inside = np.clip(stations, 0.0, self.length)
        return self._feet(inside)[1] + (stations - inside)

    def carry(self, stations: Floats) -> Floats:
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

    def _feet(self, stations: Floats) -> tuple[NDArray[np.intp], Floats]:
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


# ---------------------------------------------------------- making the spans


@lru_cache(maxsize=256)
def parallel_of(base: Curve, distance: float) -> Parallel:
    """The parallel of `base`; see `Curve.parallel`. Remembered, since tables are dear."""
    if distance == 0.0:
        return Parallel(base, 0.0, [_Span(0.0, base.length)])
    _refuse_tight_bends(base, distance)
    return Parallel(base, distance, _spans(base, distance))


def _refuse_tight_bends(base: Curve, distance: float) -> None:
    stations, bends = base.bends
    bent = distance * bends
    worst = int(bent.argmax())
    if bent[worst] >= 1.0:
        side = "left" if distance > 0.0 else "right"
        raise CurveError(
            f"no parallel {abs(distance):g} mm to the {side}: the guide bends to a radius of "
            f"{1.0 / abs(bends[worst]):.3g} mm at station {stations[worst]:.4g}"
        )


def _spans(base: Curve, distance: float) -> list[_Span]:
    corners = base.corners
    bounds = [0.0, *corners.stations.tolist(), base.length]
    begins, ends = bounds[:-1], bounds[1:]
    joints = [(index, index + 1, turn) for index, turn in enumerate(corners.turns.tolist())]
    if base.closed and abs(base.seam_turn) > CORNER:
        joints.append((len(begins) - 1, 0, base.seam_turn))
    straight = _straight_sides(base, bounds)
    going_round: dict[int, _Span] = {}
    for before, after, turn in joints:
        if turn * distance < 0.0:
            going_round[before] = _Span(ends[before], ends[before], turn)
            continue
        reach = abs(distance * math.tan(turn / 2.0))
        feet = (bounds[before + 1] - reach, bounds[after] + reach)
        if not (straight[before] and straight[after]):
            feet = _crossing(base, distance, feet)
        ends[before], begins[after] = feet
    spans: list[_Span] = []
    for index, (begin, end) in enumerate(zip(begins, ends, strict=True)):
        if end <= begin:
            raise CurveError(
                f"no parallel {abs(distance):g} mm away: the guide is too short between "
                f"stations {bounds[index]:.4g} and {bounds[index + 1]:.4g}"
            )
        spans.append(_Span(begin, end))
        if index in going_round:
            spans.append(going_round[index])
    return spans


def _straight_sides(base: Curve, bounds: list[float]) -> NDArray[np.bool_]:
    """Whether the base is straight between each two neighbouring bounds."""
    edges = np.array(bounds)
    shares = np.linspace(0.01, 0.99, 9)
    stations = edges[:-1, None] + np.diff(edges)[:, None] * shares
    bends = np.abs(base.frames(stations.ravel()).curvatures).reshape(stations.shape)
    straight: NDArray[np.bool_] = bends.max(axis=1) * base.length <= CORNER
    return straight


def _crossing(base: Curve, distance: float, guess: tuple[float, float]) -> tuple[float, float]:
    """Foot stations at which the parallels on both sides of a closing corner cross.

    Newton's method in two unknowns, from the feet that straight sides would have.
    """
    first, second = guess
    for _ in range(_MOST_ROUNDS):
        if not (math.isfinite(first + second) and min(first, second) >= 0.0):
            break
        if max(first, second) > base.length:
            break
        one, two = base._frames(np.array([first])), base._frames(np.array([second]))
        apart = (two.points + distance * two.normals - one.points - distance * one.normals)[0]
        if math.hypot(*apart) <= JOINT * 1e-3:
            return first, second
        u = one.tangents[0] * (1.0 - distance * one.curvatures[0])
        v = two.tangents[0] * (1.0 - distance * two.curvatures[0])
        determinant = u[1] * v[0] - u[0] * v[1]
        if determinant == 0.0:
            break
        first += (v[0] * apart[1] - v[1] * apart[0]) / determinant
        second += (u[0] * apart[1] - u[1] * apart[0]) / determinant
    raise CurveError(
        f"no parallel {abs(distance):g} mm away: it falls apart at the corner near station "
        f"{guess[0]:.4g}"
    )


def _turnings_before(base: Curve, stations: Floats) -> Floats:
    """Turnings just before each station, the jump of a corner there left out."""
    corners = base.corners
    turnings = base._frames(stations).turnings
    if not len(corners.stations):
        return turnings
    index = np.minimum(np.searchsorted(corners.stations, stations), len(corners.stations) - 1)
    return turnings - np.where(corners.stations[index] == stations, corners.turns[index], 0.0)


def _rotated(vectors: Floats, angles: Floats) -> Floats:
    cos, sin = np.cos(angles), np.sin(angles)
    x, y = vectors.T
    return np.stack([x * cos - y * sin, x * sin + y * cos], axis=1)


def _pair(point: Floats) -> Point:
    return (float(point[0]), float(point[1]))

"""A path of Bezier segments by exact arc length.

Lines and quadratics are raised to cubics, which changes nothing about the
curve, so that one set of arrays holds the whole path and every question is one
vectorised pass over it.

Arc length has no closed form. The parameter range of each segment is split into
*panels* until 12-point Gauss-Legendre over a panel equals the sum over its
halves; splitting goes on at cusps until the rest no longer matters. The inverse
is Halley's method inside a bracket, for all stations at once.

Points are complex numbers inside this module: a product with a conjugate then
gives dot and cross product together.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ulvent.core.curves.curve import Corners, Curve, Floats, Frames
from ulvent.core.curves.segments import (
    CubicSegment,
    LineSegment,
    QuadraticSegment,
    Segment,
)
from ulvent.core.errors import CurveError
from ulvent.core.tolerances import CORNER, JOINT, QUADRATURE

Complexes = NDArray[np.complex128]
Integers = NDArray[np.intp]
Motion = tuple[Complexes, Complexes]
"""First and second derivatives by the parameter."""
BezierSegment = LineSegment | QuadraticSegment | CubicSegment

_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(12)
_NODES = (_NODES + 1.0) / 2.0
_WEIGHTS = _WEIGHTS / 2.0

_BEND_SAMPLES = 17
_FIRST_PARTS = 4
_MOST_HALVINGS = 48
_MOST_ROUNDS = 64
_PANEL_TURN = 1.0
"""A panel turns by at most this many radians a half, so that turnings add up."""
_LAST = 1.0 - 1e-6
"""From this parameter on, a direction that is a limit is taken from before, not from after."""
_NEAR = 3e-4
"""A miss of this share of a panel is cubed away by one more step."""
_STEADY = 1e-2
"""Speed, of a panel's mean, above which that holds."""
_SLOWEST = 1e-90
"""Speeds are held above this where they divide; its cube is still a number."""
_STILL = 1e-9
"""Speed, relative to a segment's size, below which its direction is a limit."""


class _Panels(NamedTuple):
    """Parameter ranges `begin`..`end` of segments `which`, each with its length."""

    which: Integers
    begin: Floats
    end: Floats
    lengths: Floats


class BezierPath(Curve):
    """Line, quadratic and cubic segments, joined end to end.

    Parameters
    ----------
    segments
        In order of travel; each starts where the last one ended, within `JOINT`.
        Segments without length are dropped.
    closed
        Whether the end joins the start. The two must then coincide.
    """

    def __init__(self, segments: Sequence[BezierSegment], closed: bool = False) -> None:
        kept = [segment for segment in segments if _extent(segment) > 0.0]
        if not kept:
            raise CurveError("the path has no length")
        self._segments = tuple(kept)
        self._closed = closed
        controls = np.array([_as_cubic(segment) for segment in kept])
        if not np.isfinite(controls).all():
            raise CurveError("the path has a coordinate that is not a finite number")
        _check_joints(controls, closed)
        self._origins = controls[:, 0]
        self._scale = np.abs(controls - controls[:, :1]).max(axis=1)
        first, second, third = np.diff(controls, axis=1).T
        # The derivative as a polynomial in t: rates[:, 0] + rates[:, 1] t + rates[:, 2] t².
        self._rates = np.stack(
            [3.0 * first, 6.0 * (second - first), 3.0 * (third - 2.0 * second + first)], axis=1
        )

    # ------------------------------------------------------------ the protocol

    @property
    def length(self) -> float:
        return float(self._ends[-1])

    @property
    def closed(self) -> bool:
        return self._closed

    def _reversed(self) -> BezierPath:
        backwards = [_turned_back(segment) for segment in reversed(self._segments)]
        return BezierPath(backwards, self._closed)

    def segments(self) -> tuple[Segment, ...]:
        return self._segments

    @property
    def corners(self) -> Corners:
        sharp = np.abs(self._jumps) > CORNER
        return Corners(self._ends[:-1][sharp], self._jumps[sharp])

    def _frames(self, stations: Floats) -> Frames:
        panel, t = self._parameters(stations)
        which = self._panels.which[panel]
        d0, d1, d2 = self._rates[which].T
        points = self._origins[which] + t * (d0 + t * (d1 / 2.0 + t * (d2 / 3.0)))
        motion = (d0 + t * (d1 + t * d2), d1 + 2.0 * t * d2)
        tangents = self._direction(which, motion, forward=t < _LAST)
        since = np.angle(tangents * np.conj(self._start_directions[panel]))
        return Frames(
            points=_as_pairs(points),
            tangents=_as_pairs(tangents),
            curvatures=self._curvature(which, t, motion),
            turnings=self._start_turnings[panel] + since,
        )

    # -------------------------------------------------------------- evaluation

    def _motion(self, which: Integers, t: Floats) -> Motion:
        """First and second derivatives by the parameter."""
        d0, d1, d2 = self._rates[which].T
        bent = t * d2
        return d0 + t * (d1 + bent), d1 + 2.0 * bent

    def _direction(self, which: Integers, motion: Motion, forward: NDArray[np.bool_]) -> Complexes:
        """Unit tangents; where the speed is nil, the limit from the side of travel."""
        velocity, second = motion
        speed = np.abs(velocity)
        still = speed <= _STILL * self._scale[which]
        if still.any():
            limit = np.where(forward, second, -second)
            second_still = np.abs(second) <= _STILL * self._scale[which]
            limit = np.where(second_still, self._rates[which, 2], limit)
            velocity = np.where(still, limit, velocity)
            speed = np.abs(velocity)
        return velocity / speed

    def _direction_at(self, which: Integers, t: Floats, forward: bool) -> Complexes:
        """The same at parameters, all from one side."""
        return self._direction(which, self._motion(which, t), np.full(len(t), forward))

    def _curvature(self, which: Integers, t: Floats, motion: Motion) -> Floats:
        velocity, second = motion
        speed = np.abs(velocity)
        still = speed <= _STILL * self._scale[which]
        if still.any():
            # At a cusp or a zero handle the quotient is 0/0: look just beside it.
            beside = np.where(still, t + np.where(t < 0.5, 1e-5, -1e-5), t)
            velocity, second = self._motion(which, beside)
            speed = np.maximum(np.abs(velocity), _SLOWEST)
        curvature: Floats = (np.conj(velocity) * second).imag / speed**3
        return curvature

    def _integral(self, which: Integers, begin: Floats, end: Floats) -> Floats:
        """Length of each segment `which` from parameter `begin` to `end`."""
        span = end - begin
        t = begin[:, None] + span[:, None] * _NODES
        d0, d1, d2 = self._rates[which].T[:, :, None]
        lengths: Floats = span * (np.abs(d0 + t * (d1 + t * d2)) @ _WEIGHTS)
        return lengths

    # ------------------------------------------------------------------ tables

    @cached_property
    def bends(self) -> tuple[Floats, Floats]:
        panels = self._panels
        shares = np.linspace(0.0, 1.0, _BEND_SAMPLES)
        t = panels.begin[:, None] + (panels.end - panels.begin)[:, None] * shares
        which = np.repeat(panels.which, _BEND_SAMPLES)
        flat = t.ravel()
        bends = self._curvature(which, flat, self._motion(which, flat))
        stations = self._starts[:, None] + panels.lengths[:, None] * shares
        return stations.ravel(), bends

    @cached_property
    def _panels(self) -> _Panels:
        count = len(self._segments)
        # Panels of an eighth at most let the inverse start so close that one step does.
        which = np.repeat(np.arange(count), _FIRST_PARTS)
        shares = np.arange(_FIRST_PARTS + 1) / _FIRST_PARTS
        begin, end = np.tile(shares[:-1], count), np.tile(shares[1:], count)
        whole = self._integral(which, begin, end)
        target = QUADRATURE * float(whole.sum()) / count
        parts: list[_Panels] = []
        for halving in range(_MOST_HALVINGS + 1):
            middle = (begin + end) / 2.0
            left = self._integral(which, begin, middle)
            right = self._integral(which, middle, end)
            good = np.abs(left + right - whole) <= target
            good &= self._turns_little(which, begin, middle, end) | (left + right <= target)
            if halving == _MOST_HALVINGS:
                good[:] = True
            # The halves are what is kept: their lengths are known already.
            parts.append(_Panels(which[good], begin[good], middle[good], left[good]))
            parts.append(_Panels(which[good], middle[good], end[good], right[good]))
            bad = ~good
            if not bad.any():
                break
            which = np.repeat(which[bad], 2)
            whole = np.stack([left[bad], right[bad]], axis=1).ravel()
            begin, end = (
                np.stack([begin[bad], middle[bad]], axis=1).ravel(),
                np.stack([middle[bad], end[bad]], axis=1).ravel(),
            )
        which, begin, end, lengths = (
            np.concatenate([getattr(part, name) for part in parts]) for name in _Panels._fields
        )
        order = np.lexsort((begin, which))
        return _Panels(which[order], begin[order], end[order], lengths[order])

    def _turns_little(
        self, which: Integers, begin: Floats, middle: Floats, end: Floats
    ) -> NDArray[np.bool_]:
        start = self._direction_at(which, begin, forward=True)
        halfway = self._direction_at(which, middle, forward=True)
        finish = self._direction_at(which, end, forward=False)
        first = np.abs(np.angle(halfway * np.conj(start)))
        second = np.abs(np.angle(finish * np.conj(halfway)))
        little: NDArray[np.bool_] = np.maximum(first, second) <= _PANEL_TURN
        return little

    @cached_property
    def _ends(self) -> Floats:
        """Stations at which the panels end, (panels,)."""
        return np.cumsum(self._panels.lengths)

    @cached_property
    def _starts(self) -> Floats:
        return np.concatenate([[0.0], self._ends[:-1]])

    @cached_property
    def _start_directions(self) -> Complexes:
        panels = self._panels
        return self._direction_at(panels.which, panels.begin, forward=True)

    @cached_property
    def _end_directions(self) -> Complexes:
        panels = self._panels
        return self._direction_at(panels.which, panels.end, forward=False)

    @cached_property
    def _jumps(self) -> Floats:
        """Radians by which the tangent jumps at the end of each panel but the last."""
        jumps: Floats = np.angle(self._start_directions[1:] * np.conj(self._end_directions[:-1]))
        return jumps

    @cached_property
    def _start_turnings(self) -> Floats:
        inside = np.angle(self._end_directions * np.conj(self._start_directions))
        return np.concatenate([[0.0], np.cumsum(inside[:-1] + self._jumps)])

    # ----------------------------------------------------------------- inverse

    def _parameters(self, stations: Floats) -> tuple[Integers, Floats]:
        """The panel and the parameter of each station."""
        panels = self._panels
        panel = np.searchsorted(self._ends[:-1], stations, side="right")
        which, begin, lengths = panels.which[panel], panels.begin[panel], panels.lengths[panel]
        low, high = begin, panels.end[panel]
        wanted = np.minimum(np.maximum(stations - self._starts[panel], 0.0), lengths)
        goal = QUADRATURE * self.length
        t = self._first_guess(panel, wanted)
        for _ in range(_MOST_ROUNDS):
            miss = self._integral(which, begin, t) - wanted
            off = np.abs(miss)
            if (off <= goal).all():
                break
            low = np.where(miss < 0.0, t, low)
            high = np.where(miss >= 0.0, t, high)
            velocity, second = self._motion(which, t)
            speed = np.maximum(np.abs(velocity), _SLOWEST)
            # Halley's method: Newton's step, bent by how the speed changes along it.
            bend = miss * (np.conj(velocity) * second).real / (2.0 * speed**3)
            step = t - miss / (speed * np.where(np.abs(bend) < 0.5, 1.0 - bend, 1.0))
            inside = (step > low) & (step < high)
            moved = np.where(inside, step, (low + high) / 2.0)
            t = np.where(off <= goal, t, moved)
            steady = inside & (speed >= _STEADY * self._mean_speeds[panel])
            if ((off <= goal) | (steady & (off <= _NEAR * lengths))).all():
                break
        return panel, t

    def _first_guess(self, panel: Integers, wanted: Floats) -> Floats:
        """Cubic Hermite interpolation of the parameter over arc length, kept monotone."""
        panels = self._panels
        begin, span = panels.begin[panel], panels.end[panel] - panels.begin[panel]
        x = wanted / panels.lengths[panel]
        rise, fall = self._end_slopes[0][panel], self._end_slopes[1][panel]
        share = x * (rise + x * ((3.0 - 2.0 * rise - fall) + x * (rise + fall - 2.0)))
        return begin + span * np.minimum(np.maximum(share, 0.0), 1.0)

    @cached_property
    def _mean_speeds(self) -> Floats:
        panels = self._panels
        return panels.lengths / (panels.end - panels.begin)

    @cached_property
    def _end_slopes(self) -> tuple[Floats, Floats]:
        """Slopes of parameter over length at both ends of each panel, both scaled to 1."""
        panels, mean = self._panels, self._mean_speeds
        speeds = (np.abs(self._motion(panels.which, t)[0]) for t in (panels.begin, panels.end))
        first, last = (np.minimum(mean / np.maximum(s, mean / 3.0), 3.0) for s in speeds)
        return first, last


# ------------------------------------------------------------------- helpers


def _complexes(segment: BezierSegment) -> list[complex]:
    return [complex(x, y) for x, y in segment]


def _extent(segment: BezierSegment) -> float:
    points = _complexes(segment)
    return max(abs(point - points[0]) for point in points)


def _as_cubic(segment: BezierSegment) -> list[complex]:
    points = _complexes(segment)
    if len(points) == 2:
        a, b = points
        return [a, a + (b - a) / 3.0, a + 2.0 * (b - a) / 3.0, b]
    if len(points) == 3:
        a, control, b = points
        return [a, a + 2.0 * (control - a) / 3.0, b + 2.0 * (control - b) / 3.0, b]
    return points


def _turned_back(segment: BezierSegment) -> BezierSegment:
    return type(segment)(*reversed(segment))


def _check_joints(controls: Complexes, closed: bool) -> None:
    starts, ends = controls[:, 0], controls[:, 3]
    gaps = np.abs(starts[1:] - ends[:-1])
    if (gaps > JOINT).any():
        raise CurveError(
            f"segment {int(gaps.argmax()) + 1} does not start where the last one ended"
        )
    if closed and abs(ends[-1] - starts[0]) > JOINT:
        raise CurveError("a closed path must end where it starts")


def _as_pairs(points: Complexes) -> Floats:
    """Complex numbers as rows of x and y, without copying."""
    return np.ascontiguousarray(points).view(np.float64).reshape(-1, 2)

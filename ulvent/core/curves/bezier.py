"""A path of Bezier segments by exact arc length.

Lines and quadratics are raised to cubics, which changes nothing about the
curve, so that one set of arrays holds the whole path and every question is one
vectorised pass over it.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import compress

import numpy as np

from ulvent.core.base.arrays import Booleans, Complexes, Floats, Integers, Lengths
from ulvent.core.base.errors import CurveError
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves.cubics import parted, raised
from ulvent.core.curves.curve import Curve
from ulvent.core.curves.parametric import NODES, WEIGHTS, Motion, Parametric
from ulvent.core.curves.segments import (
    CubicSegment,
    LineSegment,
    QuadraticSegment,
    Segment,
)

BezierSegment = LineSegment | QuadraticSegment | CubicSegment

_NOTHING = 1e-30
"""Segments smaller than this, mm, have no length: their quotients would be no numbers."""


class BezierPath(Parametric):
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
        controls = _as_cubics(segments)
        long = np.abs(controls - controls[:, :1]).max(axis=1, initial=0.0) > _NOTHING
        if not long.any():
            raise CurveError("the path has no length")
        self._segments = tuple(compress(segments, long))
        self._lines = np.array([isinstance(one, LineSegment) for one in self._segments])
        self._closed = closed
        controls = controls[long]
        _check_joints(controls, closed)
        self._origins = controls[:, 0]
        self._scale = np.abs(controls - controls[:, :1]).max(axis=1)
        first, second, third = np.diff(controls, axis=1).T
        # The derivative as a polynomial in t: rates[:, 0] + rates[:, 1] t + rates[:, 2] t².
        self._rates = np.stack(
            [3.0 * first, 6.0 * (second - first), 3.0 * (third - 2.0 * second + first)], axis=1
        )
        self._rates[self._lines, 1:] = 0.0

    @property
    def _steady(self) -> Booleans:
        return self._lines

    # ------------------------------------------------------------ the protocol

    def _reversed(self) -> BezierPath:
        backwards = [_turned_back(segment) for segment in reversed(self._segments)]
        return BezierPath(backwards, self._closed)

    def segments(self) -> tuple[Segment, ...]:
        return self._segments

    def locate(self, station: float) -> tuple[int, float]:
        """The segment that holds a station, and the parameter on it."""
        panel, t = self._parameters(np.array([station]))
        return int(self._panels.which[panel[0]]), float(t[0])

    # -------------------------------------------------------------- evaluation

    def _positions(self, which: Integers, t: Floats) -> Complexes:
        d0, d1, d2 = self._rates[which].T
        points: Complexes = self._origins[which] + t * (d0 + t * (d1 / 2.0 + t * (d2 / 3.0)))
        return points

    def _motion(self, which: Integers, t: Floats) -> Motion:
        d0, d1, d2 = self._rates[which].T
        bent = t * d2
        return d0 + t * (d1 + bent), d1 + 2.0 * bent

    def _last_motion(self, which: Integers) -> Complexes:
        rates: Complexes = self._rates[which, 2]
        return rates

    def _integral(self, which: Integers, begin: Floats, end: Floats) -> Floats:
        span = end - begin
        t = begin[:, None] + span[:, None] * NODES
        d0, d1, d2 = self._rates[which].T[:, :, None]
        lengths: Lengths = span * (np.abs(d0 + t * (d1 + t * d2)) @ WEIGHTS)
        return lengths

    def _stretch(self, begin: float, end: float) -> Curve:
        """Split exactly, by de Casteljau's construction."""
        panel, t = self._parameters(np.array([begin, end]))
        first, last = (int(which) for which in self._panels.which[panel])
        kept = list(self._segments[first : last + 1])
        if first == last:
            return BezierPath([part_of(kept[0], float(t[0]), float(t[1]))])
        kept[0] = part_of(kept[0], float(t[0]), 1.0)
        kept[-1] = part_of(kept[-1], 0.0, float(t[1]))
        return BezierPath(kept)


# ------------------------------------------------------------------- helpers


def _complexes(segment: BezierSegment) -> list[complex]:
    return [complex(x, y) for x, y in segment]


def _as_cubics(segments: Sequence[BezierSegment]) -> Complexes:
    """(n, 4) control points; lines and quadratics are raised."""
    controls = np.empty((len(segments), 4), dtype=complex)
    sizes = np.array([len(segment) for segment in segments])
    for size in np.unique(sizes).tolist():
        mine = sizes == size
        points = np.array([*compress(segments, mine)], dtype=float).view(complex)[..., 0]
        if not np.isfinite(points).all():
            raise CurveError("the path has a coordinate that is not a finite number")
        controls[mine] = raised(points)
    return controls


def _turned_back(segment: BezierSegment) -> BezierSegment:
    return type(segment)(*reversed(segment))


def part_of(segment: BezierSegment, begin: float, end: float) -> BezierSegment:
    """The stretch of a segment from parameter `begin` to `end`, as a segment of its kind."""
    points = parted(np.array(_complexes(segment)), begin, end)
    return type(segment)(*((float(point.real), float(point.imag)) for point in points))


def _check_joints(controls: Complexes, closed: bool) -> None:
    starts, ends = controls[:, 0], controls[:, 3]
    gaps = np.abs(starts[1:] - ends[:-1])
    if (gaps > JOINT).any():
        raise CurveError(
            f"segment {int(gaps.argmax()) + 1} does not start where the last one ended"
        )
    if closed and abs(ends[-1] - starts[0]) > JOINT:
        raise CurveError("a closed path must end where it starts")

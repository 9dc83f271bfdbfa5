"""A stretch of a curve, and a closed curve started elsewhere."""

from __future__ import annotations

from functools import cached_property

import numpy as np

from ulvent.core.base.arrays import Floats
from ulvent.core.base.errors import CurveError
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves.chain import Chain
from ulvent.core.curves.curve import Corners, Curve, Frames
from ulvent.core.curves.fitted import fitted_segments
from ulvent.core.curves.segments import Segment


class Section(Curve):
    """The open stretch of `base` between two stations inside `[0, length]`."""

    def __init__(self, base: Curve, begin: float, end: float) -> None:
        self._base = base
        self._begin = begin
        self._end = end

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

    def _frames(self, stations: Floats) -> Frames:
        at = self._base._frames(np.minimum(self._begin + stations, self._base.length))
        return Frames(at.points, at.tangents, at.curvatures, at.turnings - self._first_turning)

    @cached_property
    def _first_turning(self) -> float:
        return float(self._base._frames(np.array([self._begin])).turnings[0])

    def _reversed(self) -> Curve:
        length = self._base.length
        return self._base.reversed().section(length - self._end, length - self._begin)

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

    def _section(self, begin: float, end: float) -> Curve:
        return self._base.section(self._begin + begin, self._begin + end)


def section_of(curve: Curve, begin: float, end: float) -> Curve:
    """See `Curve.section`."""
    length = curve.length
    if not end - begin > JOINT:
        raise CurveError("a part must end after it begins")
    if not curve.closed:
        if begin < -JOINT or end > length + JOINT:
            raise CurveError(f"a part must lie between station 0 and {length:.4g}")
        return curve._section(max(begin, 0.0), min(end, length))
    if end - begin > length + JOINT:
        raise CurveError("a part of a closed guide is at most one lap")
    first = begin % length
    last = min(first + (end - begin), first + length)
    if last <= length + JOINT:
        return curve._section(first, min(last, length))
    if length - first <= JOINT:
        return curve._section(0.0, last - length)
    return Chain([curve._section(first, length), curve._section(0.0, last - length)])


def started_at(curve: Curve, station: float) -> Curve:
    """See `Curve.started_at`."""
    if not curve.closed:
        raise CurveError("only a closed guide can start elsewhere; use a part of it instead")
    first = station % curve.length
    if min(first, curve.length - first) <= JOINT:
        return curve
    parts = [curve._section(first, curve.length), curve._section(0.0, first)]
    return Chain(parts, closed=True)

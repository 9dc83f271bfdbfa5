"""Whether points beside a curve keep a distance from the part of it that is nearby along it.

Held against samples of the curve first. A point whose nearest sample is too near is too near
itself; where that sample lies on another turn of the curve, or where it cannot tell, those
around the point are looked at, and Newton's steps go on from them. Work and memory go with
the number of points, not with points times samples.
"""

from __future__ import annotations

import math

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Integers, Points, Stations, counted_up, strung
from ulvent.core.base.tolerances import ARC_LENGTH
from ulvent.core.base.trees import point_tree
from ulvent.core.curves.curve import Curve
from ulvent.core.curves.feet import toward_feet

_AT_ONCE = 2048
_FOOT_ROUNDS = 6
_LEAST_SLOPE = 1e-3


class NearBase:
    """A base sampled at `steps` even stretches; what is nearby lies `within` so far along it."""

    def __init__(self, base: Curve, within: float, steps: int) -> None:
        self._base, self._within = base, within
        even = np.linspace(0.0, base.length, steps + 1)
        self._samples = np.sort(np.concatenate([even, base.corners.stations]))
        self._points = base.points(self._samples)
        self._tree = point_tree(self._points)
        self._half_step = base.length / steps / 2.0
        # On a closed base what is nearby goes on past the seam.
        laps = (-base.length, 0.0, base.length) if base.closed else (0.0,)
        self._laps = np.concatenate([self._samples + lap for lap in laps])

    def keeps(self, points: Points, stations: Stations, wanted: float) -> Booleans:
        """Whether points (n, 2) beside `stations` (n,) are no nearer than `wanted` mm."""
        away, nearest = self._tree.query(points)
        too_near = (away < wanted) & self._nearby(stations, self._samples[nearest])
        stays: Booleans = ~too_near
        unsure = np.flatnonzero(stays & (away < wanted + self._half_step))
        for begin in range(0, len(unsure), _AT_ONCE):
            some = unsure[begin : begin + _AT_ONCE]
            stays[some] = self._least(points[some], stations[some], wanted) >= wanted
        return stays

    def _nearby(self, stations: Stations, others: Stations) -> Booleans:
        apart = np.abs(others - stations)
        if self._base.closed:
            apart = np.minimum(apart, self._base.length - apart)
        near: Booleans = apart <= self._within
        return near

    def _least(self, points: Points, stations: Stations, wanted: float) -> Floats:
        """How far points are from what is nearby: infinitely where that is out of the question."""
        if math.isinf(self._within):
            rows, columns = self._around(points, wanted + self._half_step)
        else:
            rows, columns = self._beside(stations)
        away = np.hypot(*(points[rows] - self._points[columns]).T)
        least = np.full(len(points), np.inf)
        np.minimum.at(least, rows, away)
        # What is too near by its samples is too near by any.
        unsure = (least >= wanted) & (least < wanted + self._half_step)
        best = (away <= least[rows] + self._half_step) & unsure[rows] & _lowest(rows, away)
        rows, feet = rows[best], self._samples[columns[best]]
        if not len(rows):
            return least
        for _ in range(_FOOT_ROUNDS):
            feet, step = toward_feet(
                self._base, points[rows], feet, 2.0 * self._half_step, _LEAST_SLOPE
            )
            if np.abs(step).max() <= ARC_LENGTH * self._base.length:
                break
        np.minimum.at(least, rows, np.hypot(*(self._base.points(feet) - points[rows]).T))
        return least

    def _beside(self, stations: Stations) -> tuple[Integers, Integers]:
        """Pairs of stations and the samples that are nearby along the base."""
        low = np.searchsorted(self._laps, stations - self._within)
        counts = np.searchsorted(self._laps, stations + self._within, side="right") - low
        rows, places = counted_up(counts)
        return rows, (low[rows] + places) % len(self._samples)

    def _around(self, points: Points, reach: float) -> tuple[Integers, Integers]:
        """Pairs of points and samples that are no farther apart than `reach`."""
        return strung(self._tree.query_ball_point(points, reach, return_sorted=True))


def _lowest(rows: Integers, away: Floats) -> Booleans:
    """Where what is counted up along a row stops falling: its feet are found from there."""
    falls = np.ones(len(rows) + 1, dtype=bool)
    falls[1:-1] = (away[1:] <= away[:-1]) | (rows[1:] != rows[:-1])
    rises = np.ones(len(rows) + 1, dtype=bool)
    rises[1:-1] = (away[1:] >= away[:-1]) | (rows[1:] != rows[:-1])
    lowest: Booleans = falls[:-1] & rises[1:]
    return lowest

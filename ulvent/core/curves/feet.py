"""The stations of a curve that lie nearest to points.

Between two samples, h apart, a curve leaves its chord by at most e: κ·h²/8 where its
bend is κ, and never more than h/2. So the sample beside the nearest point, which is
D away, is itself no farther than √((D + e)² + (h/2 + e)²). The few samples that can be
it start Newton steps on the foot condition (P(s) − q)·T(s) = 0; where more than were
asked of the tree can be it, as for the centre of a circle, all of them are looked at.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike

from ulvent.core.base.arrays import Floats, Lengths, Millimetres, Points, Stations
from ulvent.core.base.trees import point_tree
from ulvent.core.curves.curve import Curve

_STRETCHES = 2048
_FIRST_LOOK = 12
_NEWTON_ROUNDS = 16
_SETTLED = 1e-6
"""A last step this small, as a share of the curve, leaves its square as the error."""
_LEAST_SLOPE = 1e-6
_MANY = 256
"""Starts for a point that is nearly as far from everywhere; more would change nothing."""


def nearest(curve: Curve, points: ArrayLike) -> Stations:
    """Stations (n,) of `curve` whose points lie nearest to `points` (n, 2), mm."""
    asked = np.atleast_2d(np.asarray(points, dtype=float))
    own = curve._own_feet(asked)
    return feet_of(curve).nearest(asked) if own is None else own


def feet_of(curve: Curve) -> Feet:
    """The search for nearest stations on a curve, with its samples; made once."""
    found: Feet | None = curve.notes.get("feet")
    if found is None:
        found = curve.notes["feet"] = Feet(curve)
    return found


class Feet:
    """Nearest stations on one curve; holds its samples."""

    def __init__(self, curve: Curve) -> None:
        self._curve = curve
        self._step = curve.length / _STRETCHES
        corners = curve.corners.stations
        even = np.linspace(0.0, curve.length, _STRETCHES + 1)
        self._samples = np.sort(np.concatenate([even, corners])) if len(corners) else even
        at = curve.frames(self._samples)
        self._tree = point_tree(at.points)
        bends = np.abs(at.curvatures)
        # The bend between samples is taken as twice what it is at them.
        around = 2.0 * np.maximum(bends, np.maximum(np.roll(bends, 1), np.roll(bends, -1)))
        self._sag = np.minimum(around * self._step**2 / 8.0, self._step / 2.0)

    def nearest(self, points: Points) -> Stations:
        """The nearest station to each of `points` (n, 2)."""
        away, indices = self._tree.query(points, k=_FIRST_LOOK)
        sag = self._sag[indices]
        reach = np.hypot(away[:, :1] + sag, self._step / 2.0 + sag)
        possible = away <= reach
        rows, columns = np.nonzero(possible)
        starts = self._samples[indices[rows, columns]]
        crowded = np.flatnonzero(possible[:, -1])
        if len(crowded):
            more = [self._spread(points[row], away[row, 0] + self._step) for row in crowded]
            rows = np.concatenate(
                [rows, *(np.full(len(m), row) for row, m in zip(crowded, more, strict=True))]
            )
            starts = np.concatenate([starts, *more])
        polished = self._polished(points[rows], starts)
        stations = np.concatenate([polished, starts])
        owners = np.concatenate([rows, rows])
        reached = np.hypot(*(self._curve.points(stations) - points[owners]).T)
        order = np.lexsort((reached, owners))
        _, first = np.unique(owners[order], return_index=True)
        best: Floats = stations[order[first]]
        return np.mod(best, self._curve.length) if self._curve.closed else best

    def _spread(self, point: Floats, limit: Millimetres) -> Stations:
        """Starts for a crowded point: the nearest samples of runs, or an even choice of many."""
        near = np.sort(np.array(self._tree.query_ball_point(point, limit), dtype=int))
        chosen: Floats = self._samples[near[:: max(1, len(near) // _MANY)]]
        return chosen

    def _polished(self, points: Points, starts: Stations) -> Stations:
        found = starts
        for _ in range(_NEWTON_ROUNDS):
            found, step = toward_feet(self._curve, points, found, self._step)
            if np.abs(step).max() <= _SETTLED * self._curve.length:
                break
        return found


def toward_feet(
    curve: Curve,
    points: Points,
    stations: Stations,
    farthest: Millimetres,
    least_slope: float = _LEAST_SLOPE,
) -> tuple[Stations, Lengths]:
    """One of Newton's steps from stations (n,) toward the feet of points (n, 2).

    Where the slope of the foot condition is less than `least_slope`, as beyond the centre of
    the bend, the step would climb: it goes down by length. No step is longer than `farthest`.
    The new stations, and the steps that were taken back from the old ones, mm.
    """
    at = curve.frames(stations)
    away = at.points - points
    foot = (away * at.tangents).sum(axis=1)
    slope = 1.0 + at.curvatures * (away * at.normals).sum(axis=1)
    safe = slope > least_slope
    step = np.clip(np.where(safe, foot / np.where(safe, slope, 1.0), foot), -farthest, farthest)
    moved = stations - step
    return (moved if curve.closed else np.clip(moved, 0.0, curve.length)), step

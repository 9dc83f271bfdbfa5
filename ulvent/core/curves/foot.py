"""The nearest station of a curve to a point: see `Curve.nearest`."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ulvent.core.curves.curve import Curve

Floats = NDArray[np.float64]

_STRETCHES = 512
_PARTS = 4
_MOST_CANDIDATES = 4096
_NEWTON_ROUNDS = 16


def nearest_stations(curve: Curve, points: Floats) -> Floats:
    """The nearest station to each of `points` (n, 2)."""
    found: Floats = np.array([_nearest(curve, point) for point in points])
    return found


def _nearest(curve: Curve, point: Floats) -> float:
    width = curve.length / _STRETCHES
    stations = (np.arange(_STRETCHES) + 0.5) * width
    for _ in range(4):
        near, least = _candidates(curve, point, stations, width)
        if len(near) * _PARTS > _MOST_CANDIDATES:
            # Nearly the same distance from a long stretch, as from a circle's centre.
            break
        stations = (near[:, None] + width * (np.arange(_PARTS) + 0.5) / _PARTS - width / 2).ravel()
        width /= _PARTS
    near, least = _candidates(curve, point, stations, width)
    # One start in each run of neighbouring candidates: the nearest of the run.
    runs = np.concatenate([[0], np.flatnonzero(np.diff(near) > 1.5 * width) + 1, [len(near)]])
    away = np.hypot(*(curve.points(near) - point).T)
    starts = [near[a + int(away[a:b].argmin())] for a, b in zip(runs[:-1], runs[1:], strict=True)]
    polished = _polished(curve, point, np.array(starts), width)
    ends = np.array([0.0, curve.length])
    all_stations = np.concatenate([polished, ends])
    best = all_stations[np.hypot(*(curve.points(all_stations) - point).T).argmin()]
    return float(best % curve.length) if curve.closed else float(best)


def _candidates(
    curve: Curve, point: Floats, stations: Floats, width: float
) -> tuple[Floats, float]:
    away = np.hypot(*(curve.points(stations) - point).T)
    least = float(away.min())
    return stations[away - width / 2.0 <= least], least


def _polished(curve: Curve, point: Floats, stations: Floats, limit: float) -> Floats:
    """Newton steps on (P − q)·T = 0, none longer than `limit`."""
    found = stations
    for _ in range(_NEWTON_ROUNDS):
        at = curve.frames(found)
        away = at.points - point
        foot = (away * at.tangents).sum(axis=1)
        slope = 1.0 + at.curvatures * (away * at.normals).sum(axis=1)
        safe = np.where(np.abs(slope) > 1e-6, slope, 1.0)
        step = np.clip(foot / safe, -limit, limit)
        found = found - step
        if not curve.closed:
            found = np.clip(found, 0.0, curve.length)
        if np.abs(step).max() <= 1e-13 * curve.length:
            break
    return found

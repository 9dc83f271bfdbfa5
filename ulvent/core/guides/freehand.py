"""A pointer's way as few cubics within a tolerance.

The samples are cut at sharp corners. Each part is smoothed by a spline, as strongly as
half of the tolerance allows, so that a hand's tremble is not followed; cubics with
the spline's own directions are then fitted to it within the other half, each as long
as it can be. The unknown lengths of a cubic's two handles are least squares against
the spline, its points projected anew in every round (P. J. Schneider, "An algorithm for
automatically fitting digitized curves", Graphics Gems, 1990).
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from scipy.interpolate import BSpline, make_smoothing_spline

from ulvent.core.base.arrays import Complexes, Floats

_CORNER = math.radians(38.0)
_REACH = 6.0
"""A corner is looked for over this many tolerances to both sides."""
_DENSE = 12
"""Points of the spline for every sample."""
_ROUNDS = 6
_SMOOTHINGS = 14
_DECIMALS = 4


def fitted_nodes(samples: Complexes, tolerance: float) -> list[dict[str, Any]]:
    """Nodes of a drawn guide, as `at`, `joint`, `before` and `after`, near the samples.

    The line comes within `tolerance` mm of every sample, and of the straight lines
    between samples as nearly as these stand for the way.
    """
    kept = _apart(samples, tolerance / 20.0)
    corners = [0, *_corners(kept, tolerance), len(kept) - 1]
    cubics: list[Complexes] = []
    sharp: set[int] = set()
    for begin, end in zip(corners[:-1], corners[1:], strict=True):
        if cubics:
            sharp.add(len(cubics))
        cubics.extend(_fitted(kept[begin : end + 1], tolerance))
    return _as_nodes(cubics, sharp)


def _apart(samples: Complexes, least: float) -> Complexes:
    """The samples without those that lie on the one before; the last one stays."""
    kept = [samples[0]]
    for sample in samples[1:]:
        if abs(sample - kept[-1]) > least:
            kept.append(sample)
    if len(kept) == 1:
        kept.append(samples[-1] if samples[-1] != kept[0] else kept[0] + least)
    elif abs(samples[-1] - kept[-1]) > 0.0 and len(kept) > 2:
        kept[-1] = samples[-1]
    return np.array(kept)


def _corners(samples: Complexes, tolerance: float) -> list[int]:
    """Where the way turns sharply within a short reach, one index a turn."""
    count = len(samples)
    along = np.concatenate([[0.0], np.cumsum(np.abs(np.diff(samples)))])
    reach = _REACH * tolerance
    turns = np.zeros(count)
    for index in range(1, count - 1):
        before = int(np.searchsorted(along, along[index] - reach))
        after = min(int(np.searchsorted(along, along[index] + reach)), count - 1)
        into, out = samples[index] - samples[before], samples[after] - samples[index]
        if min(abs(into), abs(out)) > 0.5 * reach:
            turns[index] = abs(np.angle(out / into))
    found: list[int] = []
    while turns.max(initial=0.0) > _CORNER:
        index = int(turns.argmax())
        found.append(index)
        turns[np.abs(along - along[index]) < 2.0 * reach] = 0.0
    return sorted(found)


def _fitted(samples: Complexes, tolerance: float) -> list[Complexes]:
    """Cubics along one smooth part."""
    if len(samples) < 5:
        return [
            np.array([a, a + (b - a) / 3.0, b - (b - a) / 3.0, b])
            for a, b in zip(samples[:-1], samples[1:], strict=True)
        ]
    along = np.concatenate([[0.0], np.cumsum(np.abs(np.diff(samples)))])
    spline = _smoothed(along, samples, tolerance / 2.0)
    at = np.linspace(0.0, along[-1], _DENSE * len(samples) + 1)
    points, slopes = spline(at), spline.derivative()(at)
    directions = slopes / np.maximum(np.abs(slopes), 1e-12)
    found: list[Complexes] = []
    begin, last = 0, len(points) - 1
    while begin < last:
        best, end = _one_cubic(points, directions, begin, begin + 1)[0], begin + 1
        # The longest stretch that one cubic follows: all of it, or found by bisection.
        low, high, tried = begin + 2, last, last
        while low <= high:
            cubic, off = _one_cubic(points, directions, begin, tried)
            if off <= tolerance / 2.0:
                best, end, low = cubic, tried, tried + 1
            else:
                high = tried - 1
            tried = (low + high) // 2
        found.append(best)
        begin = end
    return found


def _smoothed(along: Floats, samples: Complexes, tolerance: float) -> BSpline:
    """The smoothest spline that stays within `tolerance` of the samples."""

    def spline(reach: float) -> BSpline:
        pair = np.stack([samples.real, samples.imag], axis=1)
        fitted = make_smoothing_spline(along, pair, lam=reach**4)
        return BSpline(fitted.t, fitted.c[:, 0] + 1j * fitted.c[:, 1], fitted.k)

    # A way of no length at all cannot be smoothed; its spline goes through the samples.
    low, high = along[-1] * 1e-4, along[-1] / 4.0
    best = spline(low)
    for _ in range(_SMOOTHINGS):
        middle = math.sqrt(low * high)
        tried = spline(middle)
        if np.abs(tried(along) - samples).max() <= tolerance:
            best, low = tried, middle
        else:
            high = middle
    return best


def _one_cubic(
    points: Complexes, directions: Complexes, begin: int, end: int
) -> tuple[Complexes, float]:
    """The best cubic over a stretch of the spline, and how far it is off."""
    wanted = points[begin : end + 1]
    start, finish = wanted[0], wanted[-1]
    u, v = directions[begin], directions[end]
    steps = np.abs(np.diff(wanted))
    length = float(steps.sum())
    t = np.concatenate([[0.0], np.cumsum(steps)]) / max(length, 1e-12)
    if len(wanted) > 60:
        chosen = np.unique(np.linspace(0, len(wanted) - 1, 60).astype(int))
        wanted, t = wanted[chosen], t[chosen]
    controls = np.array([start, start + u * length / 3.0, finish - v * length / 3.0, finish])
    for _ in range(_ROUNDS):
        b0, b1, b2, b3 = _blend(t)
        rest = wanted - start * (b0 + b1) - finish * (b2 + b3)
        a, b = u * b1, -v * b2
        saa, sbb = float((np.abs(a) ** 2).sum()), float((np.abs(b) ** 2).sum())
        sab = float((np.conj(a) * b).real.sum())
        ra, rb = float((np.conj(a) * rest).real.sum()), float((np.conj(b) * rest).real.sum())
        determinant = saa * sbb - sab * sab
        if determinant <= 1e-12 * max(saa * sbb, 1e-30):
            break
        first = np.clip((ra * sbb - rb * sab) / determinant, 0.02 * length, 1.5 * length)
        second = np.clip((saa * rb - sab * ra) / determinant, 0.02 * length, 1.5 * length)
        controls = np.array([start, start + u * first, finish - v * second, finish])
        t = _projected(controls, wanted, t)
    off = float(np.abs(_at(controls, t) - wanted).max())
    return controls, off


def _projected(controls: Complexes, wanted: Complexes, t: Floats) -> Floats:
    """One Newton step of every parameter toward the foot of its point."""
    first = 3.0 * np.diff(controls)
    second = 2.0 * np.diff(first)
    s = 1.0 - t
    velocity = first[0] * s**2 + 2.0 * first[1] * s * t + first[2] * t**2
    bend = second[0] * s + second[1] * t
    away = _at(controls, t) - wanted
    slope = np.abs(velocity) ** 2 + (np.conj(away) * bend).real
    safe = np.where(slope > 1e-12, slope, np.inf)
    moved: Floats = np.clip(t - (np.conj(away) * velocity).real / safe, 0.0, 1.0)
    return moved


def _blend(t: Floats) -> tuple[Floats, Floats, Floats, Floats]:
    s = 1.0 - t
    return s**3, 3.0 * s**2 * t, 3.0 * s * t**2, t**3


def _at(controls: Complexes, t: Floats) -> Complexes:
    points: Complexes = sum(c * b for c, b in zip(controls, _blend(t), strict=True))
    return points


def _as_nodes(cubics: list[Complexes], sharp: set[int]) -> list[dict[str, Any]]:
    nodes: list[dict[str, Any]] = []
    for index in range(len(cubics) + 1):
        before = cubics[index - 1] if index else None
        after = cubics[index] if index < len(cubics) else None
        at = after[0] if after is not None else cubics[-1][3]
        nodes.append(
            {
                "at": _pair(at),
                "joint": "corner" if index in sharp else "smooth",
                "before": None if before is None else _pair(before[2] - before[3]),
                "after": None if after is None else _pair(after[1] - after[0]),
            }
        )
    return nodes


def _pair(point: complex) -> tuple[float, float]:
    return (round(float(point.real), _DECIMALS), round(float(point.imag), _DECIMALS))

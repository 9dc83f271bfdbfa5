"""A pointer's way as few cubics within a tolerance.

The samples are cut at sharp corners. Each part is smoothed by a spline, as strongly as
half of the tolerance allows, so that a hand's tremble is not followed; cubics with
the spline's own directions are then fitted to it within the other half, each as long
as it can be.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any

import numpy as np

from ulvent.core.base.arrays import Complexes, Floats, Integers
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.fields import MOST_NODES
from ulvent.core.base.tolerances import NIL
from ulvent.core.curves.parametric import as_pairs
from ulvent.core.shapes.cubic_fit import nearest_cubics

if TYPE_CHECKING:
    from scipy.interpolate import BSpline

_CORNER = math.radians(38.0)
_REACH = 6.0
"""A corner is looked for over this many tolerances to both sides."""
_DENSE = 12
"""Points of the spline for every sample."""
_HELD = 60
"""Points of the spline that a cubic is held against."""
_AT_ONCE = 8
"""Ends that are tried in one batch."""
_ABOUT = np.array([0.25, 0.5, 0.75, 1.0, 1.25, 1.6, 2.5, 6.0])
"""Of how far the last cubic reached: where the next one may end."""
_COARSER = "a larger tolerance would do, or a shorter line"
_SMOOTHINGS = 14
_HOLD_OF_ENDS = 1e6
"""How much more the ends of a part weigh: two parts meet on the sample at their corner."""
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
    directions = slopes / np.maximum(np.abs(slopes), NIL)
    found: list[Complexes] = []
    begin, last, likely = 0, len(points) - 1, len(points) // _AT_ONCE
    while begin < last:
        if len(found) > MOST_NODES:
            raise wrong_field("tolerance", f"would take more than {MOST_NODES} points: {_COARSER}")
        cubic, end = _longest(points, directions, begin, last, tolerance / 2.0, likely)
        found.append(cubic)
        begin, likely = end, end - begin
    return found


def _longest(
    points: Complexes, directions: Complexes, begin: int, last: int, tolerance: float, likely: int
) -> tuple[Complexes, int]:
    """The cubic that follows the spline farthest from a point on, and where it ends.

    `likely` is how far it may reach: ends about there are tried first.
    """
    follows, misses = begin, last + 1
    best: Complexes | None = None
    about = begin + (likely * _ABOUT).astype(int)
    tried = np.unique(np.clip(np.append(about, begin + 1), begin + 1, last))
    while best is None or misses - follows > 1:
        cubics, off = _nearest(points, directions, begin, tried)
        well = np.flatnonzero(off <= tolerance)
        if best is None and not len(well):
            return cubics[0], begin + 1  # a single step of the spline stands for itself
        if len(well):
            best, follows = cubics[well[-1]], int(tried[well[-1]])
        misses = int(min([misses, *tried[tried > follows]]))
        if misses - follows > 1:
            tried = np.unique(np.linspace(follows + 1, misses - 1, _AT_ONCE).astype(int))
    return best, follows


def _smoothed(along: Floats, samples: Complexes, tolerance: float) -> BSpline:
    """The smoothest spline within `tolerance` of the samples that begins and ends on them."""
    # Imported when it is needed: it takes a third of all that a process loads to begin with.
    from scipy.interpolate import BSpline, make_smoothing_spline

    pairs = as_pairs(samples)
    weights = np.ones(len(samples))
    weights[[0, -1]] = _HOLD_OF_ENDS

    def spline(reach: float) -> BSpline:
        fitted = make_smoothing_spline(along, pairs, weights, lam=reach**4)
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


def _nearest(
    points: Complexes, directions: Complexes, begin: int, ends: Integers
) -> tuple[Complexes, Floats]:
    """The best cubic from a point of the spline to each of others, and how far each is off."""
    held = np.linspace(begin, ends, _HELD, axis=1).round().astype(int)
    cubics, off = nearest_cubics(
        as_pairs(np.broadcast_to(points[begin], len(ends))),
        as_pairs(np.broadcast_to(directions[begin], len(ends))),
        as_pairs(points[ends]),
        as_pairs(-directions[ends]),
        as_pairs(points[held]).reshape(*held.shape, 2),
    )
    return cubics[..., 0] + 1j * cubics[..., 1], off


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

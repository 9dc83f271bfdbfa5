"""Where a guide bends more tightly than the letters that stand on it can follow.

Letters cannot follow a bend toward their heads whose centre lies below their heads:
there they run into each other. Nor a bend away from them whose radius, at their feet,
is less than their own width: there they fan out over more than a radian.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from ulvent.core.base.remembered import remembered
from ulvent.core.base.tolerances import NIL
from ulvent.core.setting.rows.setting import Setting


class TightStretch(NamedTuple):
    """Stations of the guide between which it is too tight, and the smallest radius there, mm."""

    begin: float
    end: float
    radius: float


@remembered(64)
def tight_stretches(setting: Setting) -> tuple[TightStretch, ...]:
    """The stretches under the lettering, in the guide's own stations and direction."""
    if not len(setting.middles) or setting.end <= setting.start:
        return ()
    base = setting.baseline.base
    first, last = (
        float(foot) for foot in setting.baseline.foot(np.array([setting.start, setting.end]))
    )
    if base.closed and last - first > base.length:
        # However many laps the words go round, they stand on all of it.
        first = base.length * (first // base.length)
        last = first + base.length
    laps = range(int(first // base.length), int(last // base.length) + 1) if base.closed else (0,)
    stations, bends = base.bends
    stations = np.concatenate([stations + lap * base.length for lap in laps])
    bends = np.tile(bends, len(laps))
    under = (stations >= first) & (stations <= last)
    stations, bends = stations[under], bends[under]
    feet, heads = setting.baseline.distance, setting.baseline.distance + setting.capital
    widest = float(setting.advances.max())
    radii = 1.0 / np.maximum(np.abs(bends), NIL)
    tight = np.where(bends > 0.0, radii <= heads, radii + feet <= widest)
    return _stretches(setting, stations, radii, tight)


def _stretches(
    setting: Setting, stations: np.ndarray, radii: np.ndarray, tight: np.ndarray
) -> tuple[TightStretch, ...]:
    length = setting.guide.length
    against = setting.lettering.reading == "against"
    found: list[TightStretch] = []
    edges = np.flatnonzero(np.diff(np.concatenate([[False], tight, [False]]).astype(int)))
    for begin, end in zip(edges[::2], edges[1::2], strict=True):
        low, high = float(stations[begin]), float(stations[end - 1])
        if against:
            low, high = length - high, length - low
        if setting.guide.closed:
            low, high = low % length, low % length + min(high - low, length)
        found.append(TightStretch(low, high, float(radii[begin:end].min())))
    return tuple(found)

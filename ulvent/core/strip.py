"""The strip: one guide pulled straight, with the lettering standing on it.

The strip runs in the reading direction of one lettering, so that it reads; its x is
the guide's station or, where that lettering reads against the guide, the length
minus the station. Letters stand at the feet of their middles. Along the strip they
are as wide as the guide under them, so that letters which touch on the curve touch
here as well; their heights are true.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ulvent.core.layout import LaidGuide, Layout
from ulvent.core.setting import Setting, letter_corners, tight_stretches
from ulvent.core.setting.touch import touch_height

Floats = NDArray[np.float64]

_WIDEST = 8.0
_SHORTEST_ROOM = 0.5
"""Free stretches shorter than this, mm, are not worth a dimension."""


@dataclass(frozen=True)
class StripGap:
    """The gap after a letter: where it is, what it is, what its designer gave it; mm."""

    x: float
    found: float
    designed: float


@dataclass(frozen=True)
class StripLettering:
    """A lettering on the strip.

    matrices
        (n, 2, 3) from each cluster's outline, font units, to the strip, mm, y up
    upright
        whether it reads in the strip's direction; otherwise its matrices stand it on
        its head, as it stands on the guide
    """

    setting: Setting
    matrices: Floats
    upright: bool
    gaps: tuple[StripGap, ...]


@dataclass(frozen=True)
class Strip:
    """One guide, straight.

    free
        stretches of the strip on which nothing stands, as pairs of x, mm
    corners
        x of the guide's corners
    bends
        stretches that bend more tightly than the letters on them can follow, as pairs of x
    """

    guide: LaidGuide
    against: bool
    letterings: tuple[StripLettering, ...]
    free: tuple[tuple[float, float], ...]
    corners: tuple[float, ...]
    bends: tuple[tuple[float, float], ...]


def pull_straight(layout: Layout, guide: LaidGuide, against: bool) -> Strip:
    """The strip of `guide`, in its own direction or `against` it."""
    mine = [s for s in layout.settings if s.lettering.guide == guide.recipe.id]
    return Strip(
        guide=guide,
        against=against,
        letterings=tuple(_lettering(setting, guide, against) for setting in mine),
        free=_free(guide, mine, against),
        corners=tuple(
            guide.curve.length - station if against else station
            for station, _ in letter_corners(guide.curve)
        ),
        bends=_bends(guide, mine, against),
    )


def _bends(
    guide: LaidGuide, settings: list[Setting], against: bool
) -> tuple[tuple[float, float], ...]:
    length = guide.curve.length
    found = {(s.begin, s.end) for setting in settings for s in tight_stretches(setting)}
    return tuple(
        (length - end, length - begin) if against else (begin, end) for begin, end in sorted(found)
    )


def _lettering(setting: Setting, guide: LaidGuide, against: bool) -> StripLettering:
    upright = (setting.lettering.reading == "against") == against
    x = guide.curve.length - setting.feet if against else setting.feet
    facing = 1.0 if upright else -1.0
    widths = _guide_per_baseline(setting) * facing
    metrics = setting.face.metrics
    touch = setting.scale * touch_height(setting.lettering.touch, metrics)
    foot = facing * (setting.lettering.standoff - touch)
    count = len(setting.clusters)
    matrices = np.zeros((count, 2, 3))
    matrices[:, 0, 0] = widths * setting.scale
    matrices[:, 1, 1] = facing * setting.scale
    matrices[:, 0, 2] = x - widths * setting.advances / 2.0
    matrices[:, 1, 2] = foot
    return StripLettering(setting, matrices, upright, _gaps(setting, x, widths))


def _guide_per_baseline(setting: Setting) -> Floats:
    """How much guide lies under each mm of baseline, at every letter."""
    distance = setting.baseline.distance
    if distance == 0.0:
        return np.ones(len(setting.middles))
    bends = setting.baseline.base.curvatures(setting.baseline.foot(setting.middles))
    return np.clip(1.0 / (1.0 - distance * bends), 1.0 / _WIDEST, _WIDEST)


def _gaps(setting: Setting, x: Floats, widths: Floats) -> tuple[StripGap, ...]:
    ends = x + widths * setting.advances / 2.0
    starts = x - widths * setting.advances / 2.0
    found = zip(ends[:-1], starts[1:], setting.gaps.found, setting.gaps.designed, strict=True)
    return tuple(
        StripGap(float((end + start) / 2.0), float(gap), float(designed))
        for end, start, gap, designed in found
        # Across the seam the middle between two letters is not between their x.
        if not math.isnan(gap) and abs(end - start) < setting.guide.length / 2.0
    )


def _free(
    guide: LaidGuide, settings: list[Setting], against: bool
) -> tuple[tuple[float, float], ...]:
    """The stretches of the strip that no lettering takes up."""
    length = guide.curve.length
    taken: list[tuple[float, float]] = []
    for setting in settings:
        if setting.length <= 0.0:
            continue
        ends = setting.baseline.foot(np.array([setting.start, setting.start + setting.length]))
        if setting.lettering.reading == "against":
            ends = length - ends[::-1]
        first, last = (float(end) for end in ends)
        if not guide.curve.closed or last - first >= length:
            taken.append((max(first, 0.0), min(last, length)))
            continue
        begin = first % length
        end = begin + (last - first)
        taken.append((begin, min(end, length)))
        if end > length:
            taken.append((0.0, end - length))
    free: list[tuple[float, float]] = []
    reached = 0.0
    for begin, end in [*sorted(taken), (length, length)]:
        if begin - reached > _SHORTEST_ROOM:
            free.append((reached, begin))
        reached = max(reached, end)
    if against:
        free = [(length - end, length - begin) for begin, end in reversed(free)]
    return tuple(free)

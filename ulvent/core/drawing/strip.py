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

from ulvent.core.base.arrays import Floats, Lengths, Matrices
from ulvent.core.curves import Curve
from ulvent.core.layout import LaidGuide, Layout
from ulvent.core.setting import Setting, letter_corners, tight_stretches
from ulvent.core.setting.letters.touch import touch_height

_WIDEST = 8.0
_LINE_TO_LINE = 1.6
"""From line to line of a filled shape, in capitals' heights."""
_SHORTEST_ROOM = 0.5
"""Free stretches shorter than this, mm, are not worth a dimension."""


@dataclass(frozen=True)
class StripGap:
    """The gap after a letter: where it is, what it is, what its designer gave it; mm.

    `after` is the letter's place in the words, -1 for a mark; `held_apart` says whether the
    pair stands at the least distance, since an even gap would bring it nearer.
    """

    x: float
    after: int
    found: float
    designed: float
    held_apart: bool


@dataclass(frozen=True)
class StripLettering:
    """A lettering on the strip.

    matrices
        (n, 2, 3) from each cluster's outline, font units, to the strip, mm, y up
    upright
        whether it reads in the strip's direction; otherwise its matrices stand it on
        its head, as it stands on the guide
    starts, ends
        x between which each letter stands, the smaller one first
    over_seam
        whether it crosses the seam of a closed guide, with a letter's height to spare
    """

    setting: Setting
    matrices: Matrices
    upright: bool
    gaps: tuple[StripGap, ...]
    starts: list[float]
    ends: list[float]
    over_seam: bool

    @property
    def foot(self) -> float:
        """How far the feet of most letters lie below the guide, mm."""
        return -float(np.median(self.matrices[:, 1, 2])) if len(self.matrices) else 0.0

    @property
    def by_hand(self) -> list[bool]:
        """Whether each letter, or the gap after it, was changed by hand."""
        changed = self.setting.nudges
        return [
            any(at in changed for at in range(place, place + len(cluster.text)))
            for place, cluster in zip(
                self.setting.places.tolist(), self.setting.clusters, strict=True
            )
        ]


@dataclass(frozen=True)
class Strip:
    """One guide, straight; or, where its inside is filled, the lines that fill it.

    length
        of the guide, or from the leftmost to the rightmost of those lines, mm

    free
        stretches of the strip on which nothing stands, as pairs of x, mm
    corners
        x of the guide's corners
    filled
        whether it shows the lines that fill the guide's inside, each where it is along them
    bends
        stretches that bend more tightly than the letters on them can follow, as pairs of x
    """

    guide: LaidGuide
    length: float
    filled: bool
    against: bool
    letterings: tuple[StripLettering, ...]
    free: tuple[tuple[float, float], ...]
    corners: tuple[float, ...]
    bends: tuple[tuple[float, float], ...]


def pull_straight(layout: Layout, guide: LaidGuide, against: bool) -> Strip:
    """The strip of `guide`, in its own direction or `against` it."""
    mine: list[Setting] = []
    filling: list[Setting] = []
    for setting in layout.settings:
        if setting.lettering.guide == guide.recipe.id:
            # Lines that fill the guide's inside stand on lines of their own.
            (filling if _fills(setting) else mine).append(setting)
    if filling and not mine:
        return _filled(guide, filling)
    return Strip(
        guide=guide,
        length=guide.curve.length,
        filled=False,
        against=against,
        letterings=tuple(_lettering(setting, guide, against) for setting in mine),
        free=_free(guide, mine, against),
        corners=tuple(
            guide.curve.length - station if against else station
            for station, _ in letter_corners(guide.curve)
        ),
        bends=_bends(guide, mine, against),
    )


def _filled(guide: LaidGuide, lines: list[Setting]) -> Strip:
    """The lines of a filled shape, one below the other, as they lie along their direction."""
    along = lines[0].baseline.frames([0.0]).tangents[0]
    begins = np.array([float(line.baseline.points([0.0])[0] @ along) for line in lines])
    ends = begins + [line.baseline.length for line in lines]
    pitch = _LINE_TO_LINE * max(line.capital for line in lines)
    letterings = tuple(
        _on_own_line(line, float(begin - begins.min()), -index * pitch)
        for index, (line, begin) in enumerate(zip(lines, begins, strict=True))
    )
    length = float(ends.max() - begins.min())
    return Strip(guide, length, True, False, letterings, (), (), ())


def _on_own_line(setting: Setting, begin: float, foot: float) -> StripLettering:
    count = len(setting.clusters)
    x = begin + setting.middles
    matrices = np.zeros((count, 2, 3))
    matrices[:, 0, 0] = matrices[:, 1, 1] = setting.scales
    matrices[:, 0, 2] = x - setting.widths / 2.0
    matrices[:, 1, 2] = foot
    half = setting.advances / 2.0
    starts, ends = (x - half).tolist(), (x + half).tolist()
    return StripLettering(setting, matrices, True, (), starts, ends, False)


def _fills(setting: Setting) -> bool:
    fill = setting.lettering.fill
    return fill is not None and fill.way == "lines"


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
    matrices[:, 0, 0] = widths * setting.scales
    matrices[:, 1, 1] = facing * setting.scales
    matrices[:, 0, 2] = x - widths * setting.widths / 2.0
    # As far off the guide as on the drawing, what was done by hand included.
    raised = np.einsum(
        "ni,ni->n", setting.poses.feet - setting.frames.points, setting.frames.normals
    )
    matrices[:, 1, 2] = foot + facing * (raised if setting.poses.on_baseline else 0.0)
    half = np.abs(widths) * setting.advances / 2.0
    starts, ends = x - half, x + half
    low, high = setting.capital, guide.curve.length - setting.capital
    over = guide.curve.closed and count > 0 and bool(starts.min() < low or ends.max() > high)
    gaps = _gaps(setting, x, widths)
    return StripLettering(setting, matrices, upright, gaps, starts.tolist(), ends.tolist(), over)


def _guide_per_baseline(setting: Setting) -> Floats:
    """How much guide lies under each mm of baseline, at every letter."""
    distance = setting.baseline.distance
    if distance == 0.0:
        return np.ones(len(setting.middles))
    bends = setting.baseline.base.curvatures(setting.baseline.foot(setting.middles))
    return np.clip(1.0 / (1.0 - distance * bends), 1.0 / _WIDEST, _WIDEST)


def _gaps(setting: Setting, x: Floats, widths: Lengths) -> tuple[StripGap, ...]:
    ends = x + widths * setting.advances / 2.0
    starts = x - widths * setting.advances / 2.0
    gaps = setting.gaps
    found = zip(
        ends[:-1],
        starts[1:],
        gaps.found,
        gaps.designed,
        setting.places[:-1],
        setting.at_floor,
        strict=True,
    )
    return tuple(
        StripGap(float((end + start) / 2.0), int(place), float(gap), float(designed), bool(held))
        for end, start, gap, designed, place, held in found
        # Across the seam the middle between two letters is not between their x.
        if not math.isnan(gap) and abs(end - start) < setting.guide.length / 2.0
    )


def _on_guide(
    setting: Setting, guide: Curve, stretch: tuple[float, float]
) -> list[tuple[float, float]]:
    """A stretch of baseline as stretches of the guide under it: two where it passes the seam."""
    length = guide.length
    ends = setting.baseline.foot(np.array(stretch))
    if setting.lettering.reading == "against":
        ends = length - ends[::-1]
    first, last = (float(end) for end in ends)
    if not guide.closed or last - first >= length:
        return [(max(first, 0.0), min(last, length))]
    begin = first % length
    end = begin + (last - first)
    return [(begin, min(end, length)), *([(0.0, end - length)] if end > length else [])]


def _free(
    guide: LaidGuide, settings: list[Setting], against: bool
) -> tuple[tuple[float, float], ...]:
    """The stretches of the strip that no lettering takes up."""
    length = guide.curve.length
    taken: list[tuple[float, float]] = []
    for setting in settings:
        for stretch in setting.stretches:
            taken.extend(_on_guide(setting, guide.curve, stretch))
    free: list[tuple[float, float]] = []
    reached = 0.0
    for begin, end in [*sorted(taken), (length, length)]:
        if begin - reached > _SHORTEST_ROOM:
            free.append((reached, begin))
        reached = max(reached, end)
    if against:
        free = [(length - end, length - begin) for begin, end in reversed(free)]
    return tuple(free)

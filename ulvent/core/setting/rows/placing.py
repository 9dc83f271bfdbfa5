"""Setting a lettering on a curve: where every letter stands.

A cluster of advance a whose start is at s along the baseline curve has its middle
(s + a/2) on that curve, turned to the tangent there: the rule of SVG 2 for text on
a path. The baseline curve is the parallel of the guide at the distance that touch
line and standoff give; stations are carried over from the guide, advances are
measured on the baseline curve.

On a closed guide letters pass the seam as if it were not there, for one lap. On an
open guide letters beyond its ends are placed on its straight continuation, so that
they can be shown, and marked as having no room.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import replace

import numpy as np

from ulvent.core.base.arrays import Floats, Stretch
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves import Curve, Frames, Parallel, parallel_of
from ulvent.core.faces import Face, MissingCharacter
from ulvent.core.recipe.lettering import Lettering
from ulvent.core.setting.gaps.clearance import clearance_of
from ulvent.core.setting.gaps.giving_way import Row as LapRow
from ulvent.core.setting.gaps.giving_way import give_way
from ulvent.core.setting.gaps.spacing import Spacing, spaced
from ulvent.core.setting.letters.corners import corner_zones, pushed
from ulvent.core.setting.letters.touch import touch_height
from ulvent.core.setting.letters.words import scale_of
from ulvent.core.setting.rows.arrange import SHARE_BEFORE, Row
from ulvent.core.setting.rows.row_spacing import moved_stretches, row_spacing, stands_on_baseline
from ulvent.core.setting.rows.setting import Setting
from ulvent.core.setting.rows.standing import Standing
from ulvent.core.stances.stance import on_baseline, stacked, turned_by_hand


def place_row(
    lettering: Lettering,
    line: int,
    face: Face,
    standing: Standing,
    baseline: Parallel,
    row: Row,
    anchor: float,
    laps: Sequence[Setting] = (),
) -> Setting:
    """Every letter of a row of words on its baseline, held at `anchor`.

    `laps` are rows of the same words that stand already and may be near.
    """
    scale = scale_of(lettering, face)
    runs = row.runs
    clusters = [cluster for words in runs for cluster in words.clusters]
    begins = _joined(words.starts + at for words, at in zip(runs, row.begins, strict=True))
    extents = _joined(words.extents for words in runs)
    inked = np.array([bool(face.cluster_outline(c.glyphs)) for c in clusters], dtype=bool)
    shifts = np.zeros(len(begins))
    if standing.keep_off:
        zones = corner_zones(baseline.base, baseline, scale * face.metrics.cap_height)
        lap = baseline.length if baseline.closed else None
        shifts = pushed(begins, begins + extents, inked, zones, lap, anchor)
    counts = [len(words.clusters) for words in runs]
    stretches = _stretches(row, shifts, counts)
    length = row.used
    if len(shifts):
        length += float(shifts[-1] - shifts[0])
    kept = tuple(c for c, wanted in zip(clusters, inked, strict=True) if wanted)
    extents = extents[inked]
    by_hand = [
        _joined(getattr(words, name) for words in runs)[inked]
        for name in ("along", "across", "turns", "scales", "starts", "natural", "meant")
    ]
    along, across, turns, scales, starts, natural, meant = by_hand
    run_of = np.repeat(np.arange(len(runs)), counts)[inked]
    middles = (begins + shifts)[inked] + extents / 2.0
    pairs = max(len(kept) - 1, 0)
    targets, floored = np.full(pairs, np.nan), np.zeros((2, pairs), dtype=bool)
    spacing: Spacing | None = None
    if lettering.spacing != "font" and len(kept) > 1 and stands_on_baseline(lettering):
        spacing = row_spacing(lettering, face, kept, scales, middles, run_of, shifts[inked], row,
                           (starts, natural), baseline, standing.within)  # fmt: skip
        found = spaced(spacing, baseline)
        moved = found.middles - middles
        targets, floored = spacing.targets, np.stack([found.at_floor, found.too_near])
        middles = found.middles
        stretches = moved_stretches(stretches, run_of, moved)
        ends = [moved[run_of == run][[0, -1]] for run in np.unique(run_of)]
        length += float(sum(last - first for first, last in ends))
    frames = baseline.frames(middles + along)
    if spacing is not None and lettering.fit is None:
        ways = np.where(along == 0.0, _given_way(spacing, middles, frames, baseline, laps), 0.0)
        if ways.any():
            middles = middles + ways
            frames = baseline.frames(middles + along)
            floored[0] |= (ways[:-1] != 0.0) | (ways[1:] != 0.0)
    begins = middles - extents / 2.0
    middles = middles + along
    low, high = _window(lettering, baseline, anchor, row)
    # What is larger or smaller than its line keeps to the touch line, not to the feet.
    across = across - touch_height(lettering.touch, face.metrics) * (scales - scale)
    stances = (
        stacked(frames, face, kept, scales, lettering.shape == "stacked-upright")
        if lettering.shape.startswith("stacked")
        else on_baseline(frames)
    )
    stances = turned_by_hand(stances, across, turns, scales * face.metrics.cap_height / 2.0)
    return Setting(
        lettering=lettering,
        line=line,
        face=face,
        guide=standing.guide,
        baseline=baseline,
        scale=scale,
        clusters=kept,
        missing=_once(missing for words in runs for missing in words.missing),
        scales=scales,
        places=np.concatenate([words.places for words in runs])[inked]
        if runs
        else np.empty(0, int),
        runs=run_of,
        advances=extents,
        middles=middles,
        frames=frames,
        stances=stances,
        meant=meant,
        pushes=shifts[inked],
        has_room=(begins >= low - JOINT) & (begins + extents <= high + JOINT),
        drawn=(middles >= low - JOINT) & (middles <= high + JOINT),
        stretches=stretches,
        length=length,
        overhang=row.over if row.goes_round else _overhang(baseline, stretches, length),
        targets=targets,
        at_floor=floored[0],
        too_near=floored[1],
        spare=row.spare,
    )


def _given_way(
    spacing: Spacing, middles: Floats, frames: Frames, baseline: Parallel, laps: Sequence[Setting]
) -> Floats:
    """By how much letters move along so as to keep clear of other turns and laps, mm.

    Only rigid ones that do not overlap by intent.
    """
    if spacing.overlap or spacing.bent:
        return np.zeros(len(middles))
    standing = [
        LapRow(clearance_of(lap.face, lap.clusters, lap.scales, bent=False),
               replace(lap.frames, points=lap.stances.feet, tangents=lap.stances.rights))
        for lap in laps
        if lap.clusters
    ]  # fmt: skip
    clearance = clearance_of(spacing.face, spacing.clusters, spacing.scales, bent=False)
    row = LapRow(clearance, frames)
    return give_way(row, middles, baseline, spacing.floor, spacing.stems, standing)


def baseline_curve(lettering: Lettering, guide: Curve, face: Face) -> Parallel:
    """The line on which the feet of the letters stand, in reading direction."""
    reading = guide if lettering.reading == "along" else guide.reversed()
    distance = lettering.standoff
    if not lettering.shape.startswith("stacked"):
        distance -= scale_of(lettering, face) * touch_height(lettering.touch, face.metrics)
    return parallel_of(reading, distance)


def _joined(arrays: Iterable[Floats]) -> Floats:
    parts = list(arrays)
    return np.concatenate(parts) if parts else np.empty(0)


def _once(missing: Iterable[MissingCharacter]) -> tuple[MissingCharacter, ...]:
    return tuple(dict.fromkeys(missing))


def _stretches(row: Row, shifts: Floats, counts: list[int]) -> tuple[Stretch, ...]:
    """The stretches of baseline that runs take up."""
    found: list[Stretch] = []
    at = 0
    for words, begin, count in zip(row.runs, row.begins, counts, strict=True):
        first, last = (shifts[at], shifts[at + count - 1]) if count else (0.0, 0.0)
        if words.length > 0.0:
            found.append((begin + float(first), begin + words.length + float(last)))
        at += count
    return tuple(found)


def _overhang(baseline: Parallel, stretches: tuple[Stretch, ...], length: float) -> float:
    """How much of what is set has no baseline under it, mm."""
    if not stretches:
        return 0.0
    start, end = min(s[0] for s in stretches), max(s[1] for s in stretches)
    if baseline.closed:
        return max(0.0, end - start - baseline.length)
    before, after = max(0.0, -start), max(0.0, end - baseline.length)
    return min(before, length) + min(after, length)


def _window(
    lettering: Lettering, baseline: Parallel, anchor: float, row: Row
) -> tuple[float, float]:
    """The stretch of baseline that the lettering may use: all of it, or one lap."""
    if row.goes_round:
        return -math.inf, math.inf
    if not baseline.closed:
        return 0.0, baseline.length
    first = anchor - SHARE_BEFORE[lettering.align] * baseline.length
    return first, first + baseline.length

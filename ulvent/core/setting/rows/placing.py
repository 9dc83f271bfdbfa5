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
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Lengths, Stations, Stretch
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves import Curve, Frames, Parallel, parallel_of
from ulvent.core.faces import Cluster, Face, MissingCharacter
from ulvent.core.recipe import Lettering
from ulvent.core.setting.gaps.clearance import clearance_of
from ulvent.core.setting.gaps.giving_way import Row as LapRow
from ulvent.core.setting.gaps.giving_way import give_way
from ulvent.core.setting.gaps.spacing import Spacing, spaced
from ulvent.core.setting.letters.corners import corner_zones, pushed
from ulvent.core.setting.letters.touch import touch_height
from ulvent.core.setting.letters.words import scale_of
from ulvent.core.setting.rows.apart import Apart
from ulvent.core.setting.rows.arrange import SHARE_BEFORE, Row
from ulvent.core.setting.rows.beside_corners import Sides
from ulvent.core.setting.rows.inked import InkedLetters, row_begins, row_extents, which_are_inked
from ulvent.core.setting.rows.row_spacing import moved_stretches, row_spacing, stands_side_by_side
from ulvent.core.setting.rows.setting import Setting
from ulvent.core.setting.rows.standing import Standing
from ulvent.core.stances import STANCES
from ulvent.core.stances.poses import Poses, turned_by_hand


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

    Over 40 lines for the many fields of a setting, which are filled here and nowhere else.
    """
    inked = which_are_inked(row, face)
    pushes = _pushes(lettering, face, standing, baseline, row, inked, anchor)
    letters = InkedLetters.of(row, inked, pushes)
    placed = _as_arranged(row, pushes, letters, baseline)
    if lettering.spacing != "font" and len(letters.clusters) > 1 and stands_side_by_side(lettering):
        spacing = row_spacing(lettering, face, letters, row, baseline, standing.within)
        sides = _sides(lettering, face, letters, baseline)
        placed = _evenly_spaced(placed, spacing, letters, sides)
        if lettering.fit is None:
            placed = _giving_way(placed, spacing, laps)
    elif _is_stacked_evenly(lettering, letters, row):
        placed = _apart(lettering, face, placed, letters)
    begins = placed.middles - letters.extents / 2.0
    middles = placed.middles + letters.along
    low, high = _window(lettering, baseline, anchor, row)
    length, stretches = placed.length, placed.stretches
    return Setting(
        lettering=lettering,
        line=line,
        face=face,
        guide=standing.guide,
        baseline=baseline,
        scale=scale_of(lettering, face),
        clusters=letters.clusters,
        missing=_once(missing for words in row.runs for missing in words.missing),
        scales=letters.scales,
        places=letters.places,
        runs=letters.runs,
        advances=letters.extents,
        middles=middles,
        frames=placed.frames,
        poses=_poses(lettering, face, letters, placed.frames),
        meant=letters.meant,
        pushes=letters.pushes,
        has_room=(begins >= low - JOINT) & (begins + letters.extents <= high + JOINT),
        drawn=(middles >= low - JOINT) & (middles <= high + JOINT),
        stretches=stretches,
        length=length,
        overhang=_over(row, baseline, begins, letters)
        if row.goes_round
        else _overhang(baseline, stretches, length),
        targets=placed.targets,
        at_floor=placed.at_floor,
        too_near=placed.too_near,
        spare=row.spare,
    )


@dataclass(frozen=True, eq=False)
class _Placed:
    """Where letters stand so far; fields as in `Setting`, but that `middles` are before `along`."""

    baseline: Parallel
    along: Floats
    middles: Stations
    stretches: tuple[Stretch, ...]
    length: float
    targets: Lengths
    at_floor: Booleans
    too_near: Booleans

    @cached_property
    def frames(self) -> Frames:
        """Of the baseline at the middles, what was done by hand included."""
        return self.baseline.frames(self.middles + self.along)


def _pushes(
    lettering: Lettering, face: Face, standing: Standing, baseline: Parallel, row: Row,
    inked: Booleans, anchor: float,
) -> Floats:  # fmt: skip
    """How far letters are pushed along the baseline to keep off corners, mm."""
    begins = row_begins(row)
    if not standing.keep_off:
        return np.zeros(len(begins))
    capital = scale_of(lettering, face) * face.metrics.cap_height
    zones = corner_zones(baseline.base, baseline, capital)
    lap = baseline.length if baseline.closed else None
    return pushed(begins, begins + row_extents(row), inked, zones, lap, anchor)


def _as_arranged(row: Row, pushes: Lengths, letters: InkedLetters, baseline: Parallel) -> _Placed:
    """Letters where the face's own advances put them."""
    length = row.used
    if len(pushes):
        length += float(pushes[-1] - pushes[0])
    pairs = max(len(letters.clusters) - 1, 0)
    none = np.zeros(pairs, dtype=bool)
    return _Placed(
        baseline=baseline,
        along=letters.along,
        middles=letters.middles,
        stretches=_stretches(row, pushes),
        length=length,
        targets=np.full(pairs, np.nan),
        at_floor=none,
        too_near=none,
    )


def _sides(
    lettering: Lettering, face: Face, letters: InkedLetters, baseline: Parallel
) -> Sides | None:
    """The sides of a row that corners push about; nothing where they do not."""
    if not letters.pushes.any():
        return None
    capital = scale_of(lettering, face) * face.metrics.cap_height
    zones = corner_zones(baseline.base, baseline, capital)
    return Sides.of(letters, zones, baseline.length if baseline.closed else None)


def _evenly_spaced(
    placed: _Placed, spacing: Spacing, letters: InkedLetters, sides: Sides | None
) -> _Placed:
    """Letters moved until every gap is its target; those beside corners side by side of them."""
    if sides is not None:
        spacing = sides.spacing(spacing)
    found = spaced(spacing, placed.baseline)
    middles = found.middles if sides is None else sides.beside_corners(found.middles)
    moved = middles - placed.middles
    runs = letters.runs
    ends = [moved[runs == run][[0, -1]] for run in np.unique(runs)]
    return replace(
        placed,
        middles=middles,
        stretches=moved_stretches(placed.stretches, runs, moved),
        length=placed.length + float(sum(last - first for first, last in ends)),
        targets=spacing.targets,
        at_floor=found.at_floor,
        too_near=found.too_near,
    )


def _is_stacked_evenly(lettering: Lettering, letters: InkedLetters, row: Row) -> bool:
    """Whether letters that do not stand side by side are to be evenly apart."""
    stacked = lettering.dial is None and not STANCES[lettering.shape].side_by_side
    evenly = lettering.spacing in ("even", "same")
    return stacked and evenly and not row.goes_round and len(letters.clusters) > 1


def _apart(lettering: Lettering, face: Face, placed: _Placed, letters: InkedLetters) -> _Placed:
    """Letters moved until the white between them is the same for all."""
    posing = STANCES[lettering.shape].posing

    def stand(frames: Frames, clusters: tuple[Cluster, ...], scales: Floats) -> Poses:
        return posing(frames, face, clusters, scales)

    apart = Apart(face, letters, placed.baseline, stand)
    middles = apart.placed(placed.middles, SHARE_BEFORE[lettering.align])
    moved = middles - placed.middles
    return replace(
        placed,
        middles=middles,
        stretches=moved_stretches(placed.stretches, letters.runs, moved),
        length=placed.length + float(moved[-1] - moved[0]),
    )


def _giving_way(placed: _Placed, spacing: Spacing, laps: Sequence[Setting]) -> _Placed:
    """Letters moved clear of other turns and laps; those moved by hand stay where they are."""
    ways = _ways(spacing, placed, laps)
    gave = (placed.along == 0.0) & (ways != 0.0)
    if not gave.any():
        return placed
    return replace(
        placed,
        middles=placed.middles + np.where(gave, ways, 0.0),
        at_floor=placed.at_floor | gave[:-1] | gave[1:],
    )


def _poses(lettering: Lettering, face: Face, letters: InkedLetters, frames: Frames) -> Poses:
    """How the letters stand, what was done by hand included."""
    # What is larger or smaller than its line keeps to the touch line, not to the feet.
    larger = letters.scales - scale_of(lettering, face)
    across = letters.across - touch_height(lettering.touch, face.metrics) * larger
    poses = STANCES[lettering.shape].posing(frames, face, letters.clusters, letters.scales)
    lift = letters.scales * face.metrics.cap_height / 2.0
    return turned_by_hand(poses, across, letters.turns, lift)


def _ways(spacing: Spacing, placed: _Placed, laps: Sequence[Setting]) -> Floats:
    """By how much letters move along so as to keep clear of other turns and laps, mm.

    Only rigid ones that do not overlap by intent.
    """
    if spacing.overlap or spacing.bent:
        return np.zeros(len(placed.middles))
    standing = [
        LapRow(clearance_of(lap.face, lap.clusters, lap.scales, bent=False),
               replace(lap.frames, points=lap.poses.feet, tangents=lap.poses.rights))
        for lap in laps
        if lap.clusters
    ]  # fmt: skip
    clearance = clearance_of(spacing.face, spacing.clusters, spacing.scales, bent=False)
    row = LapRow(clearance, placed.frames)
    return give_way(row, placed.middles, placed.baseline, spacing.floor, spacing.stems, standing)


def baseline_curve(lettering: Lettering, guide: Curve, face: Face) -> Parallel:
    """The line on which the feet of the letters stand, in reading direction."""
    reading = guide if lettering.reading == "along" else guide.reversed()
    distance = lettering.standoff
    if STANCES[lettering.shape].side_by_side:
        distance -= scale_of(lettering, face) * touch_height(lettering.touch, face.metrics)
    return parallel_of(reading, distance)


def _once(missing: Iterable[MissingCharacter]) -> tuple[MissingCharacter, ...]:
    return tuple(dict.fromkeys(missing))


def _stretches(row: Row, shifts: Floats) -> tuple[Stretch, ...]:
    """The stretches of baseline that runs take up."""
    found: list[Stretch] = []
    at = 0
    for words, begin in zip(row.runs, row.begins, strict=True):
        count = len(words.clusters)
        first, last = (shifts[at], shifts[at + count - 1]) if count else (0.0, 0.0)
        if words.length > 0.0:
            found.append((begin + float(first), begin + words.length + float(last)))
        at += count
    return tuple(found)


def _over(row: Row, baseline: Parallel, begins: Floats, letters: InkedLetters) -> float:
    """How much of what goes round has no room: what corners push on may meet its beginning."""
    if not letters.pushes.any():
        return row.over
    reach = float((begins + letters.extents).max() - begins.min())
    return max(row.over, reach - baseline.length)


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

"""Even gaps: letters moved along their baseline until every gap is what it should be.

The target of a pair is the gap that its designer gave it on the straight, or one common
gap for all, with tracking, word spaces and what was done by hand on top. All letters of a
row move together, by Newton's method on every gap at once: each pair opens by what it
misses over its slope, and all that follows goes along.

Pairs that are left alone keep their distance on the baseline: letters that join, and
figures and punctuation, unless asked. No two neighbours come nearer than a floor, their
whole outlines looked at, whatever the measure says.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ulvent.core.curves import Curve, Frames
from ulvent.core.faces import Cluster, Face
from ulvent.core.setting.clearance import clearance_of
from ulvent.core.setting.gaps import GapMeter, gap_meter
from ulvent.core.setting.sides import Band, band_of, softening
from ulvent.core.setting.words import joins
from ulvent.core.tolerances import JOINT

Floats = NDArray[np.float64]
Hold = Literal["row", "ring", "labels"]

FLOOR = 0.12
"""Least white between neighbours, in the face's white between stems; see docs/even-gaps.md."""
NEAR_AS_DESIGNED = 0.7
"""Where letters are nearer than the floor on the straight, they may come nearer by this factor."""
_SOLVED = 1e-9
"""Gaps that miss their target by no more than this, mm, are solved."""
_HELD = 1e-8
"""Letters that miss the floor by no more than this, mm, stand at it."""
_MOST_ROUNDS = 40
_PATIENCE = 6
"""After so many rounds without a better one nothing better is to be had."""
_MOST_LIFTS = 8
_DRIFTS_TAKEN = (1, 4, 8, 12)
"""The rounds in which drifts are measured."""
_DRIFT_STEP = 1e-4
_DRIFT_ROUNDS = 8
_MOST_STEP = 1.0
"""How far a pair opens in one round at most, in the white between stems.

More would take letters over bends that they do not come to, where other slopes hold."""
_LEAST_SLOPE, _MOST_SLOPE = 0.2, 20.0
_ROWS_REMEMBERED = 64
_ORDINARY = {"capital": "HAMBURGEFONTS", "x": "hamburgefonts"}
"""Words whose pairs are ordinary ones: the median of their gaps is a face's common gap."""


_TIED = 2.0
"""Letters that overlap do so over a height of so many overlaps: a point would not hold."""


@dataclass(frozen=True, eq=False)
class Spacing:
    """What the letters of a row are spaced by. Arrays run over n letters or n − 1 pairs.

    middles
        (n,) stations where the face's own advances put them
    targets
        (n − 1,) gaps, mm; nan for pairs that are left alone
    runs
        (n,) which run each belongs to
    hold, share
        how the row is held: as one by a share of its length, as a ring whose runs have
        equal joints, or each run by its middle
    floor, stems
        (n − 1,) least white between neighbours, and the face's white between stems, mm
    overlap
        whether every gap is to be its floor, which then is less than none
    """

    face: Face
    clusters: tuple[Cluster, ...]
    scales: Floats
    bent: bool
    middles: Floats
    targets: Floats
    runs: NDArray[np.int_]
    hold: Hold
    share: float
    floor: Floats
    stems: Floats
    overlap: bool = False


@dataclass(frozen=True, eq=False)
class Spaced:
    """Where letters stand once every gap is its target.

    at_floor
        (n − 1,) pairs that would come nearer than they may, and stand at the floor
    too_near
        (n − 1,) pairs that come nearer, since the floor would tear them apart
    """

    middles: Floats
    at_floor: NDArray[np.bool_]
    too_near: NDArray[np.bool_]


def spaced(spacing: Spacing, baseline: Curve) -> Spaced:
    """Move the letters of a row until every gap is its target."""
    row = _Row(spacing, baseline)
    if spacing.overlap:
        row.at_floor[:] = row.judged
        alone = np.zeros(len(spacing.targets), dtype=bool)
        return Spaced(row.solved(spacing.middles)[0], alone, alone)
    middles = _solved_from_last_time(row, spacing)
    too_near = np.zeros(len(row.targets), dtype=bool)
    for _ in range(_MOST_LIFTS):
        free = np.flatnonzero(row.judged & ~row.at_floor & ~too_near)
        near = row.near(middles, free)
        if not len(near):
            break
        row.at_floor[near] = True
        middles = row.solved(middles)[0]
        # A pair that would have to open by more than this is better left to a person.
        wide = row.at_floor & (row.gaps(middles) - row.targets > row.stems)
        too_near |= wide
        row.at_floor &= ~wide
        if wide.any():
            middles = row.solved(middles)[0]
    count = len(middles) - 1
    return Spaced(middles, row.at_floor[:count], too_near[:count])


def _solved_from_last_time(row: _Row, spacing: Spacing) -> Floats:
    """A row solved with no regard to floors.

    While it is pulled a row is nearly what it was: where it stood then is where to begin. Only
    what is solved in full from there is taken, since there is one such answer, wherever it is
    begun; a row that cannot be solved always comes to the same.
    """
    alone = np.isnan(spacing.targets).tobytes()
    last = _last_moved(spacing.face, spacing.clusters, spacing.scales.tobytes(), spacing.bent,
                       spacing.hold, spacing.share, alone)  # fmt: skip
    middles, miss = spacing.middles, np.inf
    for moved in tuple(last):
        middles, miss = row.solved(spacing.middles + moved)
    if miss > _SOLVED:
        middles, miss = row.solved(spacing.middles)
    last[:] = [middles - spacing.middles] if miss <= _SOLVED else []
    return middles


@lru_cache(_ROWS_REMEMBERED)
def _last_moved(*_row: object) -> list[Floats]:
    """By how much the letters of a row were moved when it was spaced last, mm, if it was."""
    return []


def forget_rows() -> None:
    """Forget where rows stood last; for measurements."""
    _last_moved.cache_clear()


class _Row:
    """One row being solved. On a ring its first letter stands behind the last one again."""

    def __init__(self, spacing: Spacing, baseline: Curve) -> None:
        self._spacing, self._baseline = spacing, baseline
        self._ring = spacing.hold == "ring"
        clusters, scales, runs = spacing.clusters, spacing.scales, spacing.runs
        self.targets, self.floor, self.stems = spacing.targets, spacing.floor, spacing.stems
        if self._ring:
            clusters, scales = (*clusters, clusters[0]), np.append(scales, scales[0])
            runs = np.append(runs, -1)
            self.targets = np.append(self.targets, np.nan)
            self.floor = np.append(self.floor, 0.0)
            self.stems = np.append(self.stems, 0.0)
        self._meter = gap_meter(spacing.face, clusters, scales, spacing.bent)
        self._clear = clearance_of(spacing.face, clusters, scales, spacing.bent)
        self._inside = np.diff(runs) == 0
        self.at_floor = np.zeros(len(self._inside), dtype=bool)
        self.judged = np.isfinite(self.targets) & self._inside

    def _frames(self, middles: Floats) -> tuple[Floats, Frames]:
        every = middles
        if self._ring:
            every = np.append(middles, middles[0] + self._baseline.length)
        return every, self._baseline.frames(every)

    def near(self, middles: Floats, which: NDArray[np.int_]) -> NDArray[np.int_]:
        """Those of the pairs `which` that come nearer than they may."""
        _, frames = self._frames(middles)
        which = which[self._clear.in_rows(frames)[which] < self.floor[which]]
        return which[self._clear.on_curve(frames, which) < self.floor[which] - JOINT]

    def _clear_of(self, frames: Frames, held: NDArray[np.int_]) -> Floats:
        """What the floor is held against."""
        if self._spacing.overlap:
            height = _TIED * -float(self.floor.min())
            return self._clear.overlaps(frames, height)[held]
        return self._clear.on_curve(frames, held)

    def gaps(self, middles: Floats) -> Floats:
        return self._meter.on_curve(*self._frames(middles))[0]

    def solved(self, middles: Floats) -> tuple[Floats, float]:
        """Where every gap is its target, or the floor for pairs that would come nearer.

        And by how much they miss it at most, mm.

        Newton's method. A gap opens by its slope as its second letter moves on, and by its
        drift as both do: they come to other bends of the guide.
        """
        best, least, found_in = middles, np.inf, 0
        drifts = np.zeros(len(self.targets))
        held = np.flatnonzero(self.at_floor)
        before: tuple[Floats, Floats] | None = None
        for turn in range(_MOST_ROUNDS):
            every, frames = self._frames(middles)
            found, slopes = self._meter.on_curve(every, frames)
            if turn in _DRIFTS_TAKEN:
                drifts = self._drifts(middles, found)
            targets = self.targets
            if len(held):
                clear, apart = self._clear_of(frames, held), every[held + 1] - every[held]
                found[held], slopes[held] = clear, 1.0
                if before is not None:
                    # How fast outlines part as letters do is seen from the last two rounds.
                    parted = apart - before[1]
                    known = (np.abs(parted) > JOINT) & np.isfinite(clear + before[0])
                    slopes[held[known]] = (clear[known] - before[0][known]) / parted[known]
                before = clear, apart
                targets = np.where(self.at_floor, self.floor, targets)
            solve = self.judged & np.isfinite(found)
            miss = np.where(solve, targets - found, 0.0)
            miss[self.at_floor & (np.abs(miss) <= _HELD)] = 0.0
            if self._ring:
                joints = ~self._inside
                apart = found[joints].mean() - found[joints]
                miss[joints] = np.where(np.isfinite(apart), apart, 0.0)
            worst = float(np.abs(miss).max(initial=0.0))
            if worst < least:
                best, least, found_in = middles, worst, turn
            if worst <= _SOLVED or turn - found_in > _PATIENCE:
                break
            slopes = np.clip(np.where(solve, slopes, 1.0), _LEAST_SLOPE, _MOST_SLOPE)
            middles = middles + self._step(miss, slopes, np.where(solve, drifts, 0.0))
        return best, least

    def _drifts(self, middles: Floats, found: Floats) -> Floats:
        """How fast each gap opens as both of its letters move on."""
        further = self.gaps(middles + _DRIFT_STEP)
        drifts = (further - found) / _DRIFT_STEP
        return np.where(np.isfinite(drifts) & ~self.at_floor, drifts, 0.0)

    def _step(self, miss: Floats, slopes: Floats, drifts: Floats) -> Floats:
        """How far each letter goes so that every pair opens by what it misses."""
        moved = np.zeros(len(self._spacing.middles))
        farthest = np.where(self._inside, _MOST_STEP * self.stems, np.inf)
        for _ in range(_DRIFT_ROUNDS if drifts.any() else 1):
            firsts = moved if self._ring else moved[:-1]
            steps = np.clip((miss - drifts * firsts) / slopes, -farthest, farthest)
            if self._ring:
                joints = ~self._inside
                steps[joints] = miss[joints] - steps.sum() / joints.sum()
            moved = self._moved(steps)
        return moved

    def _moved(self, steps: Floats) -> Floats:
        """How far each letter goes when every pair opens by its step, mm."""
        share = self._spacing.share
        if self._spacing.hold == "labels":
            return self._about_their_middles(steps)
        moved = np.concatenate([[0.0], np.cumsum(steps)])
        if self._ring:
            first = int(np.argmin(self._inside)) if not self._inside.all() else -1
            kept: Floats = moved[:-1] - share * moved[first]
            return kept
        row: Floats = moved - share * moved[-1]
        return row

    def _about_their_middles(self, steps: Floats) -> Floats:
        """Every run stays where it is by its middle."""
        first = np.concatenate([[True], ~self._inside])
        moved = np.concatenate([[0.0], np.cumsum(np.where(self._inside, steps, 0.0))])
        starts = np.flatnonzero(first)
        ends = np.append(starts[1:], len(moved)) - 1
        middles = (moved[starts] + moved[ends]) / 2.0
        kept: Floats = moved - middles[np.cumsum(first) - 1]
        return kept


def gap_targets(
    face: Face,
    clusters: tuple[Cluster, ...],
    scales: Floats,
    designed: Floats,
    extra: Floats,
    common: bool,
    space_all: bool,
) -> Floats:
    """(n − 1,) targets, nan for pairs that are left alone.

    Parameters
    ----------
    designed, extra
        (n − 1,) gaps on the straight, as designed and with what is added to each distance;
        and what that is, mm
    common
        whether all pairs that are not parted by a space have one gap
    """
    targets = designed.copy()
    for index, (one, two) in enumerate(zip(clusters, clusters[1:], strict=False)):
        if (joins(face, one) and joins(face, two) and face.touching(one, two)) or not (
            space_all or (_is_letter(one) and _is_letter(two))
        ):
            targets[index] = np.nan
        elif common and two.place - one.place == len(one.text):
            least = min(scales[index], scales[index + 1])
            targets[index] = common_gap(face, band_of(one, two)) * least + extra[index]
    return targets


def _is_letter(cluster: Cluster) -> bool:
    return cluster.text[:1].isalpha()


@lru_cache(maxsize=64)
def common_gap(face: Face, band: Band) -> float:
    """The one gap that stands for all of a face's in a band, font units."""
    shaped = face.shape(_ORDINARY[band])
    if shaped.missing or len(shaped.clusters) < len(_ORDINARY[band]):
        how = softening(face, band)
        return how.white
    starts = np.concatenate([[0.0], np.cumsum([c.advance for c in shaped.clusters])])[:-1]
    meter = GapMeter(face, shaped.clusters, np.ones(len(shaped.clusters)))
    return float(np.median(meter.on_straight(starts)))

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
from typing import Literal, NamedTuple

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Integers, Lengths, Scales, Stations
from ulvent.core.base.remembered import remembered
from ulvent.core.base.tolerances import GAP, JOINT
from ulvent.core.curves import Curve, Frames
from ulvent.core.faces import Cluster, Face
from ulvent.core.setting.gaps.clearance import clearance_of
from ulvent.core.setting.gaps.gap import gap_meter

Hold = Literal["row", "ring", "labels"]

FLOOR = 0.12
"""Least white between neighbours, in the face's white between stems; see docs/even-gaps.md."""
NEAR_AS_DESIGNED = 0.7
"""Where letters are nearer than the floor on the straight, they may come nearer by this factor."""
_HELD = 1e-8
"""Letters that miss the floor by no more than this, mm, stand at it."""
_MOST_ROUNDS = 40
_PATIENCE = 6
"""After so many rounds without a better one nothing better is to be had."""
_MOST_LIFTS = 8
_SLOW = 0.1
"""A round that leaves more than this of the worst miss has gone by wrong rates."""
_ROUNDS_BETWEEN = 3
"""Rates are measured anew after so many rounds at the soonest."""
_DRIFT_STEP = 1e-4
_STEP_ROUNDS = 8
_STEP_SETTLED = 1e-5
_MOST_STEP = 1.0
"""How far a pair opens in one round at most, in the white between stems.

More would take letters over bends that they do not come to, where other slopes hold."""
_LEAST_SLOPE, _MOST_SLOPE = 0.2, 20.0
_PLAIN = np.array([[-1.0], [1.0]])
"""Rates of pairs that open as their letters part."""
_ROWS_REMEMBERED = 64
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
    within
        gaps that miss their target by no more than this, mm, are solved
    """

    face: Face
    clusters: tuple[Cluster, ...]
    scales: Scales
    bent: bool
    middles: Stations
    targets: Lengths
    runs: Integers
    hold: Hold
    share: float
    floor: Floats
    stems: Lengths
    overlap: bool = False
    within: float = GAP


@dataclass(frozen=True, eq=False)
class Spaced:
    """Where letters stand once every gap is its target.

    at_floor
        (n − 1,) pairs that would come nearer than they may, and stand at the floor
    too_near
        (n − 1,) pairs that come nearer, since the floor would tear them apart
    """

    middles: Stations
    at_floor: Booleans
    too_near: Booleans


def spaced(spacing: Spacing, baseline: Curve) -> Spaced:
    """Move the letters of a row until every gap is its target."""
    row = _Row(spacing, baseline)
    if spacing.overlap:
        row.at_floor[:] = row.judged
        alone = np.zeros(len(spacing.targets), dtype=bool)
        return Spaced(row.solved(spacing.middles).middles, alone, alone)
    left_alone = np.isnan(spacing.targets).tobytes()
    remembered = _remembered(spacing.face, spacing.clusters, spacing.scales.tobytes(), spacing.bent,
                             spacing.hold, spacing.share, left_alone)  # fmt: skip
    last = remembered.pop() if remembered else None
    begun: _Solved | None = None
    if last is not None:
        row.at_floor = last.at_floor
        solved = row.solved(row.middles + last.moved, last.rates)
        if last.whole and solved.miss <= row.within and row.rightly_held(solved.middles):
            found, now = _as_found(row, solved)
            remembered.append(now)
            return found
        if solved.miss <= row.within and not last.at_floor.any():
            begun = solved
        row.at_floor = np.zeros(len(row.at_floor), dtype=bool)
    found, anew = _anew(row, begun or row.solved(row.middles))
    if anew is not None:
        remembered.append(anew)
    return found


@dataclass(frozen=True, eq=False)
class _LastTime:
    """How a row was spaced last.

    While it is pulled a row is nearly what it was: where it stood then is where to begin. Only
    what is solved in full from there is taken, since there is one such answer, wherever it is
    begun; a row that cannot be solved always comes to the same.

    moved
        (n,) by how much its letters had been moved, mm
    rates
        as in `_Solved`
    at_floor
        as in `_Row`
    whole
        whether it stood so in the end, and not only with no regard to floors
    """

    moved: Floats
    rates: Floats
    at_floor: Booleans
    whole: bool = True


def _anew(row: _Row, begun: _Solved) -> tuple[Spaced, _LastTime | None]:
    """From the row solved with no regard to floors: one pair after another is held apart."""
    solved = begun
    too_near = np.zeros(len(row.targets), dtype=bool)
    for _ in range(_MOST_LIFTS):
        near = row.near(solved.middles, row.free[~too_near[row.free]])
        if not len(near):
            break
        row.at_floor[near] = True
        solved = row.solved(solved.middles, solved.rates)
        # A pair that would have to open by more than this is better left to a person.
        wide = row.at_floor & (row.gaps(solved.middles) - row.targets > row.stems)
        too_near |= wide
        row.at_floor &= ~wide
        if wide.any():
            solved = row.solved(solved.middles, solved.rates)
    found, now = _as_found(row, solved, too_near)
    if begun.miss > row.within:
        return found, None
    if too_near.any() or solved.miss > row.within:
        none = np.zeros(len(row.at_floor), dtype=bool)
        now = _LastTime(begun.middles - row.middles, begun.rates, none, whole=False)
    return found, now


def _as_found(
    row: _Row, solved: _Solved, too_near: Booleans | None = None
) -> tuple[Spaced, _LastTime]:
    count = len(solved.middles) - 1
    too_near = np.zeros(count, dtype=bool) if too_near is None else too_near[:count]
    return (
        Spaced(solved.middles, row.at_floor[:count], too_near),
        _LastTime(solved.middles - row.middles, solved.rates, row.at_floor),
    )


@remembered(_ROWS_REMEMBERED)
def _remembered(*_row: object) -> list[_LastTime]:
    """How a row was spaced last, if it was."""
    return []


def forget_rows() -> None:
    """Forget how rows were spaced last; for measurements."""
    _remembered.cache_clear()


class _Solved(NamedTuple):
    """Where letters stand, by how much their gaps miss at most, mm, and what led there.

    rates
        (2, pairs) how fast each gap opens as its first letter moves on, and as its second does
    """

    middles: Stations
    miss: float
    rates: Floats


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
        self._asked: Floats | None = None
        self._answer: tuple[Floats, Frames]
        self._meter = gap_meter(spacing.face, clusters, scales, spacing.bent)
        self._clear = clearance_of(spacing.face, clusters, scales, spacing.bent)
        self._inside = np.diff(runs) == 0
        self.middles, self.within = spacing.middles, spacing.within
        self.at_floor = np.zeros(len(self._inside), dtype=bool)
        self.judged = np.isfinite(self.targets) & self._inside

    def _frames(self, middles: Stations) -> tuple[Floats, Frames]:
        """Stations of all letters, a ring's first one twice, and the frames there."""
        if middles is not self._asked:
            every = middles
            if self._ring:
                every = np.append(middles, middles[0] + self._baseline.length)
            self._asked, self._answer = middles, (every, self._baseline.frames(every))
        return self._answer

    @property
    def free(self) -> Integers:
        """The pairs that are given their targets."""
        return np.flatnonzero(self.judged & ~self.at_floor)

    def near(self, middles: Stations, which: Integers) -> Integers:
        """Those of the pairs `which` that come nearer than they may."""
        _, frames = self._frames(middles)
        which = which[self._clear.apart(frames)[which] < self.floor[which]]
        if len(which):
            which = which[self._clear.in_rows(frames, which) < self.floor[which]]
        return which[self._clear.on_curve(frames, which) < self.floor[which] - JOINT]

    def rightly_held(self, middles: Stations) -> bool:
        """Whether every pair at the floor is wider there than its target, and no other too near."""
        held = self.at_floor
        if held.any() and not (self.gaps(middles) >= self.targets)[held].all():
            return False
        return not len(self.near(middles, self.free))

    def _clear_of(self, frames: Frames, held: Integers) -> Floats:
        """What the floor is held against."""
        if self._spacing.overlap:
            height = _TIED * -float(self.floor.min())
            return self._clear.overlaps(frames, height)[held]
        return self._clear.on_curve(frames, held)

    def gaps(self, middles: Stations) -> Lengths:
        return self._meter.on_curve(*self._frames(middles))

    def solved(self, middles: Stations, rates: Floats | None = None) -> _Solved:
        """Where every gap is its target, or the floor for pairs that would come nearer.

        Newton's method on all gaps at once, each of which depends on two letters. From round to
        round the rates of each gap are mended by how it has opened (L. K. Schubert,
        "Modification of a quasi-Newton method for nonlinear equations with a sparse Jacobian",
        Mathematics of Computation 24, 1970).
        """
        best = _Solved(middles, np.inf, np.empty(0))
        found_in, measured_in, before = 0, 1 - _ROUNDS_BETWEEN, np.inf
        held = np.flatnonzero(self.at_floor)
        targets = np.where(self.at_floor, self.floor, self.targets)
        came_from: tuple[Floats, Floats] | None = None
        for turn in range(_MOST_ROUNDS):
            every, frames = self._frames(middles)
            found = self._meter.on_curve(every, frames)
            if len(held):
                found[held] = self._clear_of(frames, held)
            miss = self._misses(targets, found)
            worst = float(np.abs(miss).max(initial=0.0))
            slow = worst > _SLOW * before and turn - measured_in >= _ROUNDS_BETWEEN
            if rates is None:
                slopes = self._slopes(every, frames)
                rates = np.stack([-slopes, slopes])
            elif slow and worst > self.within:
                rates, measured_in = self._measured_rates(middles, every, frames, found), turn
            elif came_from is not None:
                with np.errstate(invalid="ignore"):
                    rates = _learned(rates, every - came_from[0], found - came_from[1])
            if worst < best.miss:
                best, found_in = _Solved(middles, worst, rates), turn
            if worst <= self.within or turn - found_in > _PATIENCE:
                break
            came_from, before = (every, found), worst
            middles = middles + self._step(miss, np.where(np.isfinite(found), rates, _PLAIN))
        return best

    def _misses(self, targets: Lengths, found: Floats) -> Floats:
        """By how much each gap misses what it is to be; that of joints is what is usual."""
        miss = np.where(self.judged & np.isfinite(found), targets - found, 0.0)
        miss[self.at_floor & (np.abs(miss) <= max(_HELD, self.within))] = 0.0
        if self._ring:
            joints = ~self._inside
            apart = found[joints].mean() - found[joints]
            miss[joints] = np.where(np.isfinite(apart), apart, 0.0)
        return miss

    def _slopes(self, every: Floats, frames: Frames) -> Floats:
        """How fast each gap opens as its second letter moves on, or its clearance at the floor."""
        slopes = np.where(self.at_floor, 1.0, self._meter.slopes(every, frames))
        return np.clip(np.where(np.isfinite(slopes), slopes, 1.0), _LEAST_SLOPE, _MOST_SLOPE)

    def _measured_rates(
        self, middles: Stations, every: Floats, frames: Frames, gaps: Lengths
    ) -> Floats:
        """Rates by slopes, and by how much gaps open as both letters move on a little."""
        slopes = self._slopes(every, frames)
        drifts = (self.gaps(middles + _DRIFT_STEP) - gaps) / _DRIFT_STEP
        drifts = np.where(np.isfinite(drifts) & ~self.at_floor, drifts, 0.0)
        return np.stack([drifts - slopes, slopes])

    def _step(self, miss: Floats, rates: Floats) -> Floats:
        """How far each letter goes so that every pair opens by what it misses."""
        moved = np.zeros(len(self.middles))
        rates = np.where(self.judged, rates, _PLAIN)
        slopes = np.clip(rates[1], _LEAST_SLOPE, _MOST_SLOPE)
        drifts = rates[0] + rates[1]
        farthest = np.where(self._inside, _MOST_STEP * self.stems, np.inf)
        for _ in range(_STEP_ROUNDS):
            firsts = moved if self._ring else moved[:-1]
            steps = np.clip((miss - drifts * firsts) / slopes, -farthest, farthest)
            if self._ring:
                joints = ~self._inside
                steps[joints] = miss[joints] - steps.sum() / joints.sum()
            last, moved = moved, self._moved(steps)
            if np.abs(moved - last).max() <= _STEP_SETTLED * np.abs(moved).max():
                break
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


def _learned(rates: Floats, moved: Floats, opened: Floats) -> Floats:
    """Rates as little changed as may be, so that they say by how much gaps have opened."""
    both = np.stack([moved[:-1], moved[1:]])
    size = (both**2).sum(axis=0)
    missed = opened - (rates * both).sum(axis=0)
    known = (size > JOINT**2) & np.isfinite(missed)
    return rates + both * (np.where(known, missed, 0.0) / np.where(known, size, 1.0))

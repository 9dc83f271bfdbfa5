"""Parallels freed of what runs backwards and of the loops where they cross themselves.

The raw parallel, every foot moved along its normal, is cut at its cusps, which lie
where the distance equals the radius of the bend, and where it crosses itself. Of the
arcs between cuts those stay whose points are as far from the base as they should be;
an arc that belongs to a loop comes nearer. Where the probes of an arc disagree, a cut
was missed: it is found by bisection.

Two questions use this. A parallel that is a guide must keep its distance from all of
the base. The baseline of lettering must keep it only from the base nearby, since the
next turn of a spiral is not its concern.
"""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections.abc import Callable
from functools import cached_property
from itertools import pairwise
from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import (
    Booleans,
    Floats,
    Stretch,
)
from ulvent.core.base.errors import CurveError
from ulvent.core.base.remembered import remembered
from ulvent.core.base.tolerances import JOINT, NIL, SAME
from ulvent.core.base.trees import point_tree
from ulvent.core.curves.chain import Chain
from ulvent.core.curves.curve import Curve
from ulvent.core.curves.near_base import NearBase
from ulvent.core.curves.parallel import Parallel, Span
from ulvent.core.curves.plain import plain
from ulvent.core.curves.raw_parallel import RawParallel
from ulvent.core.curves.section import Section
from ulvent.core.curves.traced import traced_runs

_MADE_FROM = "made from"
_NEARBY = 6.0
"""What counts as nearby along the base, in distances of the parallel."""
_STEPS = 1200
_PROBES = 11
_PROBES_A_DISTANCE = 16
_MOST_PROBES = 4000
_SAMPLES_A_DISTANCE = 4
_MOST_SAMPLES = 200_000
_MOST_ALL_PROBES = 250_000
_SLACK = 1e-6
"""By how much, mm, a probe may be too near: rounding, not a loop."""
_BISECTIONS = 40
_NEWTON_ROUNDS = 24
_MEETING = 1e-4
"""Ends of spans nearer than this, mm, are one crossing."""
_MOST_STRETCHES = 2000
_MOST_ARCS = 20_000
_TOO_OFTEN = "the parallel would cross itself too often to be made"
_SAME = 1e-7
"""Places nearer than this share of the base are one place."""


def nearby_spans(base: Curve, distance: float) -> list[Span]:
    """The longest run of spans of a parallel that keeps its distance from the base nearby."""
    runs = _runs_of(base, distance, within=_NEARBY * abs(distance))
    longest = max(runs, key=lambda run: sum(span.end - span.begin for span in run), default=[])
    if longest and base.closed and not _closes(base, distance, longest):
        return []
    return sorted(longest, key=lambda span: (span.begin, span.end))


@remembered(256)
def trimmed_parallels(base: Curve, distance: float) -> tuple[Curve, ...]:
    """The parallel of `base` in the pieces that are left of it, the longest first.

    The parallel of a parallel is one of what that was made from, at the sum of both distances.

    Raises
    ------
    CurveError
        Where nothing is left, naming the largest distance that leaves something.
    """
    if distance == 0.0:
        return (base,)
    origin = base.notes.get(_MADE_FROM)
    if origin and (origin.whole or origin.distance * distance > 0.0):
        return trimmed_parallels(origin.base, origin.distance + distance)
    base = plain(base)
    runs = _runs_of(base, distance, within=math.inf)
    pieces = [_as_curve(base, distance, run) for run in runs]
    if len(pieces) == 1:
        left = sum(span.end - span.begin for span in runs[0])
        whole = base.length - left <= _SAME * base.length
        pieces[0].notes[_MADE_FROM] = _Origin(base, distance, whole)
    if not pieces:
        raise CurveError(
            f"nothing is left of a parallel {abs(distance):g} mm away; "
            f"the farthest one is {_farthest(base, distance):.4g} mm away"
        )
    return tuple(sorted(pieces, key=lambda piece: -piece.length))


def _runs_of(base: Curve, distance: float, within: float) -> list[list[Span]]:
    traced = traced_runs(base, distance)
    if traced is not None:
        return traced
    keeping = _Keeping(base, distance, within)
    return [keeping.raw.spans(run) for run in keeping.runs()]


class _Origin(NamedTuple):
    """What a parallel was made from that is in one piece, and whether nothing of it was lost.

    What was lost does not come back by going back: the parallel that is asked for is then one
    of what is left.
    """

    base: Curve
    distance: float
    whole: bool


def _as_curve(base: Curve, distance: float, run: list[Span]) -> Curve:
    whole = Parallel(base, distance, run)
    closes = _closes(base, distance, run)
    if closes == base.closed:
        return whole
    # An open base whose parallel closes on itself, or a ring of which a part is left.
    opened = Section(whole, 0.0, whole.length) if base.closed else whole
    return Chain([opened], closed=closes)


def _closes(base: Curve, distance: float, run: list[Span]) -> bool:
    whole = Parallel(base, distance, run)
    ends = whole._frames(np.array([0.0, whole.length])).points
    return bool(np.hypot(*(ends[1] - ends[0])) <= JOINT)


def _farthest(base: Curve, distance: float) -> float:
    """The largest distance on that side that leaves anything, by bisection."""
    low, high = 0.0, abs(distance)
    for _ in range(16):
        middle = (low + high) / 2.0
        kept = _runs_of(base, math.copysign(middle, distance), math.inf)
        low, high = (middle, high) if kept else (low, middle)
    return low


class _Keeping:
    """What of a raw parallel keeps its distance from the base `within` so far along it, mm."""

    def __init__(self, base: Curve, distance: float, within: float) -> None:
        self.base, self.distance, self.within = base, distance, within
        self.raw = RawParallel(base, distance)
        self.length = self.raw.length

    def runs(self) -> list[list[Stretch]]:
        """What stays, in runs: each stretch of a run begins where the last one ended."""
        forward = self._forward()
        cuts = self._crossings(forward)
        arcs: list[Stretch] = []
        for begin, end in forward:
            inside = cuts[bisect_right(cuts, begin) : bisect_left(cuts, end)]
            edges = pairwise([begin, *inside, end])
            arcs.extend((first, last) for first, last in edges if last - first > JOINT)
        if len(arcs) > _MOST_ARCS:
            raise CurveError(_TOO_OFTEN)
        return self._runs(self._good_parts(arcs))

    def _forward(self) -> list[Stretch]:
        """Stretches, between closing corners and cusps, on which the parallel runs forwards."""
        bounds = self.raw.place(np.array([0.0, *self.raw.closing, self.base.length]))
        bounds[-1] = self.length
        found: list[Stretch] = []
        for begin, end in zip(bounds[:-1], bounds[1:], strict=True):
            if end - begin <= JOINT:
                continue
            count = max(64, math.ceil(_STEPS * (end - begin) / self.length))
            places = np.linspace(begin, end, count + 1)
            places[[0, -1]] += np.array([1e-9, -1e-9]) * (end - begin)
            forwards = self.raw.runs_forward(places)
            flips = np.flatnonzero(forwards[1:] != forwards[:-1])
            edges = self._bisected(
                places[flips], places[flips + 1], forwards[flips], self.raw.runs_forward
            )
            edges = [begin, *edges, end]
            first = 0 if forwards[0] else 1
            found.extend(
                (low, high)
                for low, high in zip(edges[first:-1:2], edges[first + 1 :: 2], strict=True)
                if high - low > JOINT
            )
        return found

    def _bisected(
        self,
        low: Floats,
        high: Floats,
        at_low: Booleans,
        question: Callable[[Floats], Booleans],
    ) -> list[float]:
        """Where the answer to `question` changes between each `low` and `high`."""
        if not len(low):
            return []
        for _ in range(_BISECTIONS):
            middle = (low + high) / 2.0
            same = question(middle) == at_low
            low, high = np.where(same, middle, low), np.where(same, high, middle)
        middles: list[float] = ((low + high) / 2.0).tolist()
        return middles

    def _crossings(self, forward: list[Stretch]) -> list[float]:
        """Places where the raw parallel crosses itself, both places of every crossing."""
        step = self.length / _STEPS
        places = np.concatenate(
            [
                np.linspace(begin, end, max(8, math.ceil((end - begin) / step)) + 1)
                for begin, end in forward
            ]
            or [np.empty(0)]
        )
        if len(places) < 3:
            return []
        raw = self.raw.frames(places)[1]
        strides = np.hypot(*np.diff(raw, axis=0).T)
        pairs = point_tree(raw).query_pairs(
            max(1.5 * float(np.median(strides)), JOINT), output_type="ndarray"
        )
        first, second = places[pairs.min(axis=1)], places[pairs.max(axis=1)]
        apart = second - first
        if self.base.closed:
            apart = np.minimum(apart, self.length - apart)
        wanted = (apart > 3.0 * step) & (apart <= 2.0 * self.within)
        one, other = _thinned(first[wanted], second[wanted], 4.0 * step)
        guesses = self._near_guesses(forward)
        one = np.concatenate([one, guesses[:, 0]])
        other = np.concatenate([other, guesses[:, 1]])
        return self._polished(one, other)

    def _near_guesses(self, forward: list[Stretch]) -> Floats:
        """Places from which the crossing at each closing corner and cusp pair is sought."""
        guesses: list[Stretch] = []
        joints = list(zip(forward[:-1], forward[1:], strict=True))
        if self.base.closed and forward:
            (begin, end) = forward[0]
            joints.append((forward[-1], (begin + self.length, end + self.length)))
        for (_, end), (begin, _) in joints:
            width = max(begin - end, abs(self.distance) / 4.0)
            guesses.extend((end - k * width, begin + k * width) for k in (0.3, 1.0, 3.0))
        return np.array(guesses).reshape(-1, 2)

    def _polished(self, one: Floats, other: Floats) -> list[float]:
        """Newton's method in two unknowns on all guesses at once."""
        if not len(one):
            return []
        found = np.zeros(len(one), dtype=bool)
        for _ in range(_NEWTON_ROUNDS):
            _, points, velocities = self.raw.frames(self._held(np.concatenate([one, other])))
            count = len(one)
            apart = points[count:] - points[:count]
            found = np.hypot(*apart.T) <= SAME
            if found.all():
                break
            u, v = velocities[:count], velocities[count:]
            determinant = u[:, 1] * v[:, 0] - u[:, 0] * v[:, 1]
            safe = np.where(np.abs(determinant) > NIL, determinant, np.inf)
            limit = self.length / 20.0
            step_one = (v[:, 0] * apart[:, 1] - v[:, 1] * apart[:, 0]) / safe
            step_other = (u[:, 0] * apart[:, 1] - u[:, 1] * apart[:, 0]) / safe
            one = np.where(found, one, one + np.clip(step_one, -limit, limit))
            other = np.where(found, other, other + np.clip(step_other, -limit, limit))
        on_it = found & (np.abs(other - one) > _SAME * self.length)
        if not self.base.closed:
            on_it &= (np.minimum(one, other) >= 0.0) & (np.maximum(one, other) <= self.length)
        cuts = np.concatenate([one[on_it], other[on_it]])
        cuts = np.sort(np.mod(cuts, self.length) if self.base.closed else cuts)
        fresh = np.diff(cuts, prepend=-np.inf) > JOINT
        found_cuts: list[float] = cuts[fresh].tolist()
        return found_cuts

    def _held(self, places: Floats) -> Floats:
        return places if self.base.closed else np.clip(places, 0.0, self.length)

    def _good_parts(self, arcs: list[Stretch]) -> list[Stretch]:
        """The stretches of all arcs that keep their distance; arcs are cut where that changes."""
        if not arcs:
            return []
        probes = [self._probes(begin, end) for begin, end in arcs]
        owners = np.repeat(np.arange(len(arcs)), [len(each) for each in probes])
        places = np.concatenate(probes)
        if len(places) > _MOST_ALL_PROBES:
            raise CurveError(
                f"the line is {self.base.length:.0f} mm long and bends more tightly than its "
                f"parallel {abs(self.distance):g} mm away can follow, in too many places"
            )
        good = self._keeps_away(places)
        flips = np.flatnonzero((good[1:] != good[:-1]) & (owners[1:] == owners[:-1]))
        edges = np.array(
            self._bisected(places[flips], places[flips + 1], good[flips], self._keeps_away)
        )
        firsts = np.flatnonzero(np.diff(owners, prepend=-1))
        kept: list[Stretch] = []
        whose = np.searchsorted(owners[flips], np.arange(len(arcs) + 1))
        for index, (begin, end) in enumerate(arcs):
            mine = edges[whose[index] : whose[index + 1]]
            bounds = [begin, *mine.tolist(), end]
            first = 0 if good[firsts[index]] else 1
            kept.extend(
                (low, high)
                for low, high in zip(bounds[first:-1:2], bounds[first + 1 :: 2], strict=True)
                if high - low > JOINT
            )
        return kept

    def _probes(self, begin: float, end: float) -> Floats:
        """Places at which an arc is held against the base.

        What another branch of the base takes away may be short: they lie densely, and one
        close to either end.
        """
        wanted = math.ceil(_PROBES_A_DISTANCE * (end - begin) / abs(self.distance))
        count = min(max(_PROBES, wanted), _MOST_PROBES)
        inset = min(1e-3 * abs(self.distance), 0.01 * (end - begin))
        return np.linspace(begin + inset, end - inset, count)

    def _keeps_away(self, places: Floats) -> Booleans:
        """Whether the parallel's points are no nearer to the base than its distance."""
        _, points, _ = self.raw.frames(places)
        wanted = abs(self.distance) - _SLACK
        stations, _ = self.raw.station(places)
        return self._near_base.keeps(points, stations, wanted)

    @cached_property
    def _near_base(self) -> NearBase:
        wanted = math.ceil(_SAMPLES_A_DISTANCE * self.base.length / abs(self.distance))
        steps = min(max(_STEPS, wanted), _MOST_SAMPLES)
        return NearBase(self.base, self.within, steps)

    def _runs(self, kept: list[Stretch]) -> list[list[Stretch]]:
        if not kept:
            return []
        begins, ends = (np.array(edge) for edge in zip(*kept, strict=True))
        inset = 1e-9 * self.length
        starts, finishes = self.raw.frames(begins + inset)[1], self.raw.frames(ends - inset)[1]
        if len(kept) > _MOST_STRETCHES:
            raise CurveError(_TOO_OFTEN)
        following: dict[int, int] = {}
        taken: set[int] = set()
        near = point_tree(starts).query_ball_point(finishes, _MEETING)
        for index, candidates in enumerate(near):
            met = [other for other in candidates if other not in taken]
            if met:
                # The next one in order first: a corner passed there and back is passed once.
                following[index] = min(met, key=lambda other: (other - index - 1) % len(kept))
                taken.add(following[index])
        heads = [index for index in range(len(kept)) if index not in taken]
        runs: list[list[Stretch]] = []
        seen: set[int] = set()
        for head in [*heads, *range(len(kept))]:
            run: list[Stretch] = []
            at: int | None = head
            while at is not None and at not in seen:
                seen.add(at)
                run.append(kept[at])
                at = following.get(at)
            if run:
                runs.append(run)
        return runs


def _thinned(first: Floats, second: Floats, cell: float) -> tuple[Floats, Floats]:
    """One pair of places for each small patch of pairs."""
    if not len(first):
        return first, second
    cells = np.stack([first // cell, second // cell], axis=1)
    _, kept = np.unique(cells, axis=0, return_index=True)
    return first[kept], second[kept]

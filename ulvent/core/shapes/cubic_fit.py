"""Cubics fitted to smooth dense lines: ends and end tangents given, two handle lengths solved.

Chord-length parameters, then rounds of reprojection and 2 × 2 normal equations. A ridge that
pulls the handles toward a third of the chord keeps straight pieces from running away. What
misses is divided, evenly in length and turning; neighbours that do as one are merged. All
lines go in one batch (after P. J. Schneider, "An algorithm for automatically fitting digitized
curves", Graphics Gems, 1990).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ulvent.core.base.arrays import Controls, Floats, Integers, Lengths, Points, Vectors, wrapped
from ulvent.core.base.tolerances import JOINT, NIL, ROUNDING
from ulvent.core.base.trees import point_tree
from ulvent.core.curves.cubics import points_at, velocities_at

_SAMPLES = 24
_ROUNDS = 5
_RIDGE = 1e-5
_SHORTEST, _LONGEST = 0.02, 1.5
"""Handles in chords."""
_MOST_TURN = math.radians(100.0)
_MOST_TURN_MERGED = math.radians(125.0)
_AT_KNOT = 1e-3
_MOST_DIVISIONS = 10
_MOST_MERGES = 4


@dataclass(frozen=True, eq=False)
class Run:
    """A smooth stretch of a line: dense points (k, 2), and the tangents at its ends.

    A loop is a closed line without any corner or straight side.
    """

    points: Points
    first: Floats
    last: Floats
    loop: bool = False

    @property
    def straight(self) -> bool:
        return len(self.points) == 2


class _Spans:
    """All curved runs as one line of points, and stretches of it as pairs of indices."""

    def __init__(self, runs: list[Run]) -> None:
        self.points = np.concatenate([run.points for run in runs])
        sizes = np.array([len(run.points) for run in runs])
        self.lasts = np.cumsum(sizes) - 1
        self.firsts = self.lasts - sizes + 1
        steps = np.diff(self.points, axis=0)
        lengths = np.hypot(*steps.T)
        lengths[self.lasts[:-1]] = 0.0
        self.along = np.concatenate([[0.0], np.cumsum(lengths)])
        ways = np.divide(
            steps, lengths[:, None], out=np.zeros_like(steps), where=lengths[:, None] > 0.0
        )
        # Chord directions weighted by the other chord's length: exact on a circle.
        before, after = np.concatenate([ways[:1], ways]), np.concatenate([ways, ways[-1:]])
        shorter = (
            np.concatenate([[1.0], lengths])[:, None],
            np.concatenate([lengths, [1.0]])[:, None],
        )
        tangents = before * shorter[1] + after * shorter[0]
        for index, run in enumerate(runs):
            tangents[self.firsts[index]], tangents[self.lasts[index]] = run.first, run.last
        norms = np.hypot(*tangents.T)[:, None]
        self.tangents = tangents / np.where(norms > 0.0, norms, 1.0)
        angles = np.arctan2(self.tangents[:, 1], self.tangents[:, 0])
        turns = np.abs(wrapped(np.diff(angles)))
        turns[self.lasts[:-1]] = 0.0
        self.turned = np.concatenate([[0.0], np.cumsum(turns)])

    def divided(self, begin: int, end: int, parts: int) -> list[tuple[int, int]]:
        """A stretch in parts, even in half length and half turning, at its own points."""
        parts = min(parts, end - begin)
        edges = np.unique(self._evenly(begin, end, np.linspace(0.0, 1.0, parts + 1)))
        return list(zip(edges[:-1].tolist(), edges[1:].tolist(), strict=True))

    def _evenly(self, begin: int, end: int, shares: Floats) -> Integers:
        measure = self._measure(begin, end)
        found = begin + np.searchsorted(measure, shares * measure[-1] - 1e-12)
        found[0], found[-1] = begin, end
        return np.asarray(np.clip(found, begin, end))

    def _measure(self, begin: int, end: int) -> Floats:
        along = self.along[begin : end + 1] - self.along[begin]
        turned = self.turned[begin : end + 1] - self.turned[begin]
        total = turned[-1]
        half: Floats = along / along[-1] + (turned / total if total > ROUNDING else 0.0)
        return half

    def samples(self, begin: int, end: int) -> Points:
        """(_SAMPLES, 2) points of a stretch between its ends, on its chords."""
        measure = self._measure(begin, end)
        shares = np.linspace(0.0, measure[-1], _SAMPLES + 2)[1:-1]
        mine = self.points[begin : end + 1]
        return np.column_stack([np.interp(shares, measure, mine[:, axis]) for axis in (0, 1)])


def fitted_cubics(runs: list[Run], goal: float, knots: Points | None) -> list[list[Floats]]:
    """Smooth runs as cubics within `goal` mm of their points.

    They are first divided where the curves ended that they were made from, so that each is
    one of those again.
    """
    spans = _Spans(runs)
    ends = _at_knots(spans.points, knots)
    waiting: list[tuple[int, int]] = []
    for first, last, run in zip(spans.firsts.tolist(), spans.lasts.tolist(), runs, strict=True):
        inner = ends[np.searchsorted(ends, first + 1) : np.searchsorted(ends, last)].tolist()
        edges = [first, *inner, last]
        for begin, end in zip(edges[:-1], edges[1:], strict=True):
            turn = spans.turned[end] - spans.turned[begin]
            halves = 2 if run.loop and not inner else 1
            waiting.extend(spans.divided(begin, end, max(halves, math.ceil(turn / _MOST_TURN))))
    done: dict[int, tuple[int, Floats]] = {}
    for division in range(_MOST_DIVISIONS + 1):
        cubics, offs = _solved(spans, waiting)
        missed: list[tuple[int, int]] = []
        for (begin, end), cubic, off in zip(waiting, cubics, offs.tolist(), strict=True):
            if off <= goal or end - begin == 1 or division == _MOST_DIVISIONS:
                done[begin] = end, cubic
            else:
                parts = min(max(2, math.ceil((off / goal) ** (1.0 / 6.0))), 4)
                missed.extend(spans.divided(begin, end, parts))
        waiting = missed
        if not waiting:
            break
    _merge(spans, done, goal)
    found: list[list[Floats]] = []
    for first, last in zip(spans.firsts.tolist(), spans.lasts.tolist(), strict=True):
        cubics_here: list[Floats] = []
        at = first
        while at < last:
            at, cubic = done[at]
            cubics_here.append(cubic)
        found.append(cubics_here)
    return found


def _at_knots(points: Points, knots: Points | None) -> Integers:
    """Indices of the points that are at knots, in order."""
    if knots is None or not len(knots):
        return np.empty(0, dtype=int)
    far, nearest = point_tree(points).query(knots, distance_upper_bound=_AT_KNOT)
    return np.unique(nearest[np.isfinite(far)])


def _merge(spans: _Spans, done: dict[int, tuple[int, Floats]], goal: float) -> None:
    """Make one of two neighbours wherever one does, a few times over."""
    lasts = set(spans.lasts.tolist())
    for _ in range(_MOST_MERGES):
        pairs = [
            (begin, middle, done[middle][0])
            for begin, (middle, _) in done.items()
            if middle not in lasts
            and spans.turned[done[middle][0]] - spans.turned[begin] <= _MOST_TURN_MERGED
        ]
        if not pairs:
            return
        cubics, offs = _solved(spans, [(begin, end) for begin, _, end in pairs])
        merged = False
        ranked = sorted(zip(offs.tolist(), pairs, cubics, strict=True), key=lambda each: each[0])
        for off, (begin, middle, end), cubic in ranked:
            if off > goal:
                break
            there = begin in done and done[begin][0] == middle and middle in done
            if there and done[middle][0] == end:
                del done[middle]
                done[begin] = end, cubic
                merged = True
        if not merged:
            return


def _solved(spans: _Spans, stretches: list[tuple[int, int]]) -> tuple[Floats, Floats]:
    """(n, 4, 2) the best cubic of each stretch, and (n,) by how much each misses it, mm."""
    begins, ends = np.array(stretches).T
    return nearest_cubics(
        spans.points[begins],
        spans.tangents[begins],
        spans.points[ends],
        -spans.tangents[ends],
        np.stack([spans.samples(begin, end) for begin, end in stretches]),
    )


def nearest_cubics(
    a: Points, ta: Vectors, d: Points, td: Vectors, points: Points
) -> tuple[Controls, Lengths]:
    """The cubics that come nearest to points between their ends.

    Parameters
    ----------
    a, d
        (n, 2) where the cubics begin and end, mm
    ta, td
        (n, 2) unit vectors in which their handles point
    points
        (n, k, 2) points between, in order, mm

    Returns
    -------
    controls, off
        (n, 4, 2) the cubics, and (n,) by how much each misses its points at most, mm
    """
    chords = np.maximum(np.hypot(*(d - a).T), JOINT)
    whole = np.concatenate([a[:, None], points, d[:, None]], axis=1)
    along = np.cumsum(np.hypot(*np.moveaxis(np.diff(whole, axis=1), 2, 0)), axis=1)
    t = along[:, :-1] / along[:, -1:]
    third = along[:, -1] / 3.0
    handles = np.stack([third, third], axis=1)
    for _ in range(_ROUNDS):
        handles = _handles(a, ta, td, d, points, t, third, chords)
        controls = np.stack([a, a + ta * handles[:, :1], d + td * handles[:, 1:], d], axis=1)
        t = _reprojected(controls, points, t)
    off = points - points_at(controls, t)
    dense = np.hypot(off[..., 0], off[..., 1]).max(axis=1)
    return controls, dense


def _handles(
    a: Floats, ta: Floats, td: Floats, d: Floats, points: Points, t: Floats, third: Floats,
    chords: Floats,
) -> Floats:  # fmt: skip
    """(n, 2) handle lengths of least squares at parameters `t`, off along the normals."""
    u = 1.0 - t
    one, two = 3.0 * u * u * t, 3.0 * u * t * t
    rest = points - a[:, None] * (u**3 + one)[..., None] - d[:, None] * (t**3 + two)[..., None]
    along_a = one[..., None] * ta[:, None]
    along_d = two[..., None] * td[:, None]
    # Only what is across the line counts: along it the parameters give way.
    tangents = _way(a, ta, td, d, third, t)
    across = np.stack([-tangents[..., 1], tangents[..., 0]], axis=2)
    ca = np.einsum("nki,nki->nk", along_a, across)
    cd = np.einsum("nki,nki->nk", along_d, across)
    r = np.einsum("nki,nki->nk", rest, across)
    ridge = _RIDGE * t.shape[1]
    aa, dd, ad = (ca * ca).sum(1) + ridge, (cd * cd).sum(1) + ridge, (ca * cd).sum(1)
    ra, rd = (ca * r).sum(1) + ridge * third, (cd * r).sum(1) + ridge * third
    det = np.maximum(aa * dd - ad * ad, 1e-30)
    found = np.stack([(ra * dd - rd * ad) / det, (rd * aa - ra * ad) / det], axis=1)
    lengths: Lengths = np.clip(found, _SHORTEST * chords[:, None], _LONGEST * chords[:, None])
    return lengths


def _way(a: Floats, ta: Floats, td: Floats, d: Floats, third: Floats, t: Floats) -> Floats:
    """Unit tangents of the cubic with handles of a third."""
    controls = np.stack([a, a + ta * third[:, None], d + td * third[:, None], d], axis=1)
    slopes = velocities_at(controls, t)
    norms: Floats = slopes / np.maximum(np.hypot(slopes[..., 0], slopes[..., 1]), JOINT)[..., None]
    return norms


def _reprojected(controls: Controls, points: Points, t: Floats) -> Floats:
    """Parameters moved toward the points' feet, by one Newton step."""
    off = points_at(controls, t) - points
    slope = velocities_at(controls, t)
    along = np.einsum("nki,nki->nk", off, slope)
    squared = np.maximum(np.einsum("nki,nki->nk", slope, slope), NIL)
    moved: Floats = np.clip(t - along / squared, 0.0, 1.0)
    return moved

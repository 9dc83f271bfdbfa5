"""Few nodes: curves fitted to the dense polylines of a region.

A ring is broken at its corners and at its straight lines. What is left is smooth, and is a
circular arc where one fits; otherwise it is cubics whose ends and end tangents are those of
the line, and whose two handle lengths are solved: chord-length parameters, then rounds of
reprojection and 2 × 2 normal equations. A ridge that pulls the handles toward a third of
the chord keeps straight pieces from running away. What misses is divided, evenly in length
and turning; neighbours that do as one are merged. All runs of a region go in one batch.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from ulvent.core.faces import Outline
from ulvent.core.shapes.flat import flat_contours
from ulvent.core.shapes.region import Region, ring_area
from ulvent.core.tolerances import DENSE, FITTING, JOINT, LONG_CHORD, SHARP_TURN

Floats = NDArray[np.float64]

_AIM = 0.82
"""Share of the tolerance that fits aim at: between samples they may be a little farther off."""
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
_MOST_RETRIES = 3
_CRUMB = 2.0 * DENSE
"""Points nearer than this, mm, are one: crumbs of the computation."""
_ROUNDING = 2e-9
"""Error of an area, square mm, per mm of its edge, that comes of rounding."""
_LARGEST_ARC = 5000.0
_ARC_TURN = math.radians(10.0)
"""An arc turns by at least this much; less is as well a cubic."""
_EIGHTH = math.pi / 4.0


def refitted(region: Region, tolerance: float = FITTING) -> Outline:
    """The region's edge as closed contours of few nodes, within `tolerance` mm.

    Outer contours run counter-clockwise, holes clockwise; none crosses itself or another.
    Parts and holes that are narrower than the tolerance are left out.
    """
    kept = [ring for ring in region.rings if not _is_speck(ring, tolerance)]
    outline = _fitted_rings(kept, tolerance, region.knots)
    if _is_clean(outline, kept):
        return outline
    if len(region.parts) > 1:
        outline = Outline.joined(refitted(part, tolerance) for part in region.parts)
    # Where two edges are nearer than the tolerance, it is taken more strictly.
    for _ in range(_MOST_RETRIES):
        if _is_clean(outline, kept):
            return outline
        tolerance /= 4.0
        outline = _fitted_rings(kept, tolerance, region.knots)
    return outline if _is_clean(outline, kept) else Outline.joined(map(_polygon, kept))


def refitted_lines(
    lines: Sequence[tuple[Floats, bool]], tolerance: float = FITTING
) -> list[Outline]:
    """Dense lines (k, 2), open or closed, each as one contour of few nodes."""
    return _fitted_lines(lines, tolerance)


def _is_speck(ring: Floats, tolerance: float) -> bool:
    steps = np.hypot(*np.diff(ring, axis=0, append=ring[:1]).T).sum()
    return bool(2.0 * abs(ring_area(ring)) <= tolerance * steps)


def _fitted_rings(rings: Sequence[Floats], tolerance: float, knots: Floats) -> Outline:
    return Outline.joined(_fitted_lines([(ring, True) for ring in rings], tolerance, knots))


def _is_clean(outline: Outline, rings: Sequence[Floats]) -> bool:
    """Whether the fitted contours wind once round what the rings do, and nothing crosses."""
    fitted = Region.of(outline)
    if len(fitted.rings) != len(rings):
        return False
    # A loop of a crossing winds twice or backward: the sum of areas tells it.
    signed = sum(ring_area(points) for points, _ in flat_contours(outline))
    return abs(signed - fitted.area) <= _ROUNDING * fitted.perimeter


def _polygon(ring: Floats) -> Outline:
    return Outline("M" + "L" * (len(ring) - 1) + "Z", ring)


@dataclass(frozen=True, eq=False)
class _Run:
    """A smooth stretch of a line: dense points (k, 2), and the tangents at its ends.

    A loop is a closed line without any corner or straight side.
    """

    points: Floats
    first: Floats
    last: Floats
    loop: bool = False

    @property
    def straight(self) -> bool:
        return len(self.points) == 2


def _fitted_lines(
    lines: Sequence[tuple[Floats, bool]], tolerance: float, knots: Floats | None = None
) -> list[Outline]:
    runs_of = [_runs(points, closed) for points, closed in lines]
    goal = max(tolerance * _AIM - DENSE, 0.3 * tolerance)
    fitted = _fitted([run for runs in runs_of for run in runs], goal, knots)
    found: list[Outline] = []
    at = 0
    for (_, closed), runs in zip(lines, runs_of, strict=True):
        pieces = [piece for run in fitted[at : at + len(runs)] for piece in run]
        at += len(runs)
        if pieces:
            found.append(_drawn(pieces, closed))
    return found


def _drawn(pieces: list[Floats], closed: bool) -> Outline:
    """Lines (2, 2) and cubics (4, 2), each beginning where the last one ended."""
    operations = ["M"]
    points = [pieces[0][:1]]
    for piece in pieces:
        operations.append("L" if len(piece) == 2 else "C")
        points.append(piece[1:])
    if closed:
        if operations[-1] == "L" and len(operations) > 2:
            operations.pop()
            points.pop()
        else:
            points[-1] = np.concatenate([points[-1][:-1], points[0]])
        operations.append("Z")
    return Outline("".join(operations), np.concatenate(points))


def _runs(points: Floats, closed: bool) -> list[_Run]:
    """A line broken at its corners and at both ends of its straight sides."""
    points = _without_crumbs(points, closed)
    if len(points) < 2 or (closed and len(points) < 3):
        return []
    line = np.concatenate([points, points[:1]]) if closed else points
    chords = np.diff(line, axis=0)
    lengths = np.hypot(*chords.T)
    angles = np.arctan2(chords[:, 1], chords[:, 0])
    before = np.roll(angles, 1)
    turns = np.abs((angles - before + math.pi) % (2.0 * math.pi) - math.pi)
    straight = lengths > LONG_CHORD
    breaks = (turns > SHARP_TURN) | straight | np.roll(straight, 1)
    count = len(chords)
    if not closed:
        breaks[0] = True
        ends = [*np.flatnonzero(breaks).tolist(), count]
    elif breaks.any():
        # One straight side may have been cut in two where the ring happened to begin.
        first = int(np.flatnonzero(breaks)[0])
        line = np.concatenate([np.roll(points, -first, axis=0), points[first : first + 1]])
        breaks, turns, straight = (np.roll(each, -first) for each in (breaks, turns, straight))
        chords, lengths = np.roll(chords, -first, axis=0), np.roll(lengths, -first)
        ends = [*np.flatnonzero(breaks).tolist(), count]
    else:
        tangent = chords[-1] / lengths[-1] + chords[0] / lengths[0]
        tangent /= np.hypot(*tangent)
        return [_Run(line, tangent, tangent, loop=True)]
    ways = chords / lengths[:, None]
    runs: list[_Run] = []
    for begin, end in zip(ends[:-1], ends[1:], strict=True):
        stretch = line[begin : end + 1]
        smooth_before = turns[begin] <= SHARP_TURN and (closed or begin > 0)
        after = end % count
        smooth_after = turns[after] <= SHARP_TURN and (closed or end < count)
        into = ways[begin - 1] if smooth_before and straight[begin - 1] else _tangent(stretch)
        out = ways[after] if smooth_after and straight[after] else -_tangent(stretch[::-1])
        runs.append(_Run(stretch, into, out))
    return _straightened(runs, closed)


def _straightened(runs: list[_Run], closed: bool) -> list[_Run]:
    """Straight runs that go on in one direction, as one."""
    kept: list[_Run] = []
    for run in runs:
        if kept and kept[-1].straight and run.straight and _in_line(kept[-1], run):
            joined = np.stack([kept[-1].points[0], run.points[-1]])
            kept[-1] = _Run(joined, run.first, run.last)
        else:
            kept.append(run)
    if closed and len(kept) > 3 and kept[0].straight and kept[-1].straight:
        last = kept[-1]
        if _in_line(last, kept[0]):
            joined = np.stack([last.points[0], kept[0].points[-1]])
            kept = [_Run(joined, last.first, kept[0].last), *kept[1:-1]]
    return kept


def _in_line(one: _Run, two: _Run) -> bool:
    """Whether the joint is on the straight way from begin to end."""
    begin, joint, end = one.points[0], one.points[1], two.points[1]
    way = end - begin
    length = float(np.hypot(*way))
    off = abs(way[0] * (joint - begin)[1] - way[1] * (joint - begin)[0])
    return length > JOINT and off <= DENSE * length and float((joint - begin) @ way) > 0.0


def _without_crumbs(points: Floats, closed: bool) -> Floats:
    """Without points that lie on the one before: of those only the first is kept."""
    near = np.hypot(*np.diff(points, axis=0).T) < _CRUMB
    if not near.any() and not (closed and np.hypot(*(points[0] - points[-1])) < _CRUMB):
        return points
    kept = [0]
    for index in range(1, len(points)):
        if math.dist(points[index], points[kept[-1]]) >= _CRUMB:
            kept.append(index)
    if not closed and kept[-1] != len(points) - 1:
        kept[-1 if len(kept) > 1 else len(kept) :] = [len(points) - 1]
    while closed and len(kept) > 1 and math.dist(points[kept[-1]], points[kept[0]]) < _CRUMB:
        kept.pop()
    return points[kept]


def _tangent(points: Floats) -> Floats:
    """Unit tangent where a dense line begins: of the parabola by chords through three points."""
    one = points[1] - points[0]
    here = float(np.hypot(*one))
    if len(points) < 3:
        return np.asarray(one / here)
    two = points[2] - points[1]
    there = float(np.hypot(*two))
    tangent = one / here + (one / here - two / there) * here / (here + there)
    return np.asarray(tangent / np.hypot(*tangent))


def _fitted(runs: list[_Run], goal: float, knots: Floats | None) -> list[list[Floats]]:
    """For each run its lines and cubics, in order."""
    found: list[list[Floats]] = [[] for _ in runs]
    curved: list[int] = []
    for index, run in enumerate(runs):
        if run.straight:
            found[index] = [run.points]
        elif (arc := _arc(run, goal)) is not None:
            found[index] = arc
        else:
            curved.append(index)
    if curved:
        for index, cubics in zip(
            curved, _cubics([runs[i] for i in curved], goal, knots), strict=True
        ):
            found[index] = cubics
    return found


def _arc(run: _Run, goal: float) -> list[Floats] | None:
    """Cubics of at most 45° on a circle, where one goes through the run."""
    points = run.points
    centred = points - points.mean(axis=0)
    design = np.column_stack([2.0 * centred, np.ones(len(points))])
    (x, y, c), *_ = np.linalg.lstsq(design, (centred**2).sum(axis=1), rcond=None)
    radius = math.sqrt(max(c + x * x + y * y, 0.0))
    if not 0.0 < radius < _LARGEST_ARC:
        return None
    offs = centred - (x, y)
    if np.abs(np.hypot(*offs.T) - radius).max() > 0.5 * goal:
        return None
    angles = np.unwrap(np.arctan2(offs[:, 1], offs[:, 0]))
    sweep = float(angles[-1] - angles[0])
    if run.loop:
        sweep = math.copysign(2.0 * math.pi, sweep)
    side = math.copysign(1.0, sweep)
    if abs(sweep) < _ARC_TURN or not (np.diff(angles) * side > 0.0).all():
        return None
    centre = points.mean(axis=0) + (x, y)
    parts = math.ceil(abs(sweep) / _EIGHTH - 1e-3)
    edges = angles[0] + np.linspace(0.0, sweep, parts + 1)
    spokes = np.column_stack([np.cos(edges), np.sin(edges)])
    ends = centre + radius * spokes
    ends[0], ends[-1] = points[0], points[-1]
    handle = 4.0 / 3.0 * math.tan(sweep / parts / 4.0) * radius
    ways = handle * np.column_stack([-spokes[:, 1], spokes[:, 0]])
    return [
        np.stack([ends[i], ends[i] + ways[i], ends[i + 1] - ways[i + 1], ends[i + 1]])
        for i in range(parts)
    ]


class _Spans:
    """All curved runs as one line of points, and stretches of it as pairs of indices."""

    def __init__(self, runs: list[_Run]) -> None:
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
        turns = np.abs((np.diff(angles) + math.pi) % (2.0 * math.pi) - math.pi)
        turns[self.lasts[:-1]] = 0.0
        self.turned = np.concatenate([[0.0], np.cumsum(turns)])

    def divided(self, begin: int, end: int, parts: int) -> list[tuple[int, int]]:
        """A stretch in parts, even in half length and half turning, at its own points."""
        parts = min(parts, end - begin)
        edges = np.unique(self._evenly(begin, end, np.linspace(0.0, 1.0, parts + 1)))
        return list(zip(edges[:-1].tolist(), edges[1:].tolist(), strict=True))

    def _evenly(self, begin: int, end: int, shares: Floats) -> NDArray[np.int_]:
        measure = self._measure(begin, end)
        found = begin + np.searchsorted(measure, shares * measure[-1] - 1e-12)
        found[0], found[-1] = begin, end
        return np.asarray(np.clip(found, begin, end))

    def _measure(self, begin: int, end: int) -> Floats:
        along = self.along[begin : end + 1] - self.along[begin]
        turned = self.turned[begin : end + 1] - self.turned[begin]
        total = turned[-1]
        half: Floats = along / along[-1] + (turned / total if total > 1e-9 else 0.0)
        return half

    def samples(self, begin: int, end: int) -> Floats:
        """(_SAMPLES, 2) points of a stretch between its ends, on its chords."""
        measure = self._measure(begin, end)
        shares = np.linspace(0.0, measure[-1], _SAMPLES + 2)[1:-1]
        mine = self.points[begin : end + 1]
        return np.column_stack([np.interp(shares, measure, mine[:, axis]) for axis in (0, 1)])


def _cubics(runs: list[_Run], goal: float, knots: Floats | None) -> list[list[Floats]]:
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


def _at_knots(points: Floats, knots: Floats | None) -> NDArray[np.int_]:
    """Indices of the points that are at knots, in order."""
    if knots is None or not len(knots):
        return np.empty(0, dtype=int)
    far, nearest = cKDTree(points).query(knots, distance_upper_bound=_AT_KNOT)
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
    a, d = spans.points[begins], spans.points[ends]
    ta, td = spans.tangents[begins], -spans.tangents[ends]
    points = np.stack([spans.samples(begin, end) for begin, end in stretches])
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
    off = points - _at(controls, t)
    dense = np.hypot(off[..., 0], off[..., 1]).max(axis=1)
    return controls, dense


def _handles(
    a: Floats, ta: Floats, td: Floats, d: Floats, points: Floats, t: Floats, third: Floats,
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
    lengths: Floats = np.clip(found, _SHORTEST * chords[:, None], _LONGEST * chords[:, None])
    return lengths


def _way(a: Floats, ta: Floats, td: Floats, d: Floats, third: Floats, t: Floats) -> Floats:
    """Unit tangents of the cubic with handles of a third."""
    controls = np.stack([a, a + ta * third[:, None], d + td * third[:, None], d], axis=1)
    slopes = _slope(controls, t)
    norms: Floats = slopes / np.maximum(np.hypot(slopes[..., 0], slopes[..., 1]), JOINT)[..., None]
    return norms


def _at(controls: Floats, t: Floats) -> Floats:
    u = 1.0 - t
    blend = np.stack([u**3, 3.0 * u * u * t, 3.0 * u * t * t, t**3], axis=2)
    points: Floats = np.einsum("nkj,nji->nki", blend, controls)
    return points


def _slope(controls: Floats, t: Floats) -> Floats:
    u = 1.0 - t
    steps = 3.0 * np.diff(controls, axis=1)
    blend = np.stack([u * u, 2.0 * u * t, t * t], axis=2)
    slopes: Floats = np.einsum("nkj,nji->nki", blend, steps)
    return slopes


def _reprojected(controls: Floats, points: Floats, t: Floats) -> Floats:
    """Parameters moved toward the points' feet, by one Newton step."""
    off = _at(controls, t) - points
    slope = _slope(controls, t)
    along = np.einsum("nki,nki->nk", off, slope)
    squared = np.maximum(np.einsum("nki,nki->nk", slope, slope), 1e-12)
    moved: Floats = np.clip(t - along / squared, 0.0, 1.0)
    return moved

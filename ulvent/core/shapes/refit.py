"""Few nodes: curves fitted to the dense polylines of a region.

A ring is broken at its corners and at its straight sides. What is left is smooth, and is
circular arcs where one circle fits; otherwise cubics, as `cubics` fits them.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from itertools import islice

import numpy as np

from ulvent.core.base.arrays import Floats, Points, wrapped
from ulvent.core.base.tolerances import DENSE, FITTING, JOINT, LONG_CHORD, SHARP_TURN
from ulvent.core.curves.cubics import arc_nodes, between_nodes
from ulvent.core.outlines import Outline, Polyline
from ulvent.core.shapes.cubic_fit import Run, fitted_cubics
from ulvent.core.shapes.flat import flat_contours
from ulvent.core.shapes.region import Region, ring_area

_AIM = 0.82
"""Share of the tolerance that fits aim at: between samples they may be a little farther off."""
_MOST_RETRIES = 3
_BATCH = 20_000
"""Points of rings that are fitted in one go."""
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
    (outline,) = refitted_each([region], tolerance)
    return outline


def refitted_each(regions: Sequence[Region], tolerance: float = FITTING) -> list[Outline]:
    """The edges of regions, each as `refitted` has it: many small ones together take less time."""
    return [outline for some in _batches(regions) for outline in _refitted(some, tolerance)]


def _batches(regions: Sequence[Region]) -> Iterator[list[Region]]:
    """In their order, so many that the memory they take stays small."""
    batch: list[Region] = []
    points = 0
    for region in regions:
        batch.append(region)
        points += sum(map(len, region.rings))
        if points > _BATCH:
            yield batch
            batch, points = [], 0
    if batch:
        yield batch


def _refitted(regions: Sequence[Region], tolerance: float) -> list[Outline]:
    kept = [[ring for ring in region.rings if not _is_speck(ring, tolerance)] for region in regions]
    fitted = iter(_fitted_rings(
        [ring for rings in kept for ring in rings], tolerance,
        np.concatenate([region.knots for region in regions]),
    ))  # fmt: skip
    return [
        _clean(Outline.joined(islice(fitted, len(rings))), region, rings, tolerance)
        for region, rings in zip(regions, kept, strict=True)
    ]


def _clean(outline: Outline, region: Region, kept: list[Points], tolerance: float) -> Outline:
    """What was fitted to a region; where it crosses itself, by part or more strictly again."""
    if _is_clean(outline, kept):
        return outline
    if len(region.parts) > 1:
        outline = Outline.joined(refitted_each(region.parts, tolerance))
    # Where two edges are nearer than the tolerance, it is taken more strictly.
    for _ in range(_MOST_RETRIES):
        if _is_clean(outline, kept):
            return outline
        tolerance /= 4.0
        outline = Outline.joined(_fitted_rings(kept, tolerance, region.knots))
    return outline if _is_clean(outline, kept) else Outline.joined(map(_polygon, kept))


def refitted_lines(lines: Sequence[Polyline], tolerance: float = FITTING) -> list[Outline]:
    """Dense lines (k, 2), open or closed, each as one contour of few nodes."""
    return [outline for outline in _fitted_lines(lines, tolerance) if outline]


def _is_speck(ring: Points, tolerance: float) -> bool:
    steps = np.hypot(*np.diff(ring, axis=0, append=ring[:1]).T).sum()
    return bool(2.0 * abs(ring_area(ring)) <= tolerance * steps)


def _fitted_rings(rings: Sequence[Points], tolerance: float, knots: Points) -> list[Outline]:
    return _fitted_lines([Polyline(ring, True) for ring in rings], tolerance, knots)


def _is_clean(outline: Outline, rings: Sequence[Points]) -> bool:
    """Whether the fitted contours wind once round what the rings do, and nothing crosses."""
    fitted = Region.of(outline)
    if len(fitted.rings) != len(rings):
        return False
    # A loop of a crossing winds twice or backward: the sum of areas tells it.
    signed = sum(ring_area(points) for points, _ in flat_contours(outline))
    return abs(signed - fitted.area) <= _ROUNDING * fitted.perimeter


def _polygon(ring: Points) -> Outline:
    return Outline("M" + "L" * (len(ring) - 1) + "Z", ring)


def _fitted_lines(
    lines: Sequence[Polyline], tolerance: float, knots: Points | None = None
) -> list[Outline]:
    """Of each line what is fitted to it; nothing, where it has no length."""
    runs_of = [_runs(points, closed) for points, closed in lines]
    goal = max(tolerance * _AIM - DENSE, 0.3 * tolerance)
    fitted = _fitted([run for runs in runs_of for run in runs], goal, knots)
    found: list[Outline] = []
    at = 0
    for (_, closed), runs in zip(lines, runs_of, strict=True):
        pieces = [piece for run in fitted[at : at + len(runs)] for piece in run]
        at += len(runs)
        found.append(_drawn(pieces, closed) if pieces else Outline.empty())
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


def _runs(points: Points, closed: bool) -> list[Run]:
    """A line broken at its corners and at both ends of its straight sides."""
    points = _without_crumbs(points, closed)
    if len(points) < 2 or (closed and len(points) < 3):
        return []
    line = np.concatenate([points, points[:1]]) if closed else points
    chords = np.diff(line, axis=0)
    lengths = np.hypot(*chords.T)
    angles = np.arctan2(chords[:, 1], chords[:, 0])
    before = np.roll(angles, 1)
    turns = np.abs(wrapped(angles - before))
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
        return [Run(line, tangent, tangent, loop=True)]
    ways = chords / lengths[:, None]
    runs: list[Run] = []
    for begin, end in zip(ends[:-1], ends[1:], strict=True):
        stretch = line[begin : end + 1]
        smooth_before = turns[begin] <= SHARP_TURN and (closed or begin > 0)
        after = end % count
        smooth_after = turns[after] <= SHARP_TURN and (closed or end < count)
        into = ways[begin - 1] if smooth_before and straight[begin - 1] else _tangent(stretch)
        out = ways[after] if smooth_after and straight[after] else -_tangent(stretch[::-1])
        runs.append(Run(stretch, into, out))
    return _straightened(runs, closed)


def _straightened(runs: list[Run], closed: bool) -> list[Run]:
    """Straight runs that go on in one direction, as one."""
    kept: list[Run] = []
    for run in runs:
        if kept and kept[-1].straight and run.straight and _in_line(kept[-1], run):
            joined = np.stack([kept[-1].points[0], run.points[-1]])
            kept[-1] = Run(joined, run.first, run.last)
        else:
            kept.append(run)
    if closed and len(kept) > 3 and kept[0].straight and kept[-1].straight:
        last = kept[-1]
        if _in_line(last, kept[0]):
            joined = np.stack([last.points[0], kept[0].points[-1]])
            kept = [Run(joined, last.first, kept[0].last), *kept[1:-1]]
    return kept


def _in_line(one: Run, two: Run) -> bool:
    """Whether the joint is on the straight way from begin to end."""
    begin, joint, end = one.points[0], one.points[1], two.points[1]
    way = end - begin
    length = float(np.hypot(*way))
    off = abs(way[0] * (joint - begin)[1] - way[1] * (joint - begin)[0])
    return length > JOINT and off <= DENSE * length and float((joint - begin) @ way) > 0.0


def _without_crumbs(points: Points, closed: bool) -> Floats:
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


def _tangent(points: Points) -> Floats:
    """Unit tangent where a dense line begins: of the parabola by chords through three points."""
    one = points[1] - points[0]
    here = float(np.hypot(*one))
    if len(points) < 3:
        return np.asarray(one / here)
    two = points[2] - points[1]
    there = float(np.hypot(*two))
    tangent = one / here + (one / here - two / there) * here / (here + there)
    return np.asarray(tangent / np.hypot(*tangent))


def _fitted(runs: list[Run], goal: float, knots: Points | None) -> list[list[Floats]]:
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
            curved, fitted_cubics([runs[i] for i in curved], goal, knots), strict=True
        ):
            found[index] = cubics
    return found


def _arc(run: Run, goal: float) -> list[Floats] | None:
    """Cubics of at most 45° on a circle, where one goes through the run."""
    points = run.points
    middle = points.mean(axis=0)
    u, v = (points - middle).T
    # The circle of least squares in its own equation (Kåsa 1976).
    squares = u * u + v * v
    uu, uv, vv, uw, vw = (float(a @ b) for a, b in (
        (u, u), (u, v), (v, v), (u, squares), (v, squares)
    ))  # fmt: skip
    twice = 2.0 * (uu * vv - uv * uv)
    if twice <= 0.0:
        return None
    x, y = (uw * vv - vw * uv) / twice, (vw * uu - uw * uv) / twice
    radius = math.hypot(x, y, math.sqrt(float(squares.mean())))
    if not 0.0 < radius < _LARGEST_ARC:
        return None
    u, v = u - x, v - y
    if np.abs(np.hypot(u, v) - radius).max() > 0.5 * goal:
        return None
    angles = np.arctan2(v, u)
    steps = wrapped(np.diff(angles))
    sweep = float(steps.sum())
    if run.loop:
        sweep = math.copysign(2.0 * math.pi, sweep)
    side = math.copysign(1.0, sweep)
    if abs(sweep) < _ARC_TURN or not (steps * side > 0.0).all():
        return None
    centre = middle + (x, y)
    parts = math.ceil(abs(sweep) / _EIGHTH - 1e-3)
    x, y = centre.tolist()
    nodes, handles = arc_nodes((x, y), radius, float(angles[0]), sweep, parts)
    nodes[0], nodes[-1] = points[0], points[-1]
    return list(between_nodes(nodes, handles))

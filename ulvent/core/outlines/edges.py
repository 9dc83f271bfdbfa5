"""Outlines from a file, and taking a guide from them: whole, a run of edges, or several joined.

An outline is a line of exact segments. Its edges are what a person would call so: a
straight side, an arc, a sweep of curves, whatever number of segments it was written
with. Edges end at corners, and where a straight side goes over into a curve.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ulvent.core.base.arrays import Matrices, Point
from ulvent.core.base.errors import CurveError
from ulvent.core.base.remembered import remembered
from ulvent.core.base.tolerances import JOINT, LETTER_CORNER
from ulvent.core.curves import (
    ArcSegment,
    BezierPath,
    Chain,
    CircularArc,
    Curve,
    LineSegment,
    Segment,
)

TOUCHING = 0.01
"""Ends of edges nearer than this, mm, belong together: as near as files are drawn."""

_SHORT = 0.02
"""Straight segments shorter than this share of their outline stand for a curve."""
_COLLINEAR = math.radians(0.01)


@dataclass(frozen=True)
class FileOutline:
    """A line of segments, mm, y up, each starting where the last one ended."""

    segments: tuple[Segment, ...]
    closed: bool

    @cached_property
    def edges(self) -> tuple[tuple[Segment, ...], ...]:
        """The segments in edges; a closed outline's first edge begins at its first boundary."""
        if len(self.segments) == 1:
            return (self.segments,)
        total = sum(segment_length(segment) for segment in self.segments)
        following = [*self.segments[1:], self.segments[0]]
        ends = [
            not _one_edge(segment, after, total)
            for segment, after in zip(self.segments, following, strict=True)
        ]
        ordered = [*self.segments]
        if self.closed and any(ends):
            first = ends.index(True) + 1
            ordered = [*self.segments[first:], *self.segments[:first]]
            ends = [*ends[first:], *ends[:first]]
        found: list[list[Segment]] = [[]]
        for segment, is_end in zip(ordered, ends, strict=True):
            found[-1].append(segment)
            if is_end:
                found.append([])
        return tuple(tuple(edge) for edge in found if edge)

    @cached_property
    def smooth_runs(self) -> tuple[tuple[int, ...], ...]:
        """Numbers of the edges in runs that go on without a corner, in order of travel."""
        count = len(self.edges)
        goes_on = [
            turn_between(self.edges[index][-1], self.edges[(index + 1) % count][0]) < LETTER_CORNER
            for index in range(count)
        ]
        if not self.closed:
            goes_on[-1] = False
        if all(goes_on):
            return (tuple(range(count)),)
        first = goes_on.index(False) + 1 if self.closed else 0
        runs: list[list[int]] = [[]]
        for step in range(count):
            index = (first + step) % count
            runs[-1].append(index)
            if not goes_on[index]:
                runs.append([])
        return tuple(tuple(run) for run in runs if run)


def _one_edge(segment: Segment, after: Segment, total: float) -> bool:
    """Whether two neighbouring segments are of one edge."""
    turn = turn_between(segment, after)
    straight = [isinstance(one, LineSegment) for one in (segment, after)]
    if all(straight):
        short = max(segment_length(one) for one in (segment, after)) < _SHORT * total
        return turn < _COLLINEAR or (short and turn < LETTER_CORNER)
    if any(straight):
        side = segment if straight[0] else after
        return turn < LETTER_CORNER and segment_length(side) < _SHORT * total
    return turn < LETTER_CORNER


def segment_length(segment: Segment) -> float:
    """About how long a segment is, mm; exact for lines and arcs, the control polygon else."""
    if isinstance(segment, ArcSegment):
        return segment.radius * math.radians(abs(segment.sweep))
    return sum(math.dist(a, b) for a, b in zip(segment[:-1], segment[1:], strict=True))


def turn_between(segment: Segment, after: Segment) -> float:
    """Radians between the direction at the end of one segment and that at the start of the next."""
    out, into = _direction(reversed_segment(segment)), _direction(after)
    if not out or not into:
        return 0.0
    return abs(math.remainder(np.angle(into) - np.angle(-out), 2.0 * math.pi))


def _direction(segment: Segment) -> complex:
    """The direction in which a segment starts."""
    if isinstance(segment, ArcSegment):
        angle = math.radians(segment.begin)
        return complex(-math.sin(angle), math.cos(angle)) * math.copysign(1.0, segment.sweep)
    start = complex(*segment[0])
    return next((complex(*p) - start for p in segment[1:] if complex(*p) != start), 0j)


def reversed_segment(segment: Segment) -> Segment:
    """The same segment travelled the other way."""
    if isinstance(segment, ArcSegment):
        return ArcSegment(
            segment.centre, segment.radius, segment.begin + segment.sweep, -segment.sweep
        )
    return type(segment)(*reversed(segment))


def laid_segment(segment: Segment, matrix: Matrices) -> Segment:
    """A segment turned, mirrored and moved by a (2, 3) matrix that keeps lengths, mm."""
    points = [segment.centre] if isinstance(segment, ArcSegment) else list(segment)
    placed = np.array(points, dtype=float) @ matrix[:, :2].T + matrix[:, 2]
    laid = [(x, y) for x, y in placed.tolist()]
    if not isinstance(segment, ArcSegment):
        return type(segment)(*laid)
    begin = math.radians(segment.begin)
    x, y = (matrix[:, :2] @ np.array([math.cos(begin), math.sin(begin)])).tolist()
    flip = math.copysign(1.0, float(np.linalg.det(matrix[:, :2])))
    return ArcSegment(laid[0], segment.radius, math.degrees(math.atan2(y, x)), flip * segment.sweep)


def moved_segment(segment: Segment, dx: float, dy: float) -> Segment:
    """A segment moved by `dx`, `dy` mm."""
    if isinstance(segment, ArcSegment):
        x, y = segment.centre
        return ArcSegment((x + dx, y + dy), segment.radius, segment.begin, segment.sweep)
    return type(segment)(*((x + dx, y + dy) for x, y in segment))


def ends_of(segments: Sequence[Segment]) -> tuple[Point, Point]:
    """Where a line of segments starts and ends."""
    return segments[0].start, segments[-1].end


def in_line(edges: Sequence[Sequence[Segment]]) -> FileOutline:
    """Edges joined in the order given, each turned round where its other end is nearer.

    Gaps are bridged by straight lines. A line whose ends touch is closed.

    Raises
    ------
    CurveError
        Without any edge.
    """
    if not edges:
        raise CurveError("choose at least one edge")
    line: list[Segment] = []
    for edge in _going_on(edges):
        if line and math.dist(line[-1].end, edge[0].start) > JOINT:
            line.append(LineSegment(line[-1].end, edge[0].start))
        line.extend(edge)
    start, end = ends_of(line)
    gap = math.dist(start, end)
    # A single circle or loop is closed; a dot is not.
    closed = gap <= TOUCHING < sum(segment_length(segment) for segment in line) / 2.0
    if closed and gap > JOINT:
        line.append(LineSegment(end, start))
    return FileOutline(tuple(line), closed)


def _going_on(edges: Sequence[Sequence[Segment]]) -> list[list[Segment]]:
    """Edges in the order given, each turned round where its other end is nearer to the one before;
    the first one ends where the second one is nearer."""
    ordered = [[*edge] for edge in edges]
    if len(ordered) > 1:
        start, end = ends_of(ordered[0])
        others = ends_of(ordered[1])
        if min(math.dist(start, o) for o in others) < min(math.dist(end, o) for o in others):
            ordered[0] = _turned(ordered[0])
    for index, edge in enumerate(ordered[1:], 1):
        here = ordered[index - 1][-1].end
        start, end = ends_of(edge)
        if math.dist(here, start) > math.dist(here, end):
            ordered[index] = _turned(edge)
    return ordered


def _turned(edge: Sequence[Segment]) -> list[Segment]:
    return [reversed_segment(segment) for segment in reversed(edge)]


@remembered(256)
def curve_of(outline: FileOutline) -> Curve:
    """The curve of an outline.

    Raises
    ------
    CurveError
        When it has no length, or does not hang together.
    """
    pieces: list[Curve] = []
    run: list[Segment] = []

    def flush() -> None:
        if run:
            pieces.append(BezierPath([s for s in run if not isinstance(s, ArcSegment)]))
            run.clear()

    for segment in outline.segments:
        if isinstance(segment, ArcSegment):
            flush()
            pieces.append(CircularArc(segment.centre, segment.radius, segment.begin, segment.sweep))
        else:
            run.append(segment)
    if not pieces and outline.closed:
        return BezierPath([s for s in run if not isinstance(s, ArcSegment)], closed=True)
    flush()
    if not pieces:
        raise CurveError("the line has no length")
    if len(pieces) == 1 and (pieces[0].closed or not outline.closed):
        return pieces[0]
    return Chain(pieces, outline.closed)

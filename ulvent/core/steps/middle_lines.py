"""The middle line of a letter: one stroke where an outline has two sides.

The edges of the Voronoi diagram of points along the outline whose two sides are far apart
along it, though near across: that leaves the middle of the strokes and none of the spurs
that run into corners. Short twigs are pruned; at a junction the strokes that go straight
through it are joined, the others run up to it; the rest is smoothed and fitted.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ulvent.core.base.arrays import Floats, Lengths, Points
from ulvent.core.base.tolerances import NIL
from ulvent.core.outlines import Polyline
from ulvent.core.shapes import Region
from ulvent.core.shapes.skeleton import Skeleton, branches

_STEP = 0.1
_MOST_POINTS = 6000
_LEAST_POINTS = 200
_ARC_OVER_CHORD = 2.0
_TRIM = 0.9
_OPPOSED = -0.6
_DOT = 0.05
_SMOOTHINGS = 3
_MOST_PRUNINGS = 4
GOOD_COVER = 0.85
"""A pen as wide as the strokes covers so much of a letter that its middle line suits."""


@dataclass(frozen=True, eq=False)
class MiddleLine:
    """The middle lines of an area, mm.

    width
        of the strokes, the middle one, mm
    cover
        share of the area that a pen of this width covers
    """

    lines: tuple[Polyline, ...]
    width: float
    cover: float


def middle_line(area: Region) -> MiddleLine:
    """The middle lines of all parts."""
    lines: list[Polyline] = []
    widths: list[Floats] = []
    for part in area.parts:
        found, radii = _of_part(part)
        lines.extend(found or [_dot(part)])
        widths.append(2.0 * radii)
    if not lines:
        return MiddleLine((), 0.0, 0.0)
    every = np.concatenate(widths)
    # Dots alone have no strokes: a pen as wide as they are.
    x0, _, x1, _ = area.parts[0].bounds
    width = float(np.median(every)) if len(every) else x1 - x0
    drawn = Region.joined(_drawn(points, closed, width) for points, closed in lines)
    return MiddleLine(tuple(lines), width, drawn.meet(area).area / area.area)


def _drawn(points: Points, closed: bool, width: float) -> Region:
    """What a round pen covers."""
    ends = () if closed else (Region.disc(points[0], width), Region.disc(points[-1], width))
    return Region.joined([Region.along(points, closed, width), *ends])


def _dot(part: Region) -> Polyline:
    """A round part has no middle line: the pen is set down in its middle."""
    x0, y0, x1, y1 = part.bounds
    x, y, reach = (x0 + x1) / 2.0, (y0 + y1) / 2.0, _DOT * (x1 - x0)
    return Polyline(np.array([[x - reach, y], [x + reach, y]]), False)


def _of_part(part: Region) -> tuple[list[Polyline], Floats]:
    graph = _Graph(*_skeleton(part))
    graph.prune()
    return graph.lines(), graph.radii


def _skeleton(part: Region) -> tuple[Points, dict[int, set[int]], Lengths]:
    """Nodes, which are joined by middle lines, and each node's distance from the edge, mm."""
    step = max(_STEP, part.perimeter / _MOST_POINTS)
    found = Skeleton.of(part, min(step, part.perimeter / _LEAST_POINTS))
    return found.at, found.near(found.arcs > _ARC_OVER_CHORD * found.chords), found.radius


class _Graph:
    """Vertices joined by edges; branches run between its ends and junctions."""

    def __init__(self, at: Points, near: dict[int, set[int]], radii: Lengths) -> None:
        self._at, self._near, self._radius = at, near, radii

    @property
    def radii(self) -> Floats:
        """Of all that is left, mm."""
        return self._radius[sorted(self._near)]

    def prune(self) -> None:
        """Cut off twigs that are shorter than the stroke they stand on is wide."""
        for _ in range(_MOST_PRUNINGS):
            cut = False
            for branch in branches(self._near):
                ends = [len(self._near.get(branch[i], ())) for i in (0, -1)]
                if min(ends) != 1 or max(ends) < 3:
                    continue
                joint = branch[0] if ends[0] > 1 else branch[-1]
                if self._length(branch) < self._radius[joint]:
                    for a, b in zip(branch[:-1], branch[1:], strict=True):
                        self._near[a].discard(b)
                        self._near[b].discard(a)
                    cut = True
            self._near = {node: near for node, near in self._near.items() if near}
            if not cut:
                return

    def lines(self) -> list[Polyline]:
        """The branches, joined where they go straight through a junction, and smoothed."""
        every = branches(self._near)
        trimmed = [self._trimmed(branch) for branch in every]
        loops = [
            index
            for index, branch in enumerate(every)
            if branch[0] == branch[-1] and len(self._near[branch[0]]) == 2
        ]
        links = self._links(every, trimmed)
        found = [Polyline(_smooth(self._at[every[i][:-1]], True), True) for i in loops]
        used = set(loops)
        for index in range(len(every)):
            for end in (0, 1):
                if index in used or (index, end) in links:
                    continue
                chain, closed = self._chain(index, end, links, trimmed, used)
                found.append(Polyline(_smooth(chain, closed), closed))
        for index in range(len(every)):
            if index not in used:
                chain, closed = self._chain(index, 0, links, trimmed, used)
                found.append(Polyline(_smooth(chain, closed), closed))
        return [line for line in found if len(line.points) >= 2]

    def _length(self, branch: list[int]) -> float:
        return float(np.hypot(*np.diff(self._at[branch], axis=0).T).sum())

    def _trimmed(self, branch: list[int]) -> Floats:
        """The branch's points without those that a junction's own width has bent."""
        points = self._at[branch]
        keep = np.ones(len(points), dtype=bool)
        for end in (0, -1):
            if len(self._near[branch[end]]) >= 3:
                off = np.hypot(*(points - points[end]).T)
                keep &= off > _TRIM * self._radius[branch[end]]
        return points[keep] if keep.sum() >= 2 else points[[0, -1]]

    def _links(
        self, every: list[list[int]], trimmed: list[Floats]
    ) -> dict[tuple[int, int], tuple[int, int]]:
        """Branch ends that go on as one another, through the junction they share."""
        at: dict[int, list[tuple[int, int]]] = {}
        for index, branch in enumerate(every):
            for end, node in ((0, branch[0]), (1, branch[-1])):
                if len(self._near[node]) >= 3:
                    at.setdefault(node, []).append((index, end))
        links: dict[tuple[int, int], tuple[int, int]] = {}
        for node, ends in at.items():
            pairs = []
            for i, one in enumerate(ends):
                for two in ends[i + 1 :]:
                    cosine = float(self._way(trimmed, *one) @ self._way(trimmed, *two))
                    if cosine < _OPPOSED:
                        pairs.append((cosine, one, two))
            for _, one, two in sorted(pairs):
                if one not in links and two not in links:
                    links[one], links[two] = two, one
            for index, which in ends:
                # What does not go through runs up to the junction.
                if (index, which) not in links:
                    joint = self._at[node][None]
                    trimmed[index] = (
                        np.concatenate([joint, trimmed[index]])
                        if which == 0
                        else np.concatenate([trimmed[index], joint])
                    )
        return links

    def _way(self, trimmed: list[Floats], index: int, end: int) -> Floats:
        """The direction in which a branch leaves its junction."""
        points = trimmed[index] if end == 0 else trimmed[index][::-1]
        way = points[min(len(points) - 1, 4)] - points[0]
        return np.asarray(way / max(float(np.hypot(*way)), NIL))

    def _chain(
        self,
        index: int,
        end: int,
        links: dict[tuple[int, int], tuple[int, int]],
        trimmed: list[Floats],
        used: set[int],
    ) -> tuple[Floats, bool]:
        pieces: list[Floats] = []
        first = index
        while index not in used:
            used.add(index)
            pieces.append(trimmed[index] if end == 0 else trimmed[index][::-1])
            following = links.get((index, 1 - end))
            if following is None:
                return np.concatenate(pieces), False
            index, end = following
        return np.concatenate(pieces), index == first and len(pieces) > 0


def _smooth(points: Points, closed: bool) -> Floats:
    """Points at even steps, each moved toward the middle of its neighbours a few times."""
    walk = Polyline(points, closed).walk()
    count = max(3, int(walk.length / _STEP))
    even = walk.at(np.linspace(0.0, walk.length, count + 1))
    if closed:
        even = even[:-1]
    for _ in range(_SMOOTHINGS):
        middle = (np.roll(even, 1, axis=0) + np.roll(even, -1, axis=0)) / 2.0
        moved = (even + middle) / 2.0
        if not closed:
            moved[0], moved[-1] = even[0], even[-1]
        even = moved
    return even

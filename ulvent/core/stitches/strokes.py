"""The strokes of a letter, as a hand would draw it: where they go on, stop in another, or turn.

The skeleton of a shape has legs into its corners, forks where strokes meet, and bends where they
are as wide as they are near. Legs that only lead into a corner are cut off; where strokes meet
each is cut back to what the meeting has not bent, and those that go straight on are one. At a
corner neither goes on: each runs straight to the shape's edge, and one of them stops in the other.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from itertools import combinations, pairwise
from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Points
from ulvent.core.base.tolerances import JOINT
from ulvent.core.outlines import Polyline
from ulvent.core.shapes import Region
from ulvent.core.shapes.skeleton import Skeleton, branches

_STEP = 0.1
_POINTS = 900
"""Along the edges of a shape: as many at every size, so that its strokes are the same ones."""
_CORNER_LEG = 0.35
"""A leg whose end is so much narrower than its beginning leads into a corner."""
_CORNER_BEND, _CORNER_OUT, _OTHER_OUT = 1.8, 0.15, 0.3
"""In half widths at a leg's beginning: what its sides are longer than it is wide, and how far it
stands out of the shape without it. Below them it is no stroke."""
_NEVER_CUT = 2.5
_TOGETHER = 1.1
_SEEN = 1.2
"""Half widths along a stroke in which its direction is seen."""
_GOES_ON, _GOES_ROUND, _EVENLY = math.radians(55.0), math.radians(85.0), math.radians(8.0)
"""Strokes that bend less through a meeting are one; on an arc, whose ends turn evenly from its
chord, and where the shape has no corner, rather more."""
_TURNS = math.radians(40.0)
_STUB, _STUB_END = 0.5, 0.65
"""Of a half width: what is left of a leg that is no stroke, and how wide it is at its end."""
_SLOPED, _SLOPE = 0.3, 0.2
"""A leg into a corner gets wider so fast, looked at over so many half widths."""
_THINNER = math.radians(15.0)
"""Of bend that is as bad as strokes that are e times as wide as one another."""

End = tuple[int, int]
"""A stroke and which end of it: 0, where it begins, or -1."""


class Strokes(NamedTuple):
    """Strokes of one connected shape.

    lines
        the middle lines, mm
    corners
        ends that meet at a corner
    stops
        ends, each with a stroke that it stops in
    """

    lines: list[Polyline]
    corners: list[tuple[End, End]]
    stops: list[tuple[End, int]]


def strokes_of(part: Region) -> Strokes:
    """The strokes of one connected shape, an endless one too; none of what is a mere blob."""
    step = part.perimeter / _POINTS
    skeleton = Skeleton.of(part, step)
    near = skeleton.near()
    return _Meetings(skeleton, near, _pruned(skeleton, near)).strokes()


def _pruned(skeleton: Skeleton, near: dict[int, set[int]]) -> set[int]:
    """Cuts off the legs that are no strokes; says where those into corners began."""
    bends = {
        frozenset(pair): arc - chord
        for pair, arc, chord in zip(
            skeleton.edges.tolist(), skeleton.arcs.tolist(), skeleton.chords.tolist(), strict=True
        )
    }
    began: set[int] = set()
    again = True
    while again:
        again = False
        legs: dict[int, list[list[int]]] = {}
        for branch in branches(near):
            if len(near[branch[0]]) == 1 and len(near[branch[-1]]) >= 3:
                legs.setdefault(branch[-1], []).append(branch[::-1])
            elif len(near[branch[-1]]) == 1 and len(near[branch[0]]) >= 3:
                legs.setdefault(branch[0], []).append(branch)
        for base, some in legs.items():
            weak = [leg for leg in some if _is_weak(skeleton, leg, bends)]
            if len(weak) == len(near[base]):
                weak = weak[1:]
            for leg in weak:
                for one, other in pairwise(leg):
                    near[one].discard(other)
                    near[other].discard(one)
                if leg[-1] in began or _leads_to_corner(skeleton, leg):
                    began.add(base)
                again = True
        for node in [node for node, others in near.items() if not others]:
            del near[node]
    return began & set(near)


def _is_weak(skeleton: Skeleton, leg: list[int], bends: dict[frozenset[int], float]) -> bool:
    base, last = float(skeleton.radius[leg[0]]), float(skeleton.radius[leg[-1]])
    length = _length(skeleton.at[leg])
    if length > _NEVER_CUT * base:
        return False
    out = length + last - base
    if _leads_to_corner(skeleton, leg):
        bend = bends.get(frozenset(leg[:2]), math.inf)
        return bend < _CORNER_BEND * base or out < _CORNER_OUT * base
    return out < _OTHER_OUT * base


def _leads_to_corner(skeleton: Skeleton, leg: list[int]) -> bool:
    """Whether a leg does, and not into what is round."""
    base, last = float(skeleton.radius[leg[0]]), float(skeleton.radius[leg[-1]])
    return last < _CORNER_LEG * base


def _length(points: Points) -> float:
    return float(np.hypot(*np.diff(points, axis=0).T).sum())


@dataclass(eq=False)
class _Branch:
    """A way between two meetings or ends.

    points
        from its beginning, cut back to what its meetings have not bent
    radius
        its half width, mm
    meets
        the meeting at either end; none: it ends there
    """

    points: Points
    radius: float
    meets: tuple[int | None, int | None]

    def way(self, end: int) -> Points:
        """The direction in which it leaves its end 0 or -1."""
        points = self.points if end == 0 else self.points[::-1]
        off = np.hypot(*(points - points[0]).T)
        far = int(np.argmax(off > _SEEN * self.radius)) or len(points) - 1
        found: Points = (points[far] - points[0]) / max(float(off[far]), JOINT)
        return found


@dataclass
class _Meeting:
    """Where branches meet: its nodes, and which ends of branches lead into it."""

    nodes: set[int]
    ends: list[End] = field(default_factory=list)


class _Meetings:
    """Branches of a skeleton, and where they meet."""

    def __init__(self, skeleton: Skeleton, near: dict[int, set[int]], began: set[int]) -> None:
        self._skeleton, self._near, self._began = skeleton, near, began
        self._branches: list[_Branch] = []
        self._loops: list[Polyline] = []
        forks = {node for node, others in near.items() if len(others) > 2}
        turns = {node for node in began - forks if len(near[node]) == 2 and self._turns(node)}
        self._meetings, inner = self._together(forks | turns)
        at = {node: index for index, one in enumerate(self._meetings) for node in one.nodes}
        for path in self._split(turns):
            if frozenset((path[0], path[-1])) in inner and len(path) <= inner[
                frozenset((path[0], path[-1]))]:  # fmt: skip
                continue
            self._add(path, at)

    def _turns(self, node: int) -> bool:
        """Whether a stroke turns a corner at a node that has two neighbours."""
        radius = float(self._skeleton.radius[node])
        ways = []
        for first in sorted(self._near[node]):
            path = [node, first]
            gone = 0.0
            while gone < (1.0 + _SEEN) * radius and len(self._near[path[-1]]) == 2:
                path.append(next(n for n in self._near[path[-1]] if n != path[-2]))
                gone += math.dist(self._skeleton.at[path[-1]], self._skeleton.at[path[-2]])
                if path[-1] == node:
                    return False
            points = self._skeleton.at[path]
            off = np.hypot(*(points - points[0]).T)
            beyond = points[off > radius]
            begin = beyond[0] if len(beyond) > 1 else points[0]
            ways.append((points[-1] - begin) / max(math.dist(points[-1], begin), JOINT))
        return _turn(-ways[0], ways[1]) > _TURNS

    def _together(self, nodes: set[int]) -> tuple[list[_Meeting], dict[frozenset[int], int]]:
        """Meetings, those that lie within their own width as one, and the ways between these."""
        which = {node: node for node in nodes}

        def root(node: int) -> int:
            while which[node] != node:
                node = which[node]
            return node

        inner: dict[frozenset[int], int] = {}
        for path in self._split(nodes):
            one, other = path[0], path[-1]
            if one == other or one not in nodes or other not in nodes:
                continue
            reach = _TOGETHER * max(self._skeleton.radius[[one, other]].tolist())
            if _length(self._skeleton.at[path]) < reach:
                which[root(one)] = root(other)
                inner[frozenset((one, other))] = len(path)
        found: dict[int, _Meeting] = {}
        for node in sorted(nodes):
            found.setdefault(root(node), _Meeting(set())).nodes.add(node)
        return list(found.values()), inner

    def _split(self, turns: set[int]) -> Iterator[list[int]]:
        """The ways between ends, forks and turns."""
        for whole in branches(self._near):
            begin, path = 0, whole
            if path[0] == path[-1] and path[0] not in turns and len(self._near[path[0]]) == 2:
                # A ring begins anywhere: at a turn, where it has one.
                first = next((index for index, node in enumerate(path) if node in turns), 0)
                path = whole[first:-1] + whole[: first + 1]
            for index in range(1, len(path)):
                if path[index] in turns or index == len(path) - 1:
                    yield path[begin : index + 1]
                    begin = index

    def _add(self, path: list[int], at: dict[int, int]) -> None:
        points = self._skeleton.at[path]
        radius = float(np.median(self._skeleton.radius[path]))
        if path[0] == path[-1] and path[0] not in at:
            self._loops.append(Polyline(points[:-1], True))
            return
        kept = np.ones(len(path), dtype=bool)
        for node in (path[0], path[-1]):
            if node in at:
                nodes = sorted(self._meetings[at[node]].nodes)
                centre, reach = self._skeleton.at[nodes], self._skeleton.radius[nodes]
                off = np.hypot(*(points[:, None] - centre[None]).transpose(2, 0, 1))
                kept &= (off > reach).all(axis=1)
        radii = self._skeleton.radius[path]
        for end, node in ((0, path[0]), (-1, path[-1])):
            if node not in at:
                kept &= ~_tapering(points, radii, radius, end)
        leaf = next((one for one, other in ((path[0], path[-1]), (path[-1], path[0]))
                     if one not in at and other in at), None)  # fmt: skip
        if leaf is not None and _length(points[kept]) < _STUB * radius:
            base = float(radii.max())
            if float(self._skeleton.radius[leaf]) < _STUB_END * base:
                return
        if kept.sum() < 2:
            inside = np.flatnonzero(kept)
            middle = int(inside[0]) if len(inside) else len(path) // 2
            kept[[max(0, middle - 1), min(len(path) - 1, middle + 1)]] = True
        meets = at.get(path[0]), at.get(path[-1])
        number = len(self._branches)
        self._branches.append(_Branch(points[kept], radius, meets))
        for end, meeting in zip((0, -1), meets, strict=True):
            if meeting is not None:
                self._meetings[meeting].ends.append((number, end))

    def strokes(self) -> Strokes:
        """Branches joined where they go on."""
        on: dict[End, End] = {}
        for meeting in self._meetings:
            on.update(self._going_on(meeting))
        lines: list[Polyline] = [*self._loops]
        place: dict[End, End] = {}
        used: set[int] = set()
        begins = [(index, end) for index in range(len(self._branches)) for end in (0, -1)
                  if (index, end) not in on]  # fmt: skip
        for begin in [*begins, *((index, 0) for index in range(len(self._branches)))]:
            if begin[0] in used:
                continue
            line, ends = self._chain(begin, on, used)
            for end, name in ends:
                place[end] = (len(lines), name)
            lines.append(line)
        return Strokes(lines, *self._ends(on, place))

    def _going_on(self, meeting: _Meeting) -> dict[End, End]:
        """Ends of branches that go on as one another through a meeting."""
        costs = []
        for one, other in combinations(meeting.ends, 2):
            two = self._branches[one[0]], self._branches[other[0]]
            ways = two[0].way(one[1]), two[1].way(other[1])
            bend = _turn(-ways[0], ways[1])
            most = _GOES_ON
            if not meeting.nodes & self._began:
                tips = two[0].points[one[1]], two[1].points[other[1]]
                turns = [_turn(way, tips[1] - tips[0]) for way in (-ways[0], ways[1])]
                most = _GOES_ROUND if abs(turns[0] - turns[1]) < _EVENLY else _GOES_ON
            if bend < most:
                thinner = abs(math.log(two[0].radius / two[1].radius))
                costs.append((bend + _THINNER * thinner, one, other))
        found: dict[End, End] = {}
        for _, one, other in sorted(costs):
            if one not in found and other not in found:
                found[one], found[other] = other, one
        return found

    def _chain(
        self, begin: End, on: dict[End, End], used: set[int]
    ) -> tuple[Polyline, list[tuple[End, int]]]:
        """The stroke that begins with an end, and where its ends of branches are in it."""
        pieces: list[Points] = []
        ends: list[tuple[End, int]] = [(begin, 0)]
        at: End | None = begin
        while at is not None and at[0] not in used:
            used.add(at[0])
            branch = self._branches[at[0]]
            points = branch.points if at[1] == 0 else branch.points[::-1]
            if pieces:
                pieces.append(_bridge(pieces[-1], points))
            pieces.append(points)
            last: End = (at[0], -1 if at[1] == 0 else 0)
            ends.append((last, -1))
            at = on.get(last)
        closed = at is not None and at == begin
        if closed:
            pieces.append(_bridge(pieces[-1], pieces[0]))
        return Polyline(np.concatenate(pieces), closed), ends[:1] + ends[-1:]

    def _ends(
        self, on: dict[End, End], place: dict[End, End]
    ) -> tuple[list[tuple[End, End]], list[tuple[End, int]]]:
        """Which ends meet at corners, and which stop in a stroke that goes on."""
        corners: list[tuple[End, End]] = []
        stops: list[tuple[End, int]] = []
        whose = self._whose(on, place)
        for meeting in self._meetings:
            loose = [end for end in meeting.ends if end not in on and end in place]
            through = sorted({whose[end[0]] for end in meeting.ends if end in on})
            if through:
                stops += [(place[end], one) for end in loose for one in through]
            else:
                corners += [(place[a], place[b]) for a, b in combinations(loose, 2)]
        return corners, stops

    def _whose(self, on: dict[End, End], place: dict[End, End]) -> dict[int, int]:
        """Which stroke each branch is of."""
        found: dict[int, int] = {}
        for (branch, end), (stroke, _) in place.items():
            at: End | None = (branch, end)
            while at is not None and at[0] not in found:
                found[at[0]] = stroke
                at = on.get((at[0], -1 if at[1] == 0 else 0))
        return found


def _turn(one: Points, other: Points) -> float:
    """Between two directions, radians from 0 to pi."""
    return abs(math.atan2(float(one[0] * other[1] - one[1] * other[0]), float(one @ other)))


def _tapering(points: Points, radii: Floats, usual: float, end: int) -> Booleans:
    """(k,) what of a free end leads into a corner: there it gets narrower fast."""
    order = slice(None) if end == 0 else slice(None, None, -1)
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points[order], axis=0).T))])
    ahead = np.interp(along + _SLOPED * usual, along, radii[order])
    level = np.flatnonzero(
        (ahead - radii[order] < _SLOPE * _SLOPED * usual) | (along > _NEVER_CUT * usual)
    )
    found = np.zeros(len(points), dtype=bool)
    found[: int(level[0]) if len(level) else 0] = True
    return found[order]


def _bridge(before: Points, after: Points) -> Points:
    """A smooth way from the end of one line to the beginning of another."""
    begin, end = before[-1], after[0]
    apart = math.dist(begin, end)
    few = max(2, math.ceil(apart / _STEP))
    t = np.linspace(0.0, 1.0, few + 1)[1:-1, None]
    ways = _last_way(before), -_last_way(after[::-1])
    found: Floats = (
        (2 * t**3 - 3 * t**2 + 1) * begin + (t**3 - 2 * t**2 + t) * apart * ways[0]
        + (3 * t**2 - 2 * t**3) * end + (t**3 - t**2) * apart * ways[1]
    )  # fmt: skip
    return found


def _last_way(points: Sequence[Points] | Points) -> Points:
    every = np.asarray(points)
    way = every[-1] - every[max(-6, -len(every))]
    found: Points = way / max(float(np.hypot(*way)), JOINT)
    return found

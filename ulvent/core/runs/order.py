"""In which order lines are followed, and where each is begun: little way with the tool up.

What lies within a line comes before it, and lines of one letter come together; so parts are
done before the sheet that holds them. Among what is left free the order begins as a way to
the nearest, and is bettered by reversing stretches of it (2-opt) and by moving short ones
elsewhere (Or-opt); where each closed line is begun, and which way round an open one is
followed, is then the best there is for that order (dynamic programming). Both are done by
turns while the way gets shorter. It is never longer than the way to the nearest.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.outlines import Polyline
from ulvent.core.runs.line_starts import MOST_PLACES, beginnings
from ulvent.core.runs.nesting import Line, Nested, nested
from ulvent.core.runs.shortening import shortened

_ROUNDS = 4
_GAIN = 1e-9
_MANY = 3000
_MOST_TOGETHER = 24
"""Lines of one letter are followed together; an outline of more lines is none."""
_DEEPEST = 60
"""Levels of lines within lines of which each is put in order by itself."""


@dataclass(frozen=True)
class Followed:
    """A line as it is followed.

    index
        of the line
    station
        where a closed one is begun, mm from its first point
    backward
        whether an open one is followed from its end
    """

    index: int
    station: float = 0.0
    backward: bool = False


@dataclass(frozen=True, eq=False)
class _Ends:
    """Ways of following one line: where each begins and ends, (k, 2), and what it is."""

    begins: Points
    ends: Points
    ways: tuple[Followed, ...]


def ordered(lines: Sequence[Line], start: Points) -> list[Followed]:
    """All lines in the order in which they are followed from a point (2,)."""
    if not lines:
        return []
    most = MOST_PLACES if len(lines) <= _MANY else MOST_PLACES // 4
    ends = [_ends(line, index, most) for index, line in enumerate(lines)]
    roots, besides = nested(lines)
    nearest = _Ordering(lines, ends, start, better=False).all(roots)
    best, length = _begun(_inside_first(nearest, besides), ends, start)
    places = {one.index: one for one in best}
    for _ in range(_ROUNDS):
        ordering = _Ordering(lines, ends, start, better=True, places=places)
        found, shorter = _begun(_inside_first(ordering.all(roots), besides), ends, start)
        if shorter >= length - _GAIN:
            break
        best, length = found, shorter
        places = {one.index: one for one in best}
    return best


def _inside_first(order: Sequence[int], besides: Sequence[tuple[int, int]]) -> list[int]:
    """An order in which lines wait for what lies within them though it is in no tree of theirs."""
    if not besides:
        return list(order)
    waits: dict[int, set[int]] = {}
    for inner, outer in besides:
        waits.setdefault(outer, set()).add(inner)
    found: list[int] = []
    waiting: list[int] = []
    for index in order:
        waiting.append(index)
        ready = [one for one in waiting if not waits.get(one)]
        while ready:
            found += ready
            waiting = [one for one in waiting if one not in ready]
            for within in waits.values():
                within.difference_update(ready)
            ready = [one for one in waiting if not waits.get(one)]
    return found + waiting


def _ends(line: Line, index: int, most: int) -> _Ends:
    if not line.closed:
        first, last = line.points[0], line.points[-1]
        return _Ends(
            np.stack([first, last]), np.stack([last, first]),
            (Followed(index), Followed(index, backward=True)),
        )  # fmt: skip
    by_hand = line.begins is not None
    stations = np.array([line.begins]) if by_hand else beginnings(line, most)
    points = Polyline(line.points, True).walk().at(stations)
    return _Ends(points, points, tuple(Followed(index, at) for at in stations.tolist()))


def _begun(
    order: Sequence[int], ends: Sequence[_Ends], start: Points
) -> tuple[list[Followed], float]:
    """The best way of following each line of an order, and the length of the way between."""
    cost = np.hypot(*(ends[order[0]].begins - start).T)
    chosen: list[np.ndarray] = []
    for before, after in zip(order[:-1], order[1:], strict=True):
        steps = ends[after].begins - ends[before].ends[:, None]
        totals = cost[:, None] + np.hypot(steps[..., 0], steps[..., 1])
        best = totals.argmin(axis=0)
        chosen.append(best)
        cost = totals[best, np.arange(len(best))]
    way = int(cost.argmin())
    length = float(cost[way])
    found = [ends[order[-1]].ways[way]]
    for before, best in zip(order[-2::-1], reversed(chosen), strict=True):
        way = int(best[way])
        found.append(ends[before].ways[way])
    return found[::-1], length


class _Ordering:
    """Goes through trees of lines: always by the nearest, or bettered from known beginnings."""

    def __init__(
        self, lines: Sequence[Line], ends: Sequence[_Ends], start: Points, better: bool,
        places: dict[int, Followed] | None = None,
    ) -> None:  # fmt: skip
        self._lines, self._ends, self._better = lines, ends, better
        self._at = np.asarray(start, dtype=float)
        self._places = places or {}
        self._ranks = {index: rank for rank, index in enumerate(self._places)}
        self._depth = 0

    def all(self, nodes: Sequence[Nested]) -> list[int]:
        """The order of trees and all that is in them."""
        if not nodes:
            return []
        units: dict[int, list[Nested]] = {}
        for node in nodes:
            units.setdefault(self._lines[node.index].unit, []).append(node)
        # Ticks of a dial, or hatching, are one outline of many lines, each of which is free.
        groups = [
            group
            for unit in units.values()
            for group in ([unit] if len(unit) <= _MOST_TOGETHER else [[one] for one in unit])
        ]
        if len(groups) == 1:
            return self._unit(groups[0])
        return self._bettered(groups) if self._better else self._by_the_nearest(groups)

    def _unit(self, nodes: list[Nested]) -> list[int]:
        """Trees of one unit: their parts by the nearest, each after what is in it."""
        found: list[int] = []
        rest = list(nodes)
        while rest:
            near = min(range(len(rest)), key=lambda place: self._far(rest[place]))
            # Rings within rings within rings, without a call for each.
            chain = [rest.pop(near)]
            while len(chain[-1].within) == 1:
                chain.append(chain[-1].within[0])
            self._depth += 1
            if chain[-1].within and self._depth > _DEEPEST:
                found.extend(self._from_within(chain.pop()))
            elif chain[-1].within:
                found.extend(self.all(chain[-1].within))
            self._depth -= 1
            for node in reversed(chain):
                found.append(node.index)
                self._go_to(node.index)
        return found

    def _from_within(self, node: Nested) -> list[int]:
        """A tree that is too deep to be looked at closely: all that holds something later."""
        found: list[int] = []
        waiting = [node]
        while waiting:
            one = waiting.pop()
            found.append(one.index)
            waiting += one.within
        for index in reversed(found):
            self._go_to(index)
        return found[::-1]

    def _far(self, node: Nested) -> float:
        first = _first(node)
        return float(np.hypot(*(self._ends[first].begins - self._at).T).min())

    def _go_to(self, index: int) -> None:
        if index in self._places:
            self._at = self._where(index)[1]
        else:
            ends = self._ends[index]
            self._at = ends.ends[int(np.hypot(*(ends.begins - self._at).T).argmin())]

    def _by_the_nearest(self, groups: list[list[Nested]]) -> list[int]:
        begins = [
            np.concatenate([self._ends[_first(node)].begins for node in group]) for group in groups
        ]
        owners = np.repeat(np.arange(len(groups)), [len(some) for some in begins])
        points = np.concatenate(begins)
        free = np.ones(len(points), dtype=bool)
        found: list[int] = []
        for _ in groups:
            off = points - self._at
            far = np.where(free, off[:, 0] ** 2 + off[:, 1] ** 2, np.inf)
            group = int(owners[int(far.argmin())])
            free[owners == group] = False
            found.extend(self._unit(groups[group]))
        return found

    def _bettered(self, groups: list[list[Nested]]) -> list[int]:
        start = self._at
        inner: list[list[int]] = []
        first_places, last_places = [], []
        for group in groups:
            self._at = self._where(_first(group[0]))[0]
            order = self._unit(group)
            inner.append(order)
            first_places.append(self._where(order[0])[0])
            last_places.append(self._where(order[-1])[1])
        first = sorted(range(len(groups)), key=lambda group: self._ranks[inner[group][0]])
        order = shortened(first, start, np.array(first_places), np.array(last_places))
        self._at = last_places[order[-1]]
        return [index for group in order for index in inner[group]]

    def _where(self, index: int) -> tuple[Points, Points]:
        ends = self._ends[index]
        way = ends.ways.index(self._places[index])
        return ends.begins[way], ends.ends[way]


def _first(node: Nested) -> int:
    """The line with which a tree may begin: the first of those that hold nothing."""
    while node.within:
        node = node.within[0]
    return node.index

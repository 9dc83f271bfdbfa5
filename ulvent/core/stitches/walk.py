"""The order in which the columns of one connected shape are sewn, with no jump in it.

Columns that touch make a tree. The needle walks it: along a column under what will be satin,
from there into each column that begins on the way, which is sewn whole, and then back over the
column in satin. So each way lies under satin that is sewn later, and none over satin that is
there. From where the thread comes in to where it goes out a column is gone through; each other
one is left where it was come to.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.base.trees import point_tree
from ulvent.core.recipe.sewing import Underlay
from ulvent.core.stitches import underlay
from ulvent.core.stitches.cloths import Cloth
from ulvent.core.stitches.column import Column
from ulvent.core.stitches.thread import Thread, What
from ulvent.core.stitches.threads import filled, running, satin

_TOUCHING = 0.8
"""mm: columns whose edges are nearer are one shape to a needle."""

_ACROSS = 9
"""Places across a column at which it is seen whether another touches it."""
_RATHER_ENDS = 3.0
"""mm that an end of a column may be farther, since satin has no seam there."""

THIN = 0.6
"""Of the narrowest satin: in a letter that is wide enough as a whole, a column that is a little
too narrow is satin too, like its neighbours."""

_SEAM = 2
"""Places of a column by which two stretches of satin on it lie over each other."""

Aside = Callable[[], Iterator[Thread]]


@dataclass(eq=False)
class _Node:
    """A column in the tree: where it is come to, and what begins on the way along it.

    asides
        places of the column, each with what is sewn from there
    """

    column: Column
    entry: int = 0
    asides: list[tuple[int, Aside]] = field(default_factory=list)


class Walk:
    """Sews columns, or stretches of rows, and patches that belong to none, in one thread.

    thin_as_runs
        whether columns that are too narrow for the cloth are lines along their middles
    """

    def __init__(
        self,
        columns: Sequence[Column],
        cloth: Cloth,
        under: Underlay | Literal["rows"],
        thin_as_runs: bool = False,
    ) -> None:
        self._columns, self._cloth, self._under = list(columns), cloth, under
        self._thin = THIN * cloth.narrowest if thin_as_runs else 0.0
        self._trees = [point_tree(_points(one)) for one in columns]

    def threads(
        self, patches: Sequence[Points], begin: Points, end: Points
    ) -> Iterator[list[Thread]]:
        """The threads of all columns: one, but where columns do not touch.

        patches
            (k, 2) each, sewn before the columns that they lie beside
        begin, end
            near which the first comes in, and goes out
        """
        left = set(range(len(self._columns)))
        loose = list(patches)
        while left:
            first, entry = self._nearest(begin, left)
            tree = self._tree(first, left)
            nodes = {index: _Node(self._columns[index]) for index in tree}
            last, out = self._nearest(end, set(tree))
            path = [last]
            while path[-1] != first:
                path.append(tree[path[-1]][0])
            path.reverse()
            self._hang(nodes, tree, path)
            self._patch(nodes, loose)
            left -= set(tree)
            loose = []
            yield [*self._along(nodes, tree, path, entry, out)]

    def _nearest(self, point: Points, among: set[int]) -> tuple[int, int]:
        """A column and the place on it that is nearest to a point; an end, if it is not far off."""
        best = (np.inf, 0, 0)
        for index in sorted(among):
            column = self._columns[index]
            off = np.hypot(*(column.middles - point).T)
            if not column.closed:
                off[1:-1] += _RATHER_ENDS
            place = int(np.argmin(off))
            best = min(best, (float(off[place]), index, place))
        return best[1], best[2]

    def _tree(self, first: int, left: set[int]) -> dict[int, tuple[int, int, int]]:
        """Of each column that hangs together with the first: its parent, and the places of both
        where it begins."""
        found: dict[int, tuple[int, int, int]] = {first: (first, 0, 0)}
        waiting = [first]
        while waiting:
            parent = waiting.pop(0)
            for child in sorted(left - set(found)):
                touch = self._touch(parent, child)
                if touch is not None:
                    found[child] = (parent, *touch)
                    waiting.append(child)
        return found

    def _touch(self, parent: int, child: int) -> tuple[int, int] | None:
        """Places at which two columns are nearest; none where they do not touch."""
        apart, place = self._trees[parent].query(_points(self._columns[child]))
        nearest = int(np.argmin(apart))
        if apart[nearest] > _TOUCHING:
            return None
        mine, other = len(self._columns[parent].axis), len(self._columns[child].axis)
        return int(place[nearest]) % mine, nearest % other

    def _hang(
        self, nodes: dict[int, _Node], tree: dict[int, tuple[int, int, int]], path: list[int]
    ) -> None:
        """Hangs on each column what begins on it, but for the way through."""
        for child, (parent, at, own) in tree.items():
            nodes[child].entry = own
            if child not in path:
                nodes[parent].asides.append((at, self._aside(nodes[child])))

    def _aside(self, node: _Node) -> Aside:
        return lambda: self._sewn(node, node.entry, node.entry)

    def _patch(self, nodes: dict[int, _Node], loose: Sequence[Points]) -> None:
        for points in loose:
            index, place = self._nearest(points[0], set(nodes))
            nodes[index].asides.append((place, _one(Thread.of(points, What.ROWS))))

    def _along(
        self,
        nodes: dict[int, _Node],
        tree: dict[int, tuple[int, int, int]],
        path: list[int],
        entry: int,
        out: int,
    ) -> Iterator[Thread]:
        """The columns from the first to the last, each gone through."""
        for index, following in zip(path, [*path[1:], -1], strict=True):
            leaves = out if following < 0 else tree[following][1]
            yield from self._sewn(nodes[index], entry, leaves)
            entry = tree[following][2] if following >= 0 else 0

    def _sewn(self, node: _Node, begin: int, end: int) -> Iterator[Thread]:
        """A column, come to at one place and left at another."""
        column, asides = node.column, [*node.asides]
        if column.closed:
            count = len(column.axis)
            column = column.from_place(begin)
            asides = [((at - begin) % count, one) for at, one in asides]
            begin, end = 0, (end - begin) % count
        if begin > end:
            last = len(column.axis) - 1
            column = column.reversed
            asides = [(last - at, one) for at, one in asides]
            begin, end = last - begin, last - end
        under: underlay.Plain | Literal["line", "rows"] = "rows"
        if self._under != "rows":
            thin = float(np.median(column.widths)) < self._thin
            under = "line" if thin else underlay.plain(self._under, column)
        sewing = _Sewing(column, asides, self._cloth, under)
        yield from sewing.through(begin, end)


def _one(thread: Thread) -> Aside:
    return lambda: iter([thread])


def _points(column: Column) -> Points:
    """Places over a column, a few across each of its own."""
    across = np.linspace(0.0, 1.0, _ACROSS)[:, None, None]
    found: Points = (column.left + across * (column.right - column.left)).reshape(-1, 2)
    return found


class _Sewing:
    """One column: its places go from 0, and it is come to before it is left."""

    def __init__(
        self,
        column: Column,
        asides: list[tuple[int, Aside]],
        cloth: Cloth,
        under: underlay.Plain | Literal["line", "rows"],
    ) -> None:
        self._column, self._cloth, self._under = column, cloth, under
        self._asides = sorted(asides, key=lambda one: one[0])
        self._last = len(column.axis) - 1
        # Of a column that is left out less is seen than of a row.
        self._least = 1 if under == "rows" else 2

    def through(self, begin: int, end: int) -> Iterator[Thread]:
        """All of it, from one place to another that is not before it."""
        if self._last < self._least:
            for _, aside in self._asides:
                yield from aside()
            yield from self._satin(0, self._last)
            return
        yield from self._dead_end(begin, 0)
        if begin == end:
            yield from self._dead_end(begin, self._last)
            return
        yield from self._walk(begin, end)
        yield from self._dead_end(end, self._last)
        yield from self._lay(end, begin, 1)
        yield from self._satin(begin, end)

    def _dead_end(self, begin: int, end: int) -> Iterator[Thread]:
        """To an end of it and back; what is too short for that goes with its neighbour."""
        if abs(end - begin) < self._least:
            for _, aside in self._taken(begin, end):
                yield from aside()
            return
        yield from self._walk(begin, end)
        if self._under in ("edge", "zigzag"):
            yield from self._lay(end, begin, 1)
            part = self._column.part(begin, end)
            yield Thread.of(underlay.centre(part), What.WAY)
        yield from self._satin(end, begin)

    def _walk(self, begin: int, end: int) -> Iterator[Thread]:
        """Underlay along a part, with all that begins on it."""
        at = begin
        for place, aside in self._taken(begin, end):
            yield from self._lay(at, place, 0)
            yield from aside()
            at = place
        yield from self._lay(at, end, 0)

    def _taken(self, begin: int, end: int) -> list[tuple[int, Aside]]:
        """What begins on a part, in the order in which it is come to, and is then done."""
        low, high = min(begin, end), max(begin, end)
        mine = [one for one in self._asides if low <= one[0] <= high]
        self._asides = [one for one in self._asides if not low <= one[0] <= high]
        return mine if end > begin else mine[::-1]

    def _lay(self, begin: int, end: int, side: int) -> Iterator[Thread]:
        """One way of the underlay; on the way back it goes on the other side."""
        if abs(end - begin) < 1:
            return
        part = self._column.part(begin, end)
        if self._under == "line":
            yield Thread.of(running(part.middles, self._cloth.run), What.RUN)
        elif self._under in ("none", "rows"):
            yield Thread.of(underlay.centre(part), What.WAY)
        elif self._under == "zigzag" and side == 0:
            yield Thread.of(underlay.wide(part), What.UNDER)
        elif self._under in ("centre", "zigzag"):
            yield Thread.of(underlay.centre(part), What.UNDER)
        else:
            # Gone the other way the rails change places.
            yield Thread.of(underlay.edge(part), What.UNDER)

    def _satin(self, begin: int, end: int) -> Iterator[Thread]:
        if abs(end - begin) < 1 and self._under != "rows":
            return
        if self._under == "line":
            yield from self._lay(begin, end, 0)
            return
        if self._under == "rows":
            yield Thread.of(filled(self._column.part(begin, end), self._cloth), What.ROWS)
            return
        # Where satin goes on from a seam it begins a little before it: no cloth is seen there.
        over = _SEAM if end > begin else -_SEAM
        begin, end = (min(max(one, 0), self._last) for one in (begin - over, end + over))
        yield Thread.of(satin(self._column.part(begin, end), self._cloth), What.SATIN)

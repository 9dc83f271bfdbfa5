"""The order in which the columns of one connected shape are sewn, with no jump in it.

Columns that touch make a tree. The needle walks it: along a column under what will be satin,
from there into each column that begins on the way, which is sewn whole, and then back over the
column in satin. So each way lies under satin that is sewn later, and none over satin that is
there. From where the thread comes in to where it goes out a column is gone through; each other
one is left where it was come to. Lines along the middles are walked the same way: once where the
letter is gone through, and there and back elsewhere.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from itertools import chain
from typing import Literal, NamedTuple

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.base.trees import point_tree
from ulvent.core.outlines import Polyline
from ulvent.core.recipe.sewing import Underlay
from ulvent.core.shapes import Region
from ulvent.core.stitches import underlay
from ulvent.core.stitches.cloths import Cloth
from ulvent.core.stitches.column import Column
from ulvent.core.stitches.patches import Patch
from ulvent.core.stitches.thread import Thread, What
from ulvent.core.stitches.threads import bean, filled, running, satin

_TOUCHING = 0.8
"""mm: columns whose edges are nearer are one shape to a needle."""
_ALONG = np.linspace(0.1, 0.9, 32)[:, None]
"""Places of a stitch between columns at which it is seen whether it lies in the shape."""
_ACROSS = 9
"""Places across a column at which it is seen whether another touches it."""
_RATHER_ENDS = 3.0
"""mm that an end of a column may be farther, since satin has no seam there."""

THIN = 0.6
"""Of the narrowest satin: in a letter that is wide enough as a whole, a column that is a little
too narrow is satin too, like its neighbours."""

_A_STITCH, _A_BEAN = 0.5, 1.0
"""mm: a line that is shorter is no stitch of its own, and not sewn three times."""
_SEAM, _SEAM_FROM = 1, 2.0
"""Places of a column by which each of two stretches of satin goes on beyond where they meet, where
it is so wide, mm: between narrower ones thread covers what lies open."""

Aside = Callable[[], Iterator[Thread]]
Look = Underlay | Literal["rows", "run", "bean"]
"""What columns are: satin with an underlay, stretches of rows, or lines along their middles."""
_Sewn = underlay.Plain | Literal["line", "rows", "run", "bean"]
_LINES = ("line", "run", "bean")


class _Join(NamedTuple):
    """Of a column and its parent the places of both where they are nearest, and how far apart.

    begin, end
        (2,) mm: where that is, on the parent and on the column
    """

    parent: int
    at: int
    own: int
    begin: Points
    end: Points

    @property
    def apart(self) -> float:
        return float(np.hypot(*(self.end - self.begin)))

    @property
    def way(self) -> Iterator[Thread]:
        """What the needle sews to get across, where they do not touch."""
        if self.apart > _TOUCHING:
            yield Thread.of(underlay.along(np.array([self.begin, self.end])), What.WAY)


@dataclass(eq=False)
class _Node:
    """A column in the tree, and what begins on the way along it.

    asides
        places of the column, each with what is sewn from there
    """

    column: Column
    asides: list[tuple[int, Aside]] = field(default_factory=list)


class Walk:
    """Sews columns, or stretches of rows, and patches that belong to none, in one thread.

    area
        the shape that they are of
    thin_as_runs
        whether columns that are too narrow for the cloth are lines along their middles
    """

    def __init__(
        self,
        area: Region,
        columns: Sequence[Column],
        cloth: Cloth,
        look: Look,
        thin_as_runs: bool = False,
    ) -> None:
        self._area = area
        self._columns, self._cloth, self._look = list(columns), cloth, look
        self._thin = THIN * cloth.narrowest if thin_as_runs else 0.0
        self._trees = [point_tree(_points(one)) for one in columns]
        self._joins: dict[tuple[int, int], _Join] = {}

    def threads(
        self, patches: Sequence[Patch], begin: Points, end: Points
    ) -> Iterator[list[Thread]]:
        """The threads of all columns: one, but where no straight way in the shape joins them.

        patches
            sewn before the columns that they lie beside
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
                path.append(tree[path[-1]].parent)
            path.reverse()
            self._hang(nodes, tree, path)
            loose = self._patch(nodes, loose)
            left -= set(tree)
            # A dot that is smaller than a stitch is one stitch.
            dot = Thread.of(self._columns[first].middles[[0, -1]], What.RUN)
            yield [*self._along(nodes, tree, path, entry, out)] or [dot]

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

    def _tree(self, first: int, left: set[int]) -> dict[int, _Join]:
        """Of each column that hangs together with the first how it joins the one it begins on."""
        nowhere = self._columns[first].middles[0]
        found = {first: _Join(first, 0, 0, nowhere, nowhere)}
        waiting = [first]
        while waiting:
            parent = waiting.pop(0)
            for child in sorted(left - set(found)):
                join = self._join(parent, child)
                if join.apart <= _TOUCHING:
                    found[child] = join
                    waiting.append(child)
            if not waiting:
                linked = self._linked(found, left - set(found))
                found.update(linked)
                waiting += linked
        return found

    def _join(self, parent: int, child: int) -> _Join:
        if (parent, child) not in self._joins:
            self._joins[parent, child] = self._found_join(parent, child)
        return self._joins[parent, child]

    def _found_join(self, parent: int, child: int) -> _Join:
        points = self._trees[child].data
        apart, place = self._trees[parent].query(points)
        nearest = int(np.argmin(apart))
        begin = self._trees[parent].data[place[nearest]]
        mine, other = len(self._columns[parent].axis), len(self._columns[child].axis)
        return _Join(parent, int(place[nearest]) % mine, nearest % other, begin, points[nearest])

    def _linked(self, found: Iterable[int], rest: set[int]) -> dict[int, _Join]:
        """The column with the shortest straight way to it, within the shape, from those that hang
        together; none where there is no such way."""
        if not rest:
            return {}
        # A thread is as good as inside while half of it is.
        room = self._area.offset(self._cloth.thread / 2.0)
        joins = [(self._join(parent, child), child) for parent in found for child in rest]
        for join, child in sorted(joins, key=lambda one: (one[0].apart, one[1], one[0].parent)):
            way = join.begin + _ALONG * (join.end - join.begin)
            if room.contains(way).all():
                return {child: join}
        return {}

    def _hang(self, nodes: dict[int, _Node], tree: dict[int, _Join], path: list[int]) -> None:
        """Hangs on each column what begins on it, but for the way through."""
        for child, join in tree.items():
            if child not in path:
                nodes[join.parent].asides.append((join.at, self._aside(nodes[child], join)))

    def _aside(self, node: _Node, join: _Join) -> Aside:
        return lambda: chain(join.way, self._sewn(node, join.own, join.own, join.begin))

    def _patch(self, nodes: dict[int, _Node], loose: list[Patch]) -> list[Patch]:
        """Hangs patches on the columns that they begin at, and gives those of other columns."""
        for patch in loose:
            if patch.column in nodes:
                nodes[patch.column].asides.append((patch.place, _one(patch.thread)))
        return [patch for patch in loose if patch.column not in nodes]

    def _along(
        self,
        nodes: dict[int, _Node],
        tree: dict[int, _Join],
        path: list[int],
        entry: int,
        out: int,
    ) -> Iterator[Thread]:
        """The columns from the first to the last, each gone through."""
        for index, following in zip(path, [*path[1:], -1], strict=True):
            if following < 0:
                yield from self._sewn(nodes[index], entry, out, nodes[index].column.middles[out])
                return
            join = tree[following]
            yield from self._sewn(nodes[index], entry, join.at, join.begin)
            yield from join.way
            entry = join.own

    def _sewn(self, node: _Node, begin: int, end: int, out: Points) -> Iterator[Thread]:
        """A column, come to at one place and left at another, towards a point."""
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
        sewing = _Sewing(column, asides, self._cloth, self._under(column), out)
        yield from sewing.through(begin, end)

    def _under(self, column: Column) -> _Sewn:
        match self._look:
            case "rows" | "run" | "bean" as look:
                return look
            case wish:
                thin = column.width < self._thin
                return "line" if thin else underlay.plain(wish, column)


def _one(thread: Thread) -> Aside:
    return lambda: iter([thread])


def _points(column: Column) -> Points:
    """Places over a column, a few across each of its own."""
    across = np.linspace(0.0, 1.0, _ACROSS)[:, None, None]
    found: Points = (column.left + across * (column.right - column.left)).reshape(-1, 2)
    return found


def _within(column: Column, inset: float) -> tuple[int, int]:
    """The first and the last place of a column that are so far from its ends, mm; of a short one
    those of its middle half."""
    along = column.stations
    inset = min(inset, float(along[-1]) / 4.0)
    first, last = np.searchsorted(along, [inset, along[-1] - inset])
    return int(first), max(int(first), int(last) - 1)


class _Sewing:
    """One column: its places go from 0, and it is come to before it is left."""

    def __init__(
        self,
        column: Column,
        asides: list[tuple[int, Aside]],
        cloth: Cloth,
        under: _Sewn,
        out: Points,
    ) -> None:
        self._column, self._cloth, self._under, self._out = column, cloth, under, out
        self._asides = sorted(asides, key=lambda one: one[0])
        self._last = len(column.axis) - 1
        # At its ends underlay would be seen beside the satin.
        self._inset = _within(column, underlay.INSET)
        # Of a column that is left out less is seen than of a row.
        self._least = 1 if under == "rows" else 2

    def through(self, begin: int, end: int) -> Iterator[Thread]:
        """All of it, from one place to another that is not before it."""
        if self._last < self._least:
            for _, aside in self._asides:
                yield from aside()
            yield from self._satin(0, self._last)
            return
        if begin == end:
            yield from self._dead_end(begin, 0)
            yield from self._dead_end(begin, self._last)
            return
        if self._under in _LINES:
            yield from self._dead_end(begin, 0)
            first = begin
        else:
            # The satin goes on over where it was come to, without a seam.
            yield from self._walk(begin, 0)
            yield from self._lay(0, begin, 1)
            first = 0
        yield from self._walk(begin, end)
        yield from self._dead_end(end, self._last)
        if self._under not in ("run", "bean"):
            yield from self._lay(end, begin, 1)
            yield from self._way(begin, first)
            yield from self._satin(first, end)

    def _dead_end(self, begin: int, end: int) -> Iterator[Thread]:
        """To an end of it and back; what is too short for that goes with its neighbour."""
        if abs(end - begin) < self._least:
            for _, aside in self._taken(begin, end):
                yield from aside()
            return
        yield from self._walk(begin, end)
        if self._under in ("edge", "zigzag"):
            yield from self._lay(end, begin, 1)
            yield from self._way(begin, end)
        yield from self._satin(end, begin)

    def _way(self, begin: int, end: int) -> Iterator[Thread]:
        """Along the middle, under what is sewn later."""
        if begin != end:
            yield Thread.of(underlay.centre(self._column.part(begin, end)), What.WAY)

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
        if self._under not in (*_LINES, "rows"):
            begin, end = (min(max(one, self._inset[0]), self._inset[1]) for one in (begin, end))
        if abs(end - begin) < 1:
            return
        part = self._column.part(begin, end)
        if self._under in _LINES:
            yield from self._line(part, triple=self._under == "bean")
        elif self._under in ("none", "rows"):
            yield from self._way(begin, end)
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
        if self._under in _LINES:
            yield from self._line(self._column.part(begin, end), triple=False)
            return
        if self._under == "rows":
            rows = self._column.part(begin, end)
            yield Thread.of(filled(rows, self._cloth, self._out), What.ROWS)
            return
        # Where satin goes on from a seam it begins a little before it: no cloth is seen there.
        seam = _SEAM if self._column.width > _SEAM_FROM else 0
        over = seam if end > begin else -seam
        begin, end = (min(max(one, 0), self._last) for one in (begin - over, end + over))
        yield Thread.of(satin(self._column.part(begin, end), self._cloth, self._out), What.SATIN)

    def _line(self, part: Column, triple: bool) -> Iterator[Thread]:
        """A line along the middle; what is too short for a stitch the needle steps over."""
        length = Polyline(part.middles, False).walk().length
        if length > _A_STITCH:
            line = running(part.middles, self._cloth.run)
            yield Thread.of(bean(line) if triple and length > _A_BEAN else line, What.RUN)

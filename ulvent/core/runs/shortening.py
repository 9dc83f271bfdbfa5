"""A way through many stops, made shorter: 2-opt and Or-opt among near neighbours."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.base.trees import point_tree

_NEIGHBOURS = 10
_LONGEST_MOVED = 3
_SWEEPS = 40
_MANY, _LONGEST_REVERSED = 2500, 100
"""Of so many stops only stretches of so few are reversed: each costs as much as it is long."""
_GAIN = 1e-9
_FEW, _KICKS = 12, 40
"""So few stops are tried from so many other orders."""


def shortened(order: Sequence[int], start: Points, begins: Points, ends: Points) -> list[int]:
    """An order of stops from a point, bettered until no reversal and no move shortens it.

    Parameters
    ----------
    order
        of the stops, by their indices
    begins, ends
        (n, 2) where the tool comes down for each stop, and where it goes up
    """
    if len(order) < 2:
        return list(order)
    way = _Way(order, start, begins, ends)
    way.settle()
    best, length = way.order, way.length()
    if 3 < len(order) <= _FEW:
        random = np.random.default_rng(len(order))
        for _ in range(_KICKS):
            a, b, c = np.sort(random.choice(len(best) + 1, 3, replace=False)).tolist()
            tried = _Way([*best[:a], *best[b:c], *best[a:b], *best[c:]], start, begins, ends)
            tried.settle()
            if tried.length() < length - _GAIN:
                best, length = tried.order, tried.length()
    return best


class _Way:
    """An order that is being shortened. The start is a stop that stands before all others."""

    def __init__(self, order: Sequence[int], start: Points, begins: Points, ends: Points) -> None:
        self.order = list(order)
        home = complex(*np.asarray(start, dtype=float).tolist())
        self._b: list[complex] = [*(begins @ (1.0, 1j)).tolist(), home]
        self._e: list[complex] = [*(ends @ (1.0, 1j)).tolist(), home]
        self._same = bool(np.array_equal(begins, ends))
        self._before = _nearest(ends, begins)
        self._after = _nearest(begins, ends)
        self._place = [0] * len(begins)
        self._renumber(0, len(self.order) - 1)

    def length(self) -> float:
        b, e = self._b, self._e
        stops = [len(b) - 1, *self.order]
        return sum(abs(b[two] - e[one]) for one, two in zip(stops[:-1], stops[1:], strict=True))

    def settle(self) -> None:
        for _ in range(_SWEEPS):
            better = [self._reverse(stop) or self._move(stop) for stop in list(self.order)]
            if not any(better):
                break

    def _at(self, place: int) -> int:
        """The stop at a place; before the first is the start, and beyond the last there is none."""
        return self.order[place] if place >= 0 else len(self._b) - 1

    def _step(self, one: int, two: int) -> float:
        return abs(self._b[two] - self._e[one])

    def _reverse(self, stop: int) -> bool:
        """Reverses a stretch that begins or ends with a stop, so that near ones come together."""
        i = self._place[stop]
        before = self._at(i - 1)
        old = self._step(before, stop)
        for other in self._after[before] if before < len(self._place) else self.order:
            if self._step(before, other) >= old:
                break
            if self._place[other] > i and self._reversed(i, self._place[other]):
                return True
        if i + 1 < len(self.order):
            following = self.order[i + 1]
            old = self._step(stop, following)
            for other in self._before[following]:
                if self._step(other, following) >= old:
                    break
                if self._place[other] < i and self._reversed(self._place[other], i):
                    return True
        return False

    def _reversed(self, i: int, j: int) -> bool:
        """Whether reversing what stands from one place to another was a gain: then it is done."""
        order = self.order
        if len(order) > _MANY and j - i > _LONGEST_REVERSED:
            return False
        before, first, last = self._at(i - 1), order[i], order[j]
        gain = self._step(before, first) - self._step(before, last) + self._turned(i, j)
        if j + 1 < len(order):
            gain += self._step(last, order[j + 1]) - self._step(first, order[j + 1])
        if gain <= _GAIN:
            return False
        order[i : j + 1] = order[i : j + 1][::-1]
        self._renumber(i, j)
        return True

    def _renumber(self, i: int, j: int) -> None:
        for place in range(i, j + 1):
            self._place[self.order[place]] = place

    def _turned(self, i: int, j: int) -> float:
        """What the way within a stretch loses when it is gone the other way round."""
        if self._same:
            return 0.0
        pairs = zip(self.order[i:j], self.order[i + 1 : j + 1], strict=True)
        return sum(self._step(one, two) - self._step(two, one) for one, two in pairs)

    def _move(self, stop: int) -> bool:
        """Moves a few stops, of which this is the first or the last, to where others are near."""
        i = self._place[stop]
        for size in range(1, _LONGEST_MOVED + 1):
            if i + size <= len(self.order) and self._moved(i, size, self._behind(stop)):
                return True
            first = i - size + 1
            if first >= 0 and self._moved(first, size, self._ahead(stop)):
                return True
        return False

    def _behind(self, stop: int) -> list[int]:
        """The places behind stops near a stop, and the very first."""
        return [0, *(self._place[other] + 1 for other in self._before[stop])]

    def _ahead(self, stop: int) -> list[int]:
        """The places before stops near a stop."""
        return [self._place[other] for other in self._after[stop]]

    def _moved(self, i: int, size: int, places: list[int]) -> bool:
        """Whether moving stops to one of the places, either way round, was a gain: it is done."""
        order, end = self.order, i + size
        first, last, before = order[i], order[end - 1], self._at(i - 1)
        out = self._step(before, first)
        if end < len(order):
            out += self._step(last, order[end]) - self._step(before, order[end])
        if out <= _GAIN:
            return False
        turned = self._turned(i, end - 1)
        best, found = _GAIN, (-1, False)
        for place in places:
            if i <= place <= end:
                continue
            other = self._at(place - 1)
            for one, two, back in ((first, last, False), (last, first, True)):
                into = self._step(other, one) - (turned if back else 0.0)
                if place < len(order):
                    into += self._step(two, order[place]) - self._step(other, order[place])
                if out - into > best:
                    best, found = out - into, (place, back)
        place, back = found
        if place < 0:
            return False
        moved = order[i:end][::-1] if back else order[i:end]
        del order[i:end]
        at = place if place < i else place - size
        order[at:at] = moved
        self._renumber(min(i, at), max(end, at + size) - 1)
        return True


def _nearest(points: Points, to: Points) -> list[list[int]]:
    """For each of some places the points that are nearest, the nearest first."""
    if len(points) <= _FEW:
        off = to[:, None] - points
        few: list[list[int]] = (
            np.hypot(off[..., 0], off[..., 1]).argsort(axis=1, kind="stable").tolist()
        )
        return few
    near: list[list[int]] = point_tree(points).query(to, k=_NEIGHBOURS + 1)[1].tolist()
    return near

"""Which of many shapes may have something in common, told without looking into them.

Each is held in the slabs it fills in eight directions; shapes of which the slabs are apart in one
of these have nothing in common. Letters side by side on a curve have boxes that meet, and are
told apart all the same.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from ulvent.core.base.arrays import Floats, Integers, Points, counted_up

DIRECTIONS = 8
_PAIRS_AT_ONCE = 1_000_000
_ANGLES = np.arange(DIRECTIONS) * (math.pi / DIRECTIONS)
_WAYS = np.array([np.cos(_ANGLES), np.sin(_ANGLES)])


def near_pairs(shapes: Sequence[Sequence[Points]], reach: float = 0.0) -> Integers:
    """(n, 2) which two shapes may come within `reach`, mm, of one another: first by the first.

    A shape is its rings; one without any is near none.
    """
    filled = np.array([index for index, rings in enumerate(shapes) if rings], dtype=int)
    if len(filled) < 2:
        return np.empty((0, 2), dtype=int)
    lows, highs = _slabs([shapes[index] for index in filled], reach)
    order = np.argsort(lows[:, 0], kind="stable")
    lows, highs = lows[order], highs[order]
    ranks = np.arange(len(order))
    counts = np.searchsorted(lows[:, 0], highs[:, 0], side="right") - ranks - 1
    found: list[Integers] = []
    for some in np.array_split(ranks, 1 + int(counts.sum()) // _PAIRS_AT_ONCE):
        owners, places = counted_up(counts[some])
        one = some[owners]
        two = one + 1 + places
        for way in range(1, DIRECTIONS):
            meet = (lows[one, way] <= highs[two, way]) & (lows[two, way] <= highs[one, way])
            one, two = one[meet], two[meet]
        found.append(np.column_stack([one, two]))
    pairs = np.sort(filled[order[np.concatenate(found)]], axis=1)
    return pairs[np.lexsort(pairs.T[::-1])]


def near_one_another(shapes: Sequence[Sequence[Points]]) -> list[list[int]]:
    """Groups of shapes, by their index, that have nothing in common with another group."""
    first_of = list(range(len(shapes)))

    def first(index: int) -> int:
        while first_of[index] != index:
            first_of[index] = first_of[first_of[index]]
            index = first_of[index]
        return index

    for one, two in near_pairs(shapes).tolist():
        low, high = sorted((first(one), first(two)))
        first_of[high] = low
    groups: dict[int, list[int]] = {}
    for index in range(len(shapes)):
        groups.setdefault(first(index), []).append(index)
    return list(groups.values())


def slabs(points: Points, starts: Integers) -> tuple[Floats, Floats]:
    """(n, directions) from where to where shapes go, whose points (m, 2) begin at `starts`."""
    along = points @ _WAYS
    low, high = (end.reduceat(along, starts, axis=0) for end in (np.minimum, np.maximum))
    return low, high


def slabs_apart(lows: Floats, highs: Floats, ones: Integers, twos: Integers) -> Floats:
    """(k,) by how much slabs of two shapes each are apart, in the direction in which that is most:
    the shapes are no nearer; negative where they meet in all."""
    apart: Floats = np.maximum(lows[twos] - highs[ones], lows[ones] - highs[twos]).max(axis=1)
    return apart


def _slabs(shapes: Sequence[Sequence[Points]], reach: float) -> tuple[Floats, Floats]:
    counts = [sum(map(len, rings)) for rings in shapes]
    starts = np.concatenate([[0], np.cumsum(counts)[:-1]])
    lows, highs = slabs(np.concatenate([ring for rings in shapes for ring in rings]), starts)
    return lows - reach / 2.0, highs + reach / 2.0

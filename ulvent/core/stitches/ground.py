"""A ground round words: one line that wanders over an area and never crosses itself.

A tree over the cells of a grid is chosen by chance, always the same one; the line goes round it,
half a cell off, so that its turns are evenly apart; then its corners are rounded.
"""

from __future__ import annotations

import random

import numpy as np

from ulvent.core.base.arrays import Booleans, Points
from ulvent.core.base.errors import wrong_field
from ulvent.core.shapes import Region

_ROUNDINGS = 3
_MOST_CELLS = 60_000
_SEED = 7

Cell = tuple[int, int]


def ground_line(room: Region, apart: float) -> Points | None:
    """(k, 2) a closed line over the largest part of an area that cells of it fit into, mm.

    None where there is no room for it. What is not within reach of one line is left open.

    Raises
    ------
    PieceError
        Where its turns are too near for so large an area.
    """
    if room.is_empty:
        return None
    x0, y0, x1, y1 = room.bounds
    # A cell is two turns wide: the line goes along both sides of the tree.
    columns, lines = int((x1 - x0) / (2.0 * apart)), int((y1 - y0) / (2.0 * apart))
    if columns * lines > _MOST_CELLS:
        raise wrong_field("sewing.ground.apart", f"the line would turn {columns * lines} times: "
                          "give it more room between its turns")  # fmt: skip
    corner = np.array([x0 + (x1 - x0 - 2.0 * apart * columns) / 2.0,
                       y0 + (y1 - y0 - 2.0 * apart * lines) / 2.0])  # fmt: skip
    half = np.stack(
        np.meshgrid(np.arange(2 * columns), np.arange(2 * lines), indexing="ij"), axis=-1
    )
    places = corner + (half + 0.5) * apart
    inside = room.contains(places.reshape(-1, 2)).reshape(2 * columns, 2 * lines)
    free = inside[::2, ::2] & inside[1::2, ::2] & inside[::2, 1::2] & inside[1::2, 1::2]
    joined = _tree(free, room, corner, apart)
    if not joined:
        return None
    line = corner + (np.array(_round(joined)) + 0.5) * apart
    return _rounded(line)


def _tree(free: Booleans, room: Region, corner: Points, apart: float) -> dict[Cell, set[Cell]]:
    """The largest tree of neighbouring cells, each with those that it is joined to."""
    pick = random.Random(_SEED)
    best: dict[Cell, set[Cell]] = {}
    seen: set[Cell] = set()
    for x, y in np.argwhere(free).tolist():
        start: Cell = (x, y)
        if start in seen:
            continue
        tree: dict[Cell, set[Cell]] = {start: set()}
        stack = [start]
        while stack:
            cell = stack[-1]
            ways = [
                other for other in _around(cell)
                if other not in tree and 0 <= other[0] < free.shape[0]
                and 0 <= other[1] < free.shape[1] and free[other]
                and _open(room, corner, apart, cell, other)
            ]  # fmt: skip
            if not ways:
                stack.pop()
                continue
            other = pick.choice(ways)
            tree[cell].add(other)
            tree[other] = {cell}
            stack.append(other)
        seen |= set(tree)
        if len(tree) > len(best):
            best = tree
    return best


def _around(cell: Cell) -> list[Cell]:
    x, y = cell
    return [(x + 1, y), (x, y + 1), (x - 1, y), (x, y - 1)]


def _open(room: Region, corner: Points, apart: float, one: Cell, other: Cell) -> bool:
    """Whether the line between two cells stays in the area."""
    middles = [corner + (2.0 * np.array(cell) + 1.0) * apart for cell in (one, other)]
    across = np.array([one[1] - other[1], other[0] - one[0]]) * apart / 2.0
    places = [
        middles[0] + share * (middles[1] - middles[0]) + side * across
        for share in (0.25, 0.5, 0.75) for side in (-1.0, 1.0)
    ]  # fmt: skip
    return bool(room.contains(np.array(places)).all())


def _round(joined: dict[Cell, set[Cell]]) -> list[Cell]:
    """The way round a tree, in halves of cells: at each the wall is kept on the right."""
    turns = [(1, 0), (0, 1), (-1, 0), (0, -1)]

    def passes(at: Cell, way: int) -> Cell | None:
        to = (at[0] + turns[way][0], at[1] + turns[way][1])
        here, there = (at[0] // 2, at[1] // 2), (to[0] // 2, to[1] // 2)
        if here == there:
            # Inside a cell the line goes along its edge, not through a way that leaves it.
            side = _side(at, to)
            return None if (here[0] + side[0], here[1] + side[1]) in joined[here] else to
        return to if there in joined.get(here, ()) else None

    first = min(joined)
    begin = (2 * first[0], 2 * first[1])
    found = [begin]
    at, way = begin, 0
    while True:
        for turn in (3, 0, 1, 2):
            to = passes(at, (way + turn) % 4)
            if to is not None:
                way = (way + turn) % 4
                at = to
                break
        if at == begin:
            return found
        found.append(at)


def _side(at: Cell, to: Cell) -> Cell:
    """Toward which neighbour of their cell two halves lie."""
    if at[0] == to[0]:
        return (1, 0) if at[0] % 2 else (-1, 0)
    return (0, 1) if at[1] % 2 else (0, -1)


def _rounded(line: Points) -> Points:
    """A closed line with its corners cut, several times; closed at its end."""
    for _ in range(_ROUNDINGS):
        ahead = np.roll(line, -1, axis=0)
        line = np.stack([0.75 * line + 0.25 * ahead, 0.25 * line + 0.75 * ahead], axis=1)
        line = line.reshape(-1, 2)
    return np.concatenate([line, line[:1]])

"""The edges of lettering, and where rays through it cross them."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Floats, Integers, Points, counted_up, in_pieces
from ulvent.core.base.tolerances import JOINT
from ulvent.core.shapes import Region

_CELLS_OF_FIRST = 8.0
_MOST_PIECES = 1_000_000
_PAIRS_AT_ONCE = 1_000_000


class InkEdges:
    """The edges of an area, for rays through it.

    Edges are cut to pieces that are entered in the cells of a grid; a ray is held against
    what is entered where it goes.

    Parameters
    ----------
    first, farthest
        edges that rays come to farther away, mm, are not looked at: first few, then twice as
        far for those rays that have not found `enough` white beyond ink, up to the farthest
    """

    def __init__(self, ink: Region, first: float, farthest: float, enough: float) -> None:
        self._first, self._farthest, self._enough = min(first, farthest), farthest, enough
        self._cell = max(self._first / _CELLS_OF_FIRST, ink.perimeter / _MOST_PIECES, JOINT)
        rings = ink.rings
        owners, self._begins, _ = in_pieces(*ink.edges, self._cell)
        # Each ends exactly where the next begins, so that no ray slips between them.
        nexts = np.arange(1, len(owners) + 1)
        for_ring = np.searchsorted(owners, np.cumsum([0, *map(len, rings)]))
        nexts[for_ring[1:] - 1] = for_ring[:-1]
        self._ends = self._begins[nexts]
        self._enter(np.minimum(self._begins, self._ends), np.maximum(self._begins, self._ends))

    def _enter(self, lows: Points, highs: Points) -> None:
        """Every piece into the cells that it comes near to: by half of a ray's step at most."""
        self._origin = lows.min(axis=0) - self._cell
        near = self._cell / 4.0
        low, high = self._cells(lows - near), self._cells(highs + near)
        self._columns = int(high[:, 0].max()) + 2
        wide, tall = (high - low + 1).T
        piece, place = counted_up(wide * tall)
        across, up = place % wide[piece], place // wide[piece]
        cells = (low[piece, 1] + up) * self._columns + low[piece, 0] + across
        order = np.argsort(cells, kind="stable")
        self._entered, self._pieces = cells[order], piece[order]

    def _cells(self, points: Points) -> Integers:
        cells: Integers = np.floor((points - self._origin) / self._cell).astype(int)
        return cells

    def crossings(
        self, origins: Floats, ways: Floats, together: int = 1
    ) -> tuple[Floats, Floats, Floats]:
        """How far each ray (n, 2) is where it enters ink, leaves it, and enters it again.

        So many rays, one after another, belong `together`, and are seen equally far.
        """
        found = np.full((3, len(origins)), np.inf)
        rest, reach = np.arange(len(origins)), self._first
        while len(rest):
            found[:, rest] = self._within(reach, origins[rest], ways[rest])
            if reach >= self._farthest:
                break
            # What is found so near is all there is so near.
            done = (found[1, rest] <= reach - self._enough).reshape(-1, together).all(axis=1)
            rest, reach = rest[~np.repeat(done, together)], min(2.0 * reach, self._farthest)
        return found[0], found[1], found[2]

    def _within(self, reach: float, origins: Floats, ways: Floats) -> Floats:
        """(3, n) the crossings of rays with edges, all that are within reach."""
        found = np.full((3, len(origins)), np.inf)
        steps = np.arange(0.0, reach + self._cell, self._cell / 2.0)
        for some in np.array_split(
            np.arange(len(origins)), 1 + len(origins) * len(steps) // _PAIRS_AT_ONCE
        ):
            ray, piece = self._passed(origins[some], ways[some], steps)
            way, origin = ways[some][ray], origins[some][ray]
            side, along = _sides(self._begins[piece] - origin, way)
            side_at_end, along_at_end = _sides(self._ends[piece] - origin, way)
            over = (side < 0.0) != (side_at_end < 0.0)
            ray, piece = ray[over], piece[over]
            s0, s1, a0, a1 = side[over], side_at_end[over], along[over], along_at_end[over]
            far = a0 + s0 / (s0 - s1) * (a1 - a0)
            order = np.lexsort((piece, far, ray))
            ray, piece, far = ray[order], piece[order], far[order]
            # A ray may have met a piece in several cells.
            again = (np.diff(ray, prepend=-1) == 0) & (np.diff(piece, prepend=-1) == 0)
            kept = (far > 0.0) & (far <= reach) & ~again
            ray, far = ray[kept], far[kept]
            rank = np.arange(len(ray)) - np.searchsorted(ray, ray)
            for which in range(3):
                mine = rank == which
                found[which, some[ray[mine]]] = far[mine]
        return found

    def _passed(self, origins: Floats, ways: Floats, steps: Floats) -> tuple[Integers, Integers]:
        """Rays, by their index, with the pieces that are entered where they go."""
        places = self._cells(origins[:, None] + ways[:, None] * steps[:, None])
        within = (places[..., 0] >= 0) & (places[..., 0] < self._columns)
        cells = np.where(within, places[..., 1] * self._columns + places[..., 0], -1)
        fresh = np.diff(cells, axis=1, prepend=-2) != 0
        rays = np.nonzero(fresh)[0]
        cells = cells[fresh]
        begin, end = (np.searchsorted(self._entered, cells, side) for side in ("left", "right"))
        owner, place = counted_up(end - begin)
        return rays[owner], self._pieces[begin[owner] + place]


def _sides(ways: Floats, rays: Floats) -> tuple[Floats, Floats]:
    """How far to the side of rays (n, 2), and along them, each of the ways (n, 2) leads."""
    (x, y), (rx, ry) = ways.T, rays.T
    return rx * y - ry * x, rx * x + ry * y

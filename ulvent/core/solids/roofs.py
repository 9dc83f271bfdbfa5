"""Areas whose walls come in on the way up, however much, and whatever becomes of their corners.

Over each place of an area stands as much as its distance from the nearest edge says. The distance
is found on triangles between the edges and the middle lines, where it is greatest; they are cut
along the distances at which the walls change their direction. So walls may lean, upper edges be
rounded or bevelled, walls meet over the middle line; and, upside down, this is the groove of a
pointed cutter that follows the middle lines as deep as the edges let it.
"""

from __future__ import annotations

from dataclasses import dataclass

import manifold3d
import numpy as np

from ulvent.core.base.arrays import Floats, Integers, Millimetres, Points
from ulvent.core.base.linked import joined_groups
from ulvent.core.shapes import Region
from ulvent.core.shapes.flat import divided

Profile = tuple[tuple[Millimetres, Millimetres], ...]
"""How walls go up: heights, and how far they have come in there, mm; neither ever gets less."""

_ROUNDS = 5
_LEAST_NODE = 0.4
"""Nodes nearer to an edge than this share of a step are left out: edges stay edges."""


def roofed(
    area: Region, low: Millimetres, walls: Profile, step: Millimetres
) -> manifold3d.Manifold | None:
    """An area made solid from `low` up; nothing where its triangles are not found.

    walls
        how they go up and come in
    step
        mm apart that the edges are looked at
    """
    # Imported when it is needed: SciPy takes longer to load than a piece takes to be measured.
    from scipy.spatial import Delaunay, cKDTree

    rings = [divided(ring, step) for ring in area.rings]
    for _ in range(_ROUNDS):
        edge = np.concatenate(rings)
        nodes = _centres(edge[Delaunay(edge).simplices])
        nodes = nodes[np.isfinite(nodes).all(axis=1)]
        nodes = nodes[area.contains(nodes)]
        radii = cKDTree(edge).query(nodes)[0] if len(nodes) else np.empty(0)
        kept = radii > _LEAST_NODE * step
        nodes, radii = _thinned(nodes[kept], radii[kept], step)
        points = np.concatenate([edge, nodes])
        edges = _Edges(rings, Delaunay(points).simplices.astype(np.int64), len(points))
        lacking = edges.lacking
        if not any(len(one) for one in lacking):
            found = _Roof(points, np.concatenate([np.zeros(len(edge)), radii]), edges.inside())
            return found.under(walls).solid(rings, low, walls)
        rings = [_halved(ring, one) for ring, one in zip(rings, lacking, strict=True)]
    return None


@dataclass(frozen=True, eq=False)
class _Roof:
    """Triangles over points (n, 2), with their distances from the nearest edge (n,)."""

    points: Points
    away: Floats
    triangles: Integers

    def under(self, walls: Profile) -> _Roof:
        """Cut along the distances at which walls change their direction."""
        found = self
        for _, inset in walls:
            if inset:
                found = found._cut(inset)
        return found

    def _cut(self, level: Millimetres) -> _Roof:
        above = self.away[self.triangles] > level
        counts = above.sum(axis=1)
        crossed = (counts == 1) | (counts == 2)
        if not crossed.any():
            return self
        # Each turned so that the corner that is alone on its side comes first.
        alone = np.where(counts[crossed, None] == 1, above[crossed], ~above[crossed])
        turn = (np.argmax(alone, axis=1)[:, None] + np.arange(3)) % 3
        a, b, c = np.take_along_axis(self.triangles[crossed], turn, axis=1).T
        n = len(self.points)
        pairs = np.concatenate([np.stack([a, b], axis=1), np.stack([a, c], axis=1)])
        pairs.sort(axis=1)
        ends, places = np.unique(pairs[:, 0] * n + pairs[:, 1], return_inverse=True)
        i, j = ends // n, ends % n
        shares = ((level - self.away[i]) / (self.away[j] - self.away[i]))[:, None]
        p, q = places[: len(a)] + n, places[len(a) :] + n
        return _Roof(
            np.concatenate(
                [self.points, self.points[i] + shares * (self.points[j] - self.points[i])]
            ),
            np.concatenate([self.away, np.full(len(i), level)]),
            np.concatenate(
                [
                    self.triangles[~crossed],
                    np.stack([a, p, q], axis=1),
                    np.stack([p, b, c], axis=1),
                    np.stack([p, c, q], axis=1),
                ]
            ),
        )

    def solid(
        self, rings: list[Points], low: Millimetres, walls: Profile
    ) -> manifold3d.Manifold | None:
        """All of it closed by a floor, and by walls along its edges."""
        insets = {inset: z for z, inset in walls}
        heights = np.interp(self.away, list(insets), list(insets.values()))
        count = len(self.points)
        vertices = np.concatenate(
            [
                np.concatenate([self.points, heights[:, None]], axis=1),
                np.concatenate([self.points, np.full((count, 1), low)], axis=1),
            ]
        )
        faces, start = [self.triangles, self.triangles[:, ::-1] + count], 0
        for ring in rings:
            a = start + np.arange(len(ring))
            b = start + np.roll(np.arange(len(ring)), -1)
            faces.append(np.stack([a + count, b + count, b], axis=1))
            faces.append(np.stack([a + count, b, a], axis=1))
            start += len(ring)
        made = manifold3d.Manifold(
            manifold3d.Mesh64(
                np.ascontiguousarray(vertices), np.concatenate(faces).astype(np.uint64)
            )
        )
        return made if made.status() == manifold3d.Error.NoError else None


def _halved(ring: Points, lacking: Integers) -> Points:
    after = np.roll(ring, -1, axis=0)
    return np.insert(ring, lacking + 1, (ring[lacking] + after[lacking]) / 2.0, axis=0)


def _centres(corners: Floats) -> Points:
    """(n, 2) the middles of the circles round triangles (n, 3, 2)."""
    a, b, c = corners.transpose(1, 0, 2)
    ab, ac = b - a, c - a
    twice = 2.0 * (ab[:, 0] * ac[:, 1] - ab[:, 1] * ac[:, 0])
    with np.errstate(divide="ignore", invalid="ignore"):
        bb, cc = (ab**2).sum(axis=1) / twice, (ac**2).sum(axis=1) / twice
        x = ac[:, 1] * bb - ab[:, 1] * cc
        y = ab[:, 0] * cc - ac[:, 0] * bb
    found: Points = a + np.stack([x, y], axis=1)
    return found


def _thinned(nodes: Points, radii: Floats, step: Millimetres) -> tuple[Points, Floats]:
    """Nodes of which no two share a cell of a fine grid: the farthest from the edges of each."""
    order = np.argsort(-radii, kind="stable")
    cells = np.floor(nodes[order] / (0.25 * step)).astype(np.int64)
    _, first = np.unique(cells, axis=0, return_index=True)
    kept = order[np.sort(first)]
    return nodes[kept], radii[kept]


class _Edges:
    """The edges of rings, among those of triangles over the same points."""

    def __init__(self, rings: list[Points], triangles: Integers, count: int) -> None:
        self._triangles, self._count = triangles, count
        self._codes = np.concatenate(
            [triangles[:, k] * count + triangles[:, k - 2] for k in range(3)]
        )
        self._rings, start = [], 0
        for ring in rings:
            here = np.arange(len(ring))
            self._rings.append((start + here) * count + start + np.roll(here, -1))
            start += len(ring)

    @property
    def lacking(self) -> list[Integers]:
        """Of each ring, the edges that are no triangle's on the inner side."""
        return [np.flatnonzero(~np.isin(ring, self._codes)) for ring in self._rings]

    def inside(self) -> Integers:
        """The triangles within the rings: all that hang together without crossing one."""
        n, count = len(self._triangles), self._count
        owners = np.tile(np.arange(n), 3)
        rings = np.concatenate(self._rings)
        order = np.argsort(self._codes)
        back = self._codes % count * count + self._codes // count
        places = np.minimum(np.searchsorted(self._codes[order], back), len(order) - 1)
        shared = self._codes[order][places] == back
        barred = np.isin(self._codes, rings) | np.isin(back, rings)
        joins = shared & ~barred
        parts = joined_groups(owners[joins], owners[order][places][joins], n)
        mine = np.unique(parts[owners[np.isin(self._codes, rings)]])
        found: Integers = self._triangles[np.isin(parts, mine)]
        return found

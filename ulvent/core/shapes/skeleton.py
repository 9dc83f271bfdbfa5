"""The skeleton of a shape: where two of its edges are equally near."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Integers, Lengths, Points
from ulvent.core.outlines import Polyline
from ulvent.core.shapes.region import Region


@dataclass(frozen=True, eq=False)
class Skeleton:
    """Edges of the Voronoi diagram of points along the edges of a shape that lie inside it.

    at
        (n, 2) nodes, mm
    radius
        (n,) of each to the nearest edge of the shape, mm
    edges
        (m, 2) nodes of each edge
    arcs, chords
        (m,) how far the two sides of an edge lie apart along the edge of the shape and across,
        mm; endless along, where they are on different rings
    """

    at: Points
    radius: Lengths
    edges: Integers
    arcs: Floats
    chords: Floats

    @classmethod
    def of(cls, part: Region, step: float) -> Skeleton:
        """Of one connected shape, with a point about every `step` mm along its edges."""
        # Imported when it is needed: SciPy takes longer to load than a piece takes to be measured.
        from scipy.spatial import Voronoi

        points, whose, along, total = _sampled(part, step)
        diagram = Voronoi(points)
        at = diagram.vertices
        sides = np.asarray(diagram.ridge_points)
        edges = np.array(diagram.ridge_vertices)
        finite = (edges >= 0).all(axis=1)
        sides, edges = sides[finite], edges[finite]
        chords = np.hypot(*(points[sides[:, 0]] - points[sides[:, 1]]).T)
        arcs = np.abs(along[sides[:, 0]] - along[sides[:, 1]])
        arcs = np.minimum(arcs, total[sides[:, 0]] - arcs)
        arcs[whose[sides[:, 0]] != whose[sides[:, 1]]] = np.inf
        # Neighbours have an edge between them that leads from the shape's own edge: no skeleton.
        apart = (chords > 1.5 * step) & part.contains(at)[edges].all(axis=1)
        sides, edges = sides[apart], edges[apart]
        radius = np.zeros(len(at))
        for column in (0, 1):
            radius[edges[:, column]] = np.hypot(*(at[edges[:, column]] - points[sides[:, 0]]).T)
        return cls(at, radius, edges, arcs[apart], chords[apart])

    def near(self, kept: Booleans | None = None) -> dict[int, set[int]]:
        """Which nodes each is joined to, by all edges or by those that are kept, (m,)."""
        found: dict[int, set[int]] = {}
        for one, other in (self.edges if kept is None else self.edges[kept]).tolist():
            if one != other:
                found.setdefault(one, set()).add(other)
                found.setdefault(other, set()).add(one)
        return found


def _sampled(part: Region, step: float) -> tuple[Floats, Integers, Floats, Floats]:
    """Points along all rings, whose each is, its place along it, and that ring's length."""
    points, whose, along, total = [], [], [], []
    for index, ring in enumerate(part.rings):
        walk = Polyline(ring, True).walk()
        count = max(8, math.ceil(walk.length / step))
        stations = np.linspace(0.0, walk.length, count, endpoint=False)
        points.append(walk.at(stations))
        whose.append(np.full(count, index))
        along.append(stations)
        total.append(np.full(count, walk.length))
    return (
        np.concatenate(points), np.concatenate(whose), np.concatenate(along), np.concatenate(total)
    )  # fmt: skip


def branches(near: dict[int, set[int]]) -> list[list[int]]:
    """Nodes of each way between ends and junctions, and of each ring without any."""
    joints = [node for node, others in near.items() if len(others) != 2]
    found: list[list[int]] = []
    gone: set[tuple[int, int]] = set()
    for node in joints:
        for first in sorted(near[node]):
            if (node, first) not in gone:
                path = _way(near, node, first)
                gone.add((path[-1], path[-2]))
                found.append(path)
    passed = set(joints).union(*found)
    for node, others in near.items():
        if node not in passed:
            ring = _way(near, node, min(others))
            passed.update(ring)
            found.append(ring)
    return found


def _way(near: dict[int, set[int]], node: int, first: int) -> list[int]:
    """From a node over its neighbour to the next end or junction, or back to where it began."""
    path = [node, first]
    while path[-1] != node and len(near[path[-1]]) == 2:
        one, other = near[path[-1]]
        path.append(other if one == path[-2] else one)
    return path

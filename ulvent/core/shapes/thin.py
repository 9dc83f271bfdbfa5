"""Where a region, or the white round it, is thinner than it should be, and how thin.

From points along the edge balls are shrunk, each touching its point from inside, until they
hold no other point of the edge: a ball's diameter is how thick the region is there (the
shrinking-ball way to the medial axis). A ball in a wedge, as in the crotch of a letter,
says nothing about strength, since every corner comes to nothing: what counts is a ball
whose two contacts face each other, or that has a wider place on both sides of it. For
what is found, the distance is then taken between the two edges themselves.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Integers, Lengths, turned_left
from ulvent.core.base.linked import joined_groups
from ulvent.core.base.tolerances import JOINT
from ulvent.core.base.trees import point_tree
from ulvent.core.outlines import Polyline, even_places
from ulvent.core.shapes.region import Region

Ints = Integers

_STEPS_OF_LIMIT = 7.0
_FINEST, _COARSEST = 0.04, 0.25
_LEAST_SAMPLES, _MOST_SAMPLES = 6, 60_000
_ROUNDS = 24
_FACING = -math.cos(math.radians(30.0))
_WIDER = 1.1
_LARGEST = 0.51 * _WIDER
"""Of the limit the radius with which balls begin: a little wider than what is as thick as that."""
_BEND, _ROUND = 1.4, 4.0
"""Ways along the edge, in chords, from one contact to the other: at a mere bend of the edge
at most, and round what hangs on a neck at least."""
_TIP = 0.3
_LASTING = 6.0
_NEIGHBOURS = 3.0
"""Thin places nearer than so many steps are one."""


@dataclass(frozen=True)
class ThinPlace:
    """A place that is thinner than a limit.

    thickness
        mm, the least one there
    at
        midway between the two edges, mm
    first, second
        the points of the two edges that are so near to each other
    rings
        which rings of the region they are on
    """

    thickness: float
    at: tuple[float, float]
    first: tuple[float, float]
    second: tuple[float, float]
    rings: tuple[int, int]


def thin_places(region: Region, limit: float, white: bool = False) -> list[ThinPlace]:
    """Where the region is thinner than `limit` mm, the thinnest first.

    With `white`, where what is not the region is: gaps and slots.
    """
    if region.is_empty:
        return []
    edge = _Edge(region, limit, white)
    radii, others = edge.balls(limit)
    thin = np.flatnonzero((others >= 0) & (2.0 * radii < limit))
    if not len(thin):
        return []
    thin = thin[edge.counts(thin, radii, others)]
    found = [edge.thinnest(group, others) for group in edge.groups(thin, others)]
    places = [place for place in found if place is not None and place.thickness < limit]
    return sorted(places, key=lambda place: place.thickness)


class _Edge:
    """Points along all rings of a region, with the normals that point into what is looked at."""

    def __init__(self, region: Region, limit: float, white: bool) -> None:
        self._rings = region.rings
        step = min(max(limit / _STEPS_OF_LIMIT, _FINEST), _COARSEST)
        self._step = max(step, region.perimeter / _MOST_SAMPLES)
        self._lines = [Polyline(ring, True) for ring in self._rings]
        edge = even_places(self._lines, self._step, _LEAST_SAMPLES)
        self._points, self._whose, self._places = edge.points, edge.whose, edge.along
        self._normals = turned_left(edge.ways) * (-1.0 if white else 1.0)
        self._firsts = np.searchsorted(self._whose, np.arange(len(self._rings)))
        self._counts = np.bincount(self._whose)
        self._totals = edge.lengths
        self._tree = point_tree(self._points)

    def balls(self, limit: float) -> tuple[Floats, Ints]:
        """Radii of the balls, and the point that stops each; −1 where none does.

        A ball that is thicker than the limit by more than makes a place a wider one is as good as
        any larger one.
        """
        count = len(self._points)
        radii = np.full(count, _LARGEST * limit)
        others = np.full(count, -1)
        active = np.arange(count)
        for _ in range(_ROUNDS):
            if not len(active):
                break
            centres = self._points[active] + self._normals[active] * radii[active, None]
            # What lies beyond the largest ball stops none: it need not be found.
            most = float(radii[active].max())
            far, near = self._tree.query(centres, k=2, distance_upper_bound=most)
            # The ball's own point may come first.
            own = near[:, 0] == active
            far = np.where(own, far[:, 1], far[:, 0])
            near = np.where(own, near[:, 1], near[:, 0])
            smaller = far < radii[active] * (1.0 - 1e-6)
            active, near = active[smaller], near[smaller]
            apart = self._points[near] - self._points[active]
            depth = np.einsum("ni,ni->n", apart, self._normals[active])
            good = depth > JOINT
            active, near, apart, depth = active[good], near[good], apart[good], depth[good]
            radii[active] = (apart * apart).sum(axis=1) / (2.0 * depth)
            others[active] = near
        return radii, others

    def counts(self, thin: Ints, radii: Lengths, others: Ints) -> Booleans:
        """Which of the thin points are no mere wedge."""
        other = others[thin]
        facing = np.einsum("ni,ni->n", self._normals[thin], self._normals[other]) < _FACING
        apart = self._whose[thin] != self._whose[other]
        way = self._ways(thin, other)
        chord = np.maximum(np.hypot(*(self._points[thin] - self._points[other]).T), self._step)
        neck = np.zeros(len(thin), dtype=bool)
        for index in np.flatnonzero(~facing & ~apart & (way > _ROUND * chord)).tolist():
            neck[index] = self._is_neck(int(thin[index]), int(other[index]), radii)
        # On one ring, a ball that bridges next to nothing is a bend of the edge itself.
        bend = ~apart & (way < _BEND * chord)
        found: Booleans = (facing | apart | neck) & ~bend
        return found

    def _is_neck(self, one: int, two: int, radii: Lengths) -> bool:
        """Whether there is a wider place along both ways round the ring."""
        ring = self._whose[one]
        first, count = self._firsts[ring], self._counts[ring]
        low, high = sorted((one - first, two - first))
        mine = radii[first : first + count]
        between, beyond = mine[low:high], np.concatenate([mine[high:], mine[:low]])
        wide = _WIDER * radii[one]
        return bool(len(between) and len(beyond) and between.max() > wide and beyond.max() > wide)

    def groups(self, thin: Ints, others: Ints) -> list[Ints]:
        """Thin points that belong together, a place each."""
        if not len(thin):
            return []
        middles = (self._points[thin] + self._points[others[thin]]) / 2.0
        pairs = point_tree(middles).query_pairs(_NEIGHBOURS * self._step, output_type="ndarray")
        labels = joined_groups(pairs[:, 0], pairs[:, 1], len(thin))
        order = np.argsort(labels, kind="stable")
        bounds = np.searchsorted(labels[order], np.arange(labels.max() + 2))
        return [thin[order[a:b]] for a, b in zip(bounds[:-1], bounds[1:], strict=True)]

    def thinnest(self, group: Ints, others: Ints) -> ThinPlace | None:
        """The least distance between the two edges where a group is; none in a mere tip."""
        chords = np.hypot(*(self._points[group] - self._points[others[group]]).T)
        one = int(group[np.argmin(chords)])
        gap, p, q = self._apart(one, int(others[one]))
        if gap < _TIP * chords.min():
            # The edges meet there: only what is thin over a length counts.
            lasting = group[self._ways(group, others[group]) > _LASTING * chords]
            if not len(lasting):
                return None
            one = int(lasting[np.argmin(chords[np.isin(group, lasting)])])
            gap, p, q = self._apart(one, int(others[one]))
        two = int(others[one])
        (px, py), (qx, qy) = p.tolist(), q.tolist()
        return ThinPlace(
            gap, ((px + qx) / 2.0, (py + qy) / 2.0), (px, py), (qx, qy),
            (int(self._whose[one]), int(self._whose[two])),
        )  # fmt: skip

    def _apart(self, one: int, two: int) -> tuple[float, Floats, Floats]:
        return _segments_apart(self._stretch(one), self._stretch(two))

    def _ways(self, ones: Ints, others: Ints) -> Floats:
        """How far it is along the edge from each point to its other; infinite to another ring."""
        way = np.abs(self._places[ones] - self._places[others])
        way = np.minimum(way, self._totals[self._whose[ones]] - way)
        return np.where(self._whose[ones] == self._whose[others], way, np.inf)

    def _stretch(self, index: int) -> Floats:
        """The edge itself, a step or so to both sides of a point."""
        ring = self._whose[index]
        walk, points = self._lines[ring].walk(), self._rings[ring]
        total, along = walk.length, walk.along[:-1]
        reach = min(1.5 * self._step, total / 4.0)
        low, high = self._places[index] - reach, self._places[index] + reach
        laps = np.concatenate([along - total, along, along + total])
        inside = np.flatnonzero((laps > low) & (laps < high))
        first, last = walk.at(np.array([low, high]))
        return np.concatenate([[first], np.tile(points, (3, 1))[inside], [last]])


def _segments_apart(first: Floats, second: Floats) -> tuple[float, Floats, Floats]:
    """The least distance between two polylines that do not cross, and the points that have it."""
    best = (math.inf, first[0], second[0])
    for points, line, swapped in ((first, second, False), (second, first, True)):
        begins, ways = line[:-1], np.diff(line, axis=0)
        squared = np.maximum((ways * ways).sum(axis=1), JOINT**2)
        off = points[:, None] - begins
        share = np.clip((off * ways).sum(axis=2) / squared, 0.0, 1.0)
        feet = begins + share[..., None] * ways
        far = np.hypot(*np.moveaxis(points[:, None] - feet, 2, 0))
        i, j = np.unravel_index(int(np.argmin(far)), far.shape)
        if far[i, j] < best[0]:
            ends = (feet[i, j], points[i]) if swapped else (points[i], feet[i, j])
            best = (float(far[i, j]), *ends)
    return best

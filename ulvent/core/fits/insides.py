"""How far letters are inside of an edge, their whole outlines looked at, exactly."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Floats, Points, Stations
from ulvent.core.base.remembered import remembered
from ulvent.core.base.trees import point_tree
from ulvent.core.curves import Curve
from ulvent.core.curves.feet import toward_feet
from ulvent.core.fits.letter_samples import NARROWER, ROUNDS, WINDOW, Cubics
from ulvent.core.setting.letters.dials import outside

_EDGE_STEP = 0.25
_EDGE_SAMPLES = (201, 20_001)
_FOOT_ROUNDS = 3
_LEAST_SLOPE = 0.05


class Edge:
    """An edge that letters keep inside of: one side of a line.

    Points inside are at a positive distance from it, those outside at a negative one.
    """

    def __init__(self, curve: Curve, inside: float) -> None:
        self._curve, self._inside = curve, inside
        low, high = _EDGE_SAMPLES
        count = int(np.clip(curve.length / _EDGE_STEP, low, high))
        self._stations = np.linspace(0.0, curve.length, count)
        points = curve.points(self._stations)
        self.step = float(np.hypot(*np.diff(points, axis=0).T).max())
        self._tree = point_tree(points)
        self._corners = curve.points(curve.corners.stations)

    def roughly(self, points: Points) -> tuple[Floats, Floats]:
        """(n,) distances within half a step, signed, and the stations that they are from."""
        _, nearest = self._tree.query(points)
        stations = self._stations[nearest]
        return self._signed(points, stations), stations

    def exactly(self, points: Points, stations: Stations) -> tuple[Floats, Floats]:
        """(n,) signed distances and their stations, from feet near `stations`."""
        for _ in range(_FOOT_ROUNDS):
            stations, _ = toward_feet(self._curve, points, stations, self.step, _LEAST_SLOPE)
        return self._signed(points, stations), stations

    def _signed(self, points: Points, stations: Stations) -> Floats:
        frames = self._curve.frames(stations)
        apart = points - frames.points
        side = np.einsum("ni,ni->n", apart, frames.normals) * self._inside
        off = np.hypot(*apart.T)
        # No foot is found at a corner, where the tangent jumps.
        for corner in self._corners:
            off = np.minimum(off, np.hypot(*(points - corner).T))
        signed: Floats = np.copysign(off, side)
        return signed


@remembered(64)
def edge_toward(curve: Curve, inner: tuple[float, float]) -> Edge:
    """The edge of a line that has the point `inner` inside."""
    edge = Edge(curve, 1.0)
    return edge if edge.roughly(np.array([inner]))[0][0] >= 0.0 else Edge(curve, -1.0)


@remembered(64)
def edges_of_blank(curves: tuple[Curve, ...]) -> tuple[Edge, ...]:
    """The edges of a blank, its outer line first, then its holes."""
    outer, *holes = curves
    return (Edge(outer, -outside(outer)), *(Edge(hole, outside(hole)) for hole in holes))


def inside_by(cubics: Cubics, edge: Edge) -> float:
    """By how much all outlines are inside of an edge, mm; negative where one is outside."""
    if not len(cubics.controls):
        return np.inf
    samples = cubics.samples()
    rough, stations = edge.roughly(samples.points)
    near = np.argsort(rough)
    near = near[rough[near] <= rough[near[0]] + samples.step + edge.step]
    # The nearest sample of each piece is where its own window begins.
    _, firsts = np.unique(samples.which[near], return_index=True)
    near = near[firsts]
    pieces, at, feet = samples.which[near], samples.t[near], stations[near]
    widths = samples.widths[pieces]
    steps = np.linspace(-1.0, 1.0, WINDOW)
    best, reach = np.inf, samples.step
    for _ in range(ROUNDS):
        tried = np.clip(at[:, None] + widths[:, None] * steps, 0.0, 1.0)
        every = cubics.points(np.repeat(pieces, WINDOW), tried.ravel())
        apart, on_edge = edge.exactly(every, np.repeat(feet, WINDOW))
        lowest = apart.reshape(tried.shape).argmin(axis=1)
        rows = np.arange(len(pieces))
        least = apart.reshape(tried.shape)[rows, lowest]
        best = min(best, float(least.min()))
        # Pieces that can no longer be the nearest are left out.
        kept = least <= least.min() + reach
        pieces, widths = pieces[kept], widths[kept] * NARROWER
        at = tried[rows, lowest][kept]
        feet = on_edge.reshape(tried.shape)[rows, lowest][kept]
        reach *= NARROWER
    return best

"""A line as few points: smooth where it trembles, and no farther from it than is asked."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from ulvent.core.base.arrays import Floats, Points
from ulvent.core.curves import Curve, nearest
from ulvent.core.guides.drawn import Node, drawn_line
from ulvent.core.guides.freehand import fitted_nodes

_SHARP = math.radians(20.0)
_FEWEST, _MOST = 200, 3200
"""Samples along the line: more are taken while the line is missed between them."""
_LOOKED_AT = 2000


@dataclass(frozen=True)
class Fewer:
    """Points of a line, and how far the line through them is from the one that was, mm."""

    nodes: tuple[Node, ...]
    off: float

    def line(self, closed: bool) -> Curve:
        """The line through the points."""
        return drawn_line(self.nodes, closed)


def fewer_points(curve: Curve, tolerance: float) -> Fewer:
    """The fewest points found whose line is within a tolerance of a curve, mm.

    Corners stay. The nodes lie in the curve's own plane.
    """
    count, best = _FEWEST, None
    while count <= _MOST:
        found = _fitted(curve, tolerance, count)
        if best is None or found.off < best.off:
            best = found
        if found.off <= tolerance:
            return found
        count *= 2
    assert best is not None
    return best


def smoothed(curve: Curve, tolerance: float) -> Fewer:
    """A smooth line through an outline of many short straight lines, near their ends, mm.

    Turns that many of them make together stay corners; those of single ones are tremble.
    """
    points = np.array([segment.start for segment in curve.segments()] + [curve.segments()[-1].end])
    return _through(_nodes(points, tolerance), curve, corner_at_seam=False)


def _fitted(curve: Curve, tolerance: float, count: int) -> Fewer:
    nodes: list[Node] = []
    sharp = _sharp(curve)
    bounds = np.unique([0.0, *sharp, curve.length])
    for begin, end in pairwise(bounds.tolist()):
        share = max(8, math.ceil(count * (end - begin) / curve.length))
        points = curve.points(np.linspace(begin, end, share))
        part = _nodes(points, tolerance)
        nodes = [*nodes[:-1], _met(nodes[-1], part[0], True), *part[1:]] if nodes else part
    return _through(nodes, curve, bool(np.isin([0.0, curve.length], sharp).any()))


def _nodes(points: Points, tolerance: float) -> list[Node]:
    """Nodes of a line near points, (n, 2), mm."""
    found = fitted_nodes(points @ np.array([1.0, 1j]), tolerance)
    return [Node.model_validate(node) for node in found]


def _through(nodes: list[Node], curve: Curve, corner_at_seam: bool) -> Fewer:
    """The nodes of a line that is closed as a curve is, and how far it is from that."""
    if curve.closed and len(nodes) > 2:
        nodes = [_met(nodes[-1], nodes[0], corner_at_seam), *nodes[1:-1]]
    return Fewer(tuple(nodes), _off(curve, drawn_line(tuple(nodes), curve.closed)))


def _sharp(curve: Curve) -> Floats:
    """Stations of corners that a smooth line would cut off."""
    corners = curve.corners
    found: Floats = corners.stations[np.abs(corners.turns) > _SHARP]
    return found


def _met(last: Node, first: Node, corner: bool) -> Node:
    """The point in which one part ends and the next begins, with the handles of both."""
    joint = "corner" if corner else "smooth"
    return Node(at=last.at, joint=joint, before=last.before, after=first.after)


def _off(one: Curve, two: Curve) -> float:
    """How far two lines are from each other at most, mm."""
    far = 0.0
    for line, other in ((one, two), (two, one)):
        points = line.points(np.linspace(0.0, line.length, _LOOKED_AT))
        feet = other.points(nearest(other, points))
        far = max(far, float(np.hypot(*(points - feet).T).max()))
    return far

"""Satin columns of a shape: its strokes, each with the two rails between which thread is laid.

The strokes are the middle lines of the shape, joined where they go straight through a junction. At
each place of a stroke a rung stands across it, from edge to edge, but no farther than a share of
the stroke's own width, so that it does not run off into a stroke that meets it.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Points, turned_left
from ulvent.core.base.tolerances import JOINT
from ulvent.core.base.trees import point_tree
from ulvent.core.outlines import Polyline
from ulvent.core.shapes import Region
from ulvent.core.steps.middle_lines import strokes_of

_STEP = 0.1
_REACH = 1.45
"""A rung goes no farther to each side than so many times the distance to the nearest edge."""
_EXTENDED = 2.5
_EDGE_STEP = 0.05
_SHORT_OF_EDGE = 0.03
_SMOOTHED = 0.35
"""Share of a stroke's half width over which its direction is smoothed."""
_COMPACT = 1.6
_END = 2.0
"""Half widths from its end over which a stroke is as wide as at their end."""


@dataclass(frozen=True, eq=False)
class Column:
    """A stroke between two rails, mm.

    axis, left, right
        (k, 2) each, place by place
    closed
        whether it comes back to where it began
    """

    axis: Points
    left: Points
    right: Points
    closed: bool = False

    @property
    def reversed(self) -> Column:
        """The same, gone from its end."""
        return Column(self.axis[::-1], self.right[::-1], self.left[::-1], self.closed)

    @property
    def widths(self) -> Floats:
        """(k,) mm from rail to rail."""
        found: Floats = np.hypot(*(self.left - self.right).T)
        return found

    @property
    def swept(self) -> Region:
        """What thread between the rails covers."""
        strips = np.stack([self.left[:-1], self.right[:-1], self.right[1:], self.left[1:]], axis=1)
        x, y = strips[..., 0], strips[..., 1]
        turn = np.sum(x * np.roll(y, -1, axis=1) - y * np.roll(x, -1, axis=1), axis=1)
        return Region.of_rings([ring if way > 0.0 else ring[::-1]
                                for ring, way in zip(strips, turn, strict=True)])  # fmt: skip


def columns_of(part: Region) -> list[Column]:
    """The columns of one connected shape, the longest first."""
    edges = _Edges(part)
    lines = [] if _is_compact(part) else strokes_of(part)
    found = map(edges.column, lines or [_across(part)])
    kept = [one for one in found if one is not None]
    return sorted(kept, key=lambda one: -Polyline(one.axis, one.closed).walk().length)


def _is_compact(part: Region) -> bool:
    """Whether it is a blob without holes, which has no strokes of its own: a dot."""
    if len(part.rings) > 1:
        return False
    length, width = _sides(part)[1]
    hull = length * width
    return length < _COMPACT * width and part.area > 0.7 * hull


def _across(part: Region) -> Polyline:
    """A line through the middle of a shape, along its longest way."""
    (middle, way), (length, _) = _sides(part)
    half = length / 2.0 * way
    return Polyline(np.array([middle - 0.5 * half, middle + 0.5 * half]), False)


def _sides(part: Region) -> tuple[tuple[Points, Points], tuple[float, float]]:
    """The middle of a shape and the way it is long, and its sides along and across that."""
    ring = max(part.rings, key=len)
    middle = (ring.max(axis=0) + ring.min(axis=0)) / 2.0
    spread = np.cov((ring - middle).T)
    way = np.linalg.eigh(spread)[1][:, -1]
    along, across = (ring - middle) @ way, (ring - middle) @ np.array([-way[1], way[0]])
    return (middle, way), (float(np.ptp(along)), float(np.ptp(across)))


class _Edges:
    """The edges of a shape, for rungs to end at."""

    def __init__(self, part: Region) -> None:
        self._begins = np.concatenate(part.rings)
        self._ends = np.concatenate([np.roll(ring, -1, axis=0) for ring in part.rings])
        dense = [Polyline(ring, True).walk() for ring in part.rings]
        self._tree = point_tree(
            np.concatenate([walk.at(np.arange(0.0, walk.length, _EDGE_STEP)) for walk in dense])
        )

    def column(self, line: Polyline) -> Column | None:
        """The column along a stroke; none where it is too short for thread."""
        axis = self._extended(line)
        if len(axis) < 3:
            return None
        radius, _ = self._tree.query(axis)
        ways = _ways(axis, line.closed, float(np.median(radius)))
        normals = turned_left(ways)
        most = _REACH * _steady(radius, line.closed)
        left = self._reach(axis, normals, most)
        right = self._reach(axis, -normals, most)
        rails = axis + left[:, None] * normals, axis - right[:, None] * normals
        kept = _forward(*rails, ways)
        if kept.sum() < 2:
            return None
        return Column(axis[kept], rails[0][kept], rails[1][kept], line.closed)

    def _extended(self, line: Polyline) -> Points:
        """A stroke at even places, run on at its free ends as far as the shape goes."""
        walk = line.walk()
        count = max(3, round(walk.length / _STEP))
        places = walk.at(np.linspace(0.0, walk.length, count + 1))
        if line.closed:
            return places
        radius, _ = self._tree.query(places[[0, -1]])
        ends = []
        for at, inner, far in ((0, min(8, count), radius[0]), (-1, -1 - min(8, count), radius[1])):
            way = places[at] - places[inner]
            way /= max(float(np.hypot(*way)), JOINT)
            most = np.array([_EXTENDED * max(far, _STEP)])
            length = float(self._reach(places[at][None], way[None], most)[0])
            # On the edge itself a rung would have nothing to end at.
            last = max(length - _SHORT_OF_EDGE, _SHORT_OF_EDGE)
            steps = np.append(np.arange(_STEP, last - _STEP / 2.0, _STEP), last)
            ends.append(places[at] + steps[:, None] * way)
        return np.concatenate([ends[0][::-1], places, ends[1]])

    def _reach(self, points: Points, ways: Points, most: Floats) -> Floats:
        """(n,) mm from points along unit vectors to the nearest edge, or the most of each."""
        chord = self._ends - self._begins
        off = self._begins[None] - points[:, None]
        cross = ways[:, None, 0] * chord[None, :, 1] - ways[:, None, 1] * chord[None, :, 0]
        with np.errstate(divide="ignore", invalid="ignore"):
            along = (off[..., 0] * chord[None, :, 1] - off[..., 1] * chord[None, :, 0]) / cross
            share = (off[..., 0] * ways[:, None, 1] - off[..., 1] * ways[:, None, 0]) / cross
        hits = (share >= 0.0) & (share <= 1.0) & (along > 0.0) & (np.abs(cross) > 0.0)
        nearest: Floats = np.where(hits, along, np.inf).min(axis=1)
        return np.minimum(nearest, most)


def _ways(axis: Points, closed: bool, radius: float) -> Points:
    """(k, 2) unit directions along a stroke, smoothed over a share of its half width."""
    span = max(1, round(_SMOOTHED * radius / _STEP * 2.0))
    if closed:
        ahead, behind = np.roll(axis, -span, axis=0), np.roll(axis, span, axis=0)
    else:
        index = np.arange(len(axis))
        ahead = axis[np.minimum(index + span, len(axis) - 1)]
        behind = axis[np.maximum(index - span, 0)]
    way = ahead - behind
    found: Points = way / np.maximum(np.hypot(*way.T), JOINT)[:, None]
    return found


def _steady(radius: Floats, closed: bool) -> Floats:
    """Half widths without the bulges that a stroke has at junctions and the taper of its ends."""
    usual = float(np.median(radius))
    window = max(3, round(0.8 * usual / _STEP))
    padded = np.pad(radius, window, mode="wrap" if closed else "edge")
    views = np.lib.stride_tricks.sliding_window_view(padded, 2 * window + 1)
    middle: Floats = np.maximum(np.median(views, axis=1), 0.5 * usual)
    if not closed:
        # Up to its end a stroke is as wide as it is where its end is no longer the nearest edge.
        reach = min(len(radius), round(_END * usual / _STEP))
        middle[:reach] = np.maximum.accumulate(middle[:reach][::-1])[::-1]
        middle[-reach:] = np.maximum.accumulate(middle[-reach:])
    return middle


def _forward(left: Points, right: Points, ways: Points) -> Booleans:
    """(k,) which rungs do not cross the last one that is kept."""
    kept = np.zeros(len(left), dtype=bool)
    last = -1
    for index in range(len(left)):
        if last < 0 or (
            (left[index] - left[last]) @ ways[index] > -JOINT
            and (right[index] - right[last]) @ ways[index] > -JOINT
        ):
            kept[index] = True
            last = index
    return kept

"""Satin columns of a shape: its strokes, each with the two rails between which thread is laid.

At each place of a stroke a rung stands across it, from edge to edge, but no farther than a share of
the stroke's own width, so that it does not run off into a stroke that meets it. Where columns would
lie over one another, one of them stops: what comes to a stroke that goes on, and, at a corner, the
one that meets the edge there more aslant or is straight for a shorter way.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ulvent.core.base.arrays import (
    Booleans,
    Floats,
    Integers,
    Points,
    in_pieces,
    strung,
    turned_left,
)
from ulvent.core.base.tolerances import JOINT
from ulvent.core.base.trees import point_tree
from ulvent.core.outlines import Polyline
from ulvent.core.shapes import Region, least_box
from ulvent.core.stitches.column import STEP, Column, unfolded, ways_along
from ulvent.core.stitches.strokes import End, Strokes, strokes_of

_LONGEST_STEP, _PLACES = 0.5, 12.0
"""mm between places of a column: so many in half its width, where that is not finer than thread."""
_PIECE = 0.5
"""mm: edges are looked through in pieces of this length at most."""
_REACH = 1.45
"""A rung goes no farther to each side than so many times the distance to the nearest edge."""
_EXTENDED = 5.0
_EDGE_STEP = 0.05
_SHORT_OF_EDGE = 0.03
_COMPACT, _FULL = 1.6, 0.93
"""A blob is at most so long beside its width, and fills so much of its hull."""
_ACROSS = 25
"""Places of a rung at which is seen whether another column covers it."""
_KEPT_OFF = 0.2
"""mm that a column stops short of another: thread is wider than its needle points, by half of its
own width and by what it is pulled together."""
_OPEN = 0.5
"""Of what is left of a rung so much lies beside other columns."""
_OVERLAP = 0.15
"""mm by which a rung that is cut short goes on, nearer to the other column."""
_NARROWEST = 0.25
"""mm: what is left of a rung beside another column, and is shorter, is not sewn."""
_CRUMB = 0.4
"""Squares of a column's width: what is left of it and is less is no column of its own."""
_LOOKED_AT = 2.5
"""Widths from its end over which a column may run into itself."""
_BENT = 0.2
_END = 2.0
"""Half widths from its end over which a stroke is as wide as at their end."""


def columns_of(part: Region) -> list[Column]:
    """The columns of one connected shape, those that go on before those that stop in them."""
    edges = _Edges(part)
    dot = _across_dot(part)
    strokes = strokes_of(part) if dot is None else Strokes([dot], [], [])
    found: list[Column] = []
    swept: list[Region] = []
    for index in _in_order(edges, strokes):
        made = edges.column(strokes.lines[index])
        if made is None:
            continue
        for end in edges.stopping_in_itself(strokes, index):
            made = _short_of_itself(*made, end)
        beside = _beside(*made, swept)
        found += beside
        swept += [one.swept for one in beside]
    return found


def _in_order(edges: _Edges, strokes: Strokes) -> list[int]:
    """Strokes in such an order that each stops in those before it."""
    before: dict[int, set[int]] = {index: set() for index in range(len(strokes.lines))}
    for (stroke, _), through in strokes.stops:
        before[stroke].add(through)
    for one, other in strokes.corners:
        wins, stops = sorted((one, other), key=lambda end: -edges.firmness(strokes.lines, end))
        before[stops[0]].add(wins[0])
    lengths = [line.walk().length for line in strokes.lines]
    found: list[int] = []
    while len(found) < len(lengths):
        left = [index for index in before if index not in found]
        free = [index for index in left if not before[index] - {*found, index}]
        found.append(max(free or left, key=lambda index: (lengths[index], -index)))
    return found


def _short_of_itself(column: Column, own: Booleans, end: int) -> tuple[Column, Booleans]:
    """A column that runs into itself, up to there."""
    along = column.stations
    along = along if end == 0 else along[-1] - along
    near = along < _LOOKED_AT * column.width
    if near.all():
        return column, own
    body = column.some(np.flatnonzero(~near)).swept
    kept = ~near | ~body.contains(column.middles)
    return column.some(np.flatnonzero(kept)), own[kept]


def _beside(column: Column, own: Booleans, swept: Sequence[Region]) -> list[Column]:
    """What of a column lies beside those that are there, in as many columns as that leaves.

    own
        (k,) which places are of the stroke itself, and not where it was run on to the edge
    """
    if not swept:
        return [column]
    shares = np.linspace(0.0, 1.0, _ACROSS)
    places = column.left[:, None] + shares[None, :, None] * (column.right - column.left)[:, None]
    kept_off = Region.joined(swept).offset(_KEPT_OFF)
    inside = kept_off.contains(places.reshape(-1, 2)).reshape(len(places), -1)
    open_ = ~inside
    first, last = np.argmax(open_, axis=1), _ACROSS - 1 - np.argmax(open_[:, ::-1], axis=1)
    # What lies along another column comes nearer to it than what ends at it.
    overlap = _OVERLAP / np.maximum(column.widths, JOINT) * (_ACROSS - 1)
    begin = np.where(first > 0, np.maximum(first - overlap, 0.0), 0.0) / (_ACROSS - 1)
    end = np.where(last < _ACROSS - 1, last + overlap, _ACROSS - 1.0) / (_ACROSS - 1)
    across = column.right - column.left
    left = column.left + np.clip(begin, 0.0, 1.0)[:, None] * across
    right = column.left + np.clip(end, 0.0, 1.0)[:, None] * across
    mostly = open_.sum(axis=1) > _OPEN * (last - first + 1)
    whole = (first == 0) & (last == _ACROSS - 1)
    wide = mostly & (whole | (np.hypot(*(left - right).T) > _NARROWEST))
    pieces = [
        Column((left[some] + right[some]) / 2.0, left[some], right[some],
               column.closed and len(some) == len(wide))
        for some in _runs(wide, column.closed)
        if len(some) > 2 and own[some].any()
    ]  # fmt: skip
    if not pieces:
        return []
    least = _CRUMB * float(np.median(column.widths[own])) ** 2
    return [one for one in pieces if one.swept.area > least]


def _runs(kept: Booleans, closed: bool) -> list[Integers]:
    """Stretches of places that are kept, over the seam of what is closed."""
    if kept.all():
        return [np.arange(len(kept))]
    shift = int(np.argmin(kept)) if closed else 0
    rolled = np.roll(kept, -shift)
    bounds = np.flatnonzero(np.diff(np.concatenate([[False], rolled, [False]])))
    return [
        (np.arange(begin, end) + shift) % len(kept)
        for begin, end in zip(bounds[::2].tolist(), bounds[1::2].tolist(), strict=True)
    ]


def _across_dot(part: Region) -> Polyline | None:
    """A line through the middle of a blob without holes, which has no strokes of its own, along
    its longest way; none of what is no dot."""
    if len(part.rings) > 1:
        return None
    box = least_box(part)
    if box.length >= _COMPACT * box.width or part.area <= _FULL * box.hull:
        return None
    quarter = box.length / 4.0 * box.way
    return Polyline(np.array([box.middle - quarter, box.middle + quarter]), False)


class _Edges:
    """The edges of a shape, for rungs to end at."""

    def __init__(self, part: Region) -> None:
        self._part = part
        dense = [Polyline(ring, True).walk() for ring in part.rings]
        _, self._begins, ways = in_pieces(*part.edges, _PIECE)
        self._ends = self._begins + ways
        self._near = point_tree((self._begins + self._ends) / 2.0)
        self._half = float(np.hypot(*(self._ends - self._begins).T).max()) / 2.0
        self._tree = point_tree(
            np.concatenate([walk.at(np.arange(0.0, walk.length, _EDGE_STEP)) for walk in dense])
        )

    def column(self, line: Polyline) -> tuple[Column, Booleans] | None:
        """The column along a stroke, and which of its places (k,) are the stroke's own.

        None where it is too short for thread.
        """
        own_radius, _ = self._tree.query(line.points)
        step = float(np.clip(np.median(own_radius) / _PLACES, STEP, _LONGEST_STEP))
        axis, own = self._extended(line, step)
        if len(axis) < 3:
            return None
        radius, _ = self._tree.query(axis)
        ways = ways_along(axis, line.closed, float(np.median(radius)), step)
        normals = turned_left(ways)
        most = _REACH * _steady(radius, line.closed, step)
        left = self._reach(axis, normals, most)
        right = self._reach(axis, -normals, most)
        one, two, kept = unfolded(
            axis + left[:, None] * normals, axis - right[:, None] * normals, ways
        )
        if kept.sum() < 2:
            return None
        return Column(axis[kept], one[kept], two[kept], line.closed), own[kept]

    def stopping_in_itself(self, strokes: Strokes, index: int) -> list[int]:
        """Which ends of a stroke do: 0, where it begins, or -1."""
        corners = [min(two, key=lambda end: self.firmness(strokes.lines, end))[1]
                   for two in strokes.corners if two[0][0] == two[1][0] == index]  # fmt: skip
        stops = [end for (stroke, end), other in strokes.stops if stroke == other == index]
        return corners + stops

    def firmness(self, lines: Sequence[Polyline], end: End) -> float:
        """How much rather than others a stroke goes on to the edge at a corner.

        The mm that it comes straight, less where it meets the edge aslant.
        """
        points = lines[end[0]].points
        points = points if end[1] == -1 else points[::-1]
        tip = points[-1]
        radius = float(self._tree.query(tip)[0])
        off = np.hypot(*(points - tip).T)
        far = points[off > max(radius, STEP)]
        way = tip - (far[-1] if len(far) else points[0])
        way = way / max(float(np.hypot(*way)), JOINT)
        aside = np.abs((points - tip) @ turned_left(way[None])[0])
        bent = np.flatnonzero(aside > _BENT * np.maximum(off, radius))
        straight = off[bent[-1]] if len(bent) else off[0]
        return float(straight) * self._squareness(tip, way)

    def _squareness(self, point: Points, way: Points) -> float:
        """The square of the sine between a way and the edge that it meets first."""
        chord = self._ends - self._begins
        along = _met(self._begins - point, chord, np.broadcast_to(way, chord.shape))
        first = int(np.argmin(along))
        if along[first] == np.inf:
            return 0.0
        x, y = chord[first]
        return float(((way[0] * y - way[1] * x) / max(float(np.hypot(x, y)), JOINT)) ** 2)

    def _extended(self, line: Polyline, step: float) -> tuple[Points, Booleans]:
        """A stroke at even places, run on at its ends to the edge, and which are its own."""
        walk = line.walk()
        count = max(3, round(walk.length / step))
        places = walk.at(np.linspace(0.0, walk.length, count + 1))
        if line.closed:
            return places, np.ones(len(places), dtype=bool)
        radius, _ = self._tree.query(places[[0, -1]])
        ends = []
        for at, inner, far in ((0, min(8, count), radius[0]), (-1, -1 - min(8, count), radius[1])):
            way = places[at] - places[inner]
            way /= max(float(np.hypot(*way)), JOINT)
            most = np.array([_EXTENDED * max(far, STEP)])
            length = float(self._reach(places[at][None], way[None], most)[0])
            # On the edge itself a rung would have nothing to end at.
            last = max(length - _SHORT_OF_EDGE, _SHORT_OF_EDGE)
            steps = np.append(np.arange(step, last - step / 2.0, step), last)
            ends.append(places[at] + steps[:, None] * way)
        own = np.zeros(len(ends[0]) + len(places) + len(ends[1]), dtype=bool)
        own[len(ends[0]) : len(ends[0]) + len(places)] = True
        every = np.concatenate([ends[0][::-1], places, ends[1]])
        # A stroke whose end is on the edge meets none ahead of it.
        inside = self._part.contains(every)
        return every[inside], own[inside]

    def _reach(self, points: Points, ways: Points, most: Floats) -> Floats:
        """(n,) mm from points along unit vectors to the nearest edge, or the most of each."""
        near = self._near.query_ball_point(points, most + self._half)
        whose, edge = strung(near)
        begins = self._begins[edge]
        along = _met(begins - points[whose], self._ends[edge] - begins, ways[whose])
        nearest = most.astype(float)
        np.minimum.at(nearest, whose, along)
        return nearest


def _met(off: Points, chord: Points, way: Points) -> Floats:
    """(n,) mm along ways (n, 2) to chords (n, 2) that begin at `off` (n, 2); endless: not met."""
    cross = way[:, 0] * chord[:, 1] - way[:, 1] * chord[:, 0]
    with np.errstate(divide="ignore", invalid="ignore"):
        along = (off[:, 0] * chord[:, 1] - off[:, 1] * chord[:, 0]) / cross
        share = (off[:, 0] * way[:, 1] - off[:, 1] * way[:, 0]) / cross
    hits = (share >= 0.0) & (share <= 1.0) & (along > 0.0) & (np.abs(cross) > 0.0)
    found: Floats = np.where(hits, along, np.inf)
    return found


def _steady(radius: Floats, closed: bool, step: float) -> Floats:
    """Half widths without the bulges that a stroke has at junctions and the taper of its ends."""
    usual = float(np.median(radius))
    window = max(3, round(0.8 * usual / step))
    padded = np.pad(radius, window, mode="wrap" if closed else "edge")
    views = np.lib.stride_tricks.sliding_window_view(padded, 2 * window + 1)
    middle: Floats = np.maximum(np.median(views, axis=1), 0.5 * usual)
    if not closed:
        # Up to its end a stroke is as wide as it is where its end is no longer the nearest edge.
        reach = min(len(radius), round(_END * usual / step))
        middle[:reach] = np.maximum.accumulate(middle[:reach][::-1])[::-1]
        middle[-reach:] = np.maximum.accumulate(middle[-reach:])
    return middle

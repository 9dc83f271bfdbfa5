"""The outline of a flat face of triangles as a blank: a disc, a ring, or its own lines."""

from __future__ import annotations

import math

import numpy as np

from ulvent.core.base.arrays import Floats, Integers, Points
from ulvent.core.guides.blanks import DiscBlank, OutlineBlank, RingBlank
from ulvent.core.outlines.path_text import path_data
from ulvent.core.shapes import Region
from ulvent.core.shapes.region import ring_area
from ulvent.core.solids.triangles import Triangles

_SAME_LINE = 5e-4
_ROUND = 1e-3
"""How far corners may be from a circle, of its radius."""
_LEAST_SIDES = 12
_LONG = 0.15
"""A side that is so much of the edge says how a face is turned."""
_DECIMALS = 2
_LONGEST = 150_000


def flat_blank(
    body: Triangles, which: Integers, frame: Floats
) -> tuple[OutlineBlank | DiscBlank | RingBlank, Floats] | None:
    """A flat face as a blank about the origin, and the frame that brings it there.

    None where its outline is too long, or nothing.
    """
    edges = _edges(body, which)
    area = _laid(edges, frame)
    if len(area.outer_rings) != 1:
        return None
    frame = _straightened(max(area.rings, key=len), frame)
    area = _laid(edges, frame)
    if len(area.outer_rings) != 1:
        return None
    circles = [_circle(ring) for ring in area.rings]
    outer = next(circle for circle, ring in zip(circles, area.rings, strict=True)
                 if ring_area(ring) > 0.0)  # fmt: skip
    x0, y0, x1, y1 = area.bounds
    middle = np.array([(x0 + x1) / 2.0, (y0 + y1) / 2.0]) if outer is None else outer[0]
    frame = frame.copy()
    frame[:2, 3] -= middle
    if outer is not None and len(circles) == 1:
        return DiscBlank(kind="disc", diameter=round(2.0 * outer[1], _DECIMALS)), frame
    if outer is not None and len(circles) == 2 and all(circles):
        (one, r), (two, s) = (circle for circle in circles if circle is not None)
        if math.dist(one, two) < _ROUND * max(r, s):
            sizes = [round(2.0 * size, _DECIMALS) for size in (max(r, s), min(r, s))]
            return RingBlank(kind="ring", outer=sizes[0], inner=sizes[1]), frame
    rings = sorted((ring - middle for ring in area.rings), key=lambda ring: -abs(ring_area(ring)))
    lines = tuple(_data(ring) for ring in rings)
    if sum(map(len, lines)) > _LONGEST or len(lines) > 200:
        return None
    return OutlineBlank(kind="outline", lines=lines), frame


def _edges(body: Triangles, which: Integers) -> list[Floats]:
    """The rings (k, 3) round some triangles, their inside to the left."""
    mine = body.triangles[which]
    begins, ends = mine.ravel(), np.roll(mine, -1, axis=1).ravel()
    count = len(body.vertices)
    inner = np.isin(begins * count + ends, ends * count + begins)
    nexts: dict[int, list[int]] = {}
    for begin, end in zip(begins[~inner].tolist(), ends[~inner].tolist(), strict=True):
        nexts.setdefault(begin, []).append(end)
    rings: list[Floats] = []
    while nexts:
        begin = next(iter(nexts))
        ring, at = [begin], begin
        while True:
            ways = nexts[at]
            at = ways.pop()
            if not ways:
                del nexts[ring[-1]]
            if at == begin:
                break
            ring.append(at)
        rings.append(body.vertices[ring])
    return rings


def _laid(edges: list[Floats], frame: Floats) -> Region:
    """What rings in the file go round, laid out."""
    rings = [(ring @ frame[:, :3].T + frame[:, 3])[:, :2] for ring in edges]
    return Region.of_rings(rings).simplified(_SAME_LINE)


def _straightened(ring: Points, frame: Floats) -> Floats:
    """Turned so that the longest side lies level or upright, whichever is nearer."""
    ways = np.roll(ring, -1, axis=0) - ring
    lengths = np.hypot(*ways.T)
    longest = int(np.argmax(lengths))
    if lengths[longest] < _LONG * lengths.sum():
        return frame
    angle = math.atan2(ways[longest, 1], ways[longest, 0])
    angle -= round(angle / (math.pi / 2.0)) * math.pi / 2.0
    cos, sin = math.cos(-angle), math.sin(-angle)
    back: Floats = np.array([[cos, -sin, 0.0], [sin, cos, 0.0], [0.0, 0.0, 1.0]]) @ frame
    return back


def _circle(ring: Points) -> tuple[Points, float] | None:
    """The middle and radius of the circle whose corners a ring has; none where it has none."""
    if len(ring) < _LEAST_SIDES:
        return None
    known = np.column_stack([2.0 * ring, np.ones(len(ring))])
    solved = np.linalg.lstsq(known, (ring**2).sum(axis=1), rcond=None)[0]
    middle = solved[:2]
    radius = math.sqrt(max(float(solved[2] + middle @ middle), 0.0))
    off = np.abs(np.hypot(*(ring - middle).T) - radius).max()
    even = np.hypot(*(np.roll(ring, -1, axis=0) - ring).T).max() < 0.6 * radius
    return (middle, radius) if off <= _ROUND * radius and even else None


def _data(ring: Points) -> str:
    first, *rest = ring.tolist()
    return path_data([("M", [first]), *(("L", [point]) for point in rest), ("Z", ())], up=True)

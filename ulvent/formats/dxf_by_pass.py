"""A run as DXF: a layer a pass, a polyline with arcs a track, in their order."""

from __future__ import annotations

import math

from ulvent.core.base.arrays import Point, Points
from ulvent.core.curves.segments import as_point
from ulvent.core.runs import Run
from ulvent.core.runs.few_moves import Move, moves, once_each
from ulvent.formats.dxf_writing import add_layer, dxf_bytes, layer_name, new_dxf

_OFF = 0.001


def write_dxf_by_pass(run: Run) -> bytes:
    """Tracks as the tool goes along them, mm from the machine's zero."""
    document = new_dxf()
    space = document.modelspace()
    few = once_each(_vertices)
    for one in run.passes:
        layer = layer_name(f"{one.number} - {one.title}")
        add_layer(document, layer, one.colour)
        for track in one.tracks:
            space.add_lwpolyline(few(track.points), format="xyb", dxfattribs={"layer": layer})
    return dxf_bytes(document)


def _vertices(points: Points) -> list[tuple[float, float, float]]:
    """x, y and the bulge of what follows: the tangent of a quarter of an arc's sweep."""
    ends = [as_point(points[0])]
    bulges: list[float] = []
    for move in moves(points, _OFF):
        bulges.append(move.turn * _bulge(ends[-1], move) if move.turn else 0.0)
        ends.append(move.end)
    return [(x, y, bulge) for (x, y), bulge in zip(ends, [*bulges, 0.0], strict=True)]


def _bulge(begin: Point, move: Move) -> float:
    half = math.dist(begin, move.end) / 2.0 / math.dist(move.end, move.centre)
    return math.tan(math.asin(min(1.0, half)) / 2.0)

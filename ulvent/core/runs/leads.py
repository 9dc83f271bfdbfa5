"""Quarter arcs on which a tool comes to a closed line, and leaves it, from the waste."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from ulvent.core.base.arrays import Points, turned_left
from ulvent.core.base.tolerances import JOINT
from ulvent.core.base.trees import point_tree
from ulvent.core.outlines import Polyline, even_places
from ulvent.core.runs.nesting import Line

_ARC_STEP = math.radians(6.0)
_HALVINGS = 4
_STEP = 0.2
_CLEAR = 0.2
"""Of its radius, that the farther half of an arc must be from every line: beside a straight one it
has 0.29."""


class Leads:
    """Leads of a radius, mm, to the lines of a pass; smaller where there is no room, or none."""

    def __init__(self, lines: Sequence[Line], radius: float) -> None:
        self._radius = radius
        places = even_places([Polyline(line.points, line.closed) for line in lines], _STEP, 4)
        self._tree = point_tree(places.points)

    def led(self, points: Points, side: float) -> Points:
        """(k, 2) a line with arcs before and after it, 1: on its left, -1: on its right."""
        for halving in range(_HALVINGS):
            into, out = arcs(points, self._radius / 2.0**halving, side)
            half = len(into) // 2
            farther = np.concatenate([into[:half], out[-half:]])
            far, _ = self._tree.query(farther)
            if far.min() >= _CLEAR * self._radius / 2.0**halving:
                return np.concatenate([into[:-1], points, out[1:]])
        return points


def arcs(points: Points, radius: float, side: float) -> tuple[Points, Points]:
    """(k, 2) quarter arcs that touch a line where it begins, and where it ends.

    Parameters
    ----------
    side
        1: on the left of travel, -1: on the right
    """
    into = _quarter(points[0], points[1] - points[0], radius, side)
    out = _quarter(points[-1], points[-2] - points[-1], radius, -side)
    return into[::-1], out


def _quarter(at: Points, way: Points, radius: float, side: float) -> Points:
    """A quarter of a circle that touches a line where it begins, gone away from it."""
    way = way / max(float(np.hypot(*way)), JOINT)
    aside = turned_left(way[None])[0] * side
    angles = np.linspace(0.0, math.pi / 2.0, max(2, math.ceil(math.pi / 2.0 / _ARC_STEP)))
    centre = at + radius * aside
    found: Points = (
        centre - radius * np.cos(angles)[:, None] * aside - radius * np.sin(angles)[:, None] * way
    )
    return found

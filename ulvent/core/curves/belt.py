"""A line that goes once round a part, where the side of the part lies flat.

Round the part it is closed; laid flat it is a straight line, on a cylinder, or an arc, on a cone.
Each lap goes on where the one before ended, so that letters near the seam stand beside each
other as they do on the part.
"""

from __future__ import annotations

import cmath
import math
from functools import cached_property

import numpy as np

from ulvent.core.base.arrays import Points, Stations
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves.arc import CircularArc
from ulvent.core.curves.curve import Curve, Frames, Lap
from ulvent.core.curves.segments import Segment
from ulvent.core.curves.straight import Line


class Belt(Curve):
    """One lap round a part.

    once
        a line, or an arc of less than a whole turn, from the seam to the seam
    """

    def __init__(self, once: Line | CircularArc) -> None:
        self._once = once

    @property
    def length(self) -> float:
        return self._once.length

    @property
    def closed(self) -> bool:
        return True

    @cached_property
    def lap(self) -> Lap:
        start, end = (complex(*point) for point in self._once.points([0.0, self.length]).tolist())
        if isinstance(self._once, Line):
            return Lap(1.0 + 0.0j, end - start)
        turn = cmath.rect(1.0, math.radians(self._once.sweep))
        return Lap(turn, end - turn * start)

    def _frames(self, stations: Stations) -> Frames:
        return self._once._frames(stations)

    def _reversed(self) -> Curve:
        back = self._once.reversed()
        assert isinstance(back, (Line, CircularArc))
        return Belt(back)

    def segments(self) -> tuple[Segment, ...]:
        return self._once.segments()

    def _stretch(self, begin: float, end: float) -> Curve:
        return self._once._stretch(begin, end)

    def _own_feet(self, points: Points) -> Stations:
        """On the line as it goes on beyond the seam, by at most half a lap."""
        ends = self._once.frames([0.0, self.length / 2.0, self.length])
        if isinstance(self._once, Line):
            feet: Stations = (points - ends.points[0]) @ ends.tangents[0]
            return feet
        middle = ends.points[1] - self._once.centre
        away = points - self._once.centre
        turned = math.copysign(1.0, self._once.sweep) * _angles(middle, away)
        return self.length / 2.0 + self._once.radius * turned


def _angles(start: Points, ends: Points) -> Stations:
    """Radians from a vector (2,) to others (n, 2), −π to π."""
    cross = start[0] * ends[:, 1] - start[1] * ends[:, 0]
    angles: Stations = np.arctan2(cross, ends @ start)
    return angles


def belt_line(girth: float, lean: float) -> Belt:
    """The line of a part that is `girth` mm round, its front at the origin, from left to right.

    lean
        degrees by which the side leans inward, going up; it is a cone's where it is not 0
    """
    slope = math.sin(math.radians(lean))
    if abs(slope) * girth < JOINT:
        return Belt(Line((-girth / 2.0, 0.0), (girth / 2.0, 0.0)))
    # A cone's side is a sector: its radius is the way to the apex, its angle 2π · sin of the lean.
    radius = girth / (2.0 * math.pi * abs(slope))
    up = math.copysign(1.0, slope)
    half = 180.0 * abs(slope)
    return Belt(CircularArc((0.0, up * radius), radius, -up * 90.0 - up * half, up * 2.0 * half))

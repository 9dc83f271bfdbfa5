"""The exact building blocks of drawn lines, as they are handed to writers.

A segment is a value: points in mm (y up), angles in degrees. Writers turn
segments into the constructs of their format; nothing is flattened on the way.
"""

from __future__ import annotations

from collections.abc import Sequence
from math import cos, radians, sin
from typing import NamedTuple

from ulvent.core.base.arrays import Floats, Point


def as_point(row: Sequence[float] | Floats) -> Point:
    """A row of an array, x and y, as a point."""
    return (float(row[0]), float(row[1]))


class LineSegment(NamedTuple):
    """A straight line."""

    start: Point
    end: Point


class QuadraticSegment(NamedTuple):
    """A quadratic Bezier."""

    start: Point
    control: Point
    end: Point


class CubicSegment(NamedTuple):
    """A cubic Bezier."""

    start: Point
    control1: Point
    control2: Point
    end: Point


class ArcSegment(NamedTuple):
    """A circular arc from angle `begin`, sweeping `sweep` degrees, counter-clockwise positive."""

    centre: Point
    radius: float
    begin: float
    sweep: float

    @property
    def start(self) -> Point:
        return self.at(0.0)

    @property
    def end(self) -> Point:
        return self.at(1.0)

    def at(self, share: float) -> Point:
        """The point at a share of the sweep."""
        angle = radians(self.begin + share * self.sweep)
        return (
            self.centre[0] + self.radius * cos(angle),
            self.centre[1] + self.radius * sin(angle),
        )


Segment = LineSegment | QuadraticSegment | CubicSegment | ArcSegment

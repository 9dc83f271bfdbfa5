"""Lines that more than one kind of guide or blank is made of, in their own frames."""

from __future__ import annotations

import math

from ulvent.core.base.arrays import Degrees, Millimetres, Point
from ulvent.core.base.fields import WrongRecipeError
from ulvent.core.base.tolerances import ROUNDING
from ulvent.core.curves import BezierPath, CircularArc, Curve, Line, LineSegment
from ulvent.core.curves.rounded import rounded

ORIGIN = (0.0, 0.0)

_HALVINGS = 20


def two_digits(value: float) -> float:
    """A first size, to two digits."""
    return float(f"{value:.2g}")


def around(radius: Millimetres, degrees: Degrees) -> Point:
    """The point of a circle about the origin at an angle."""
    angle = math.radians(degrees)
    return (radius * math.cos(angle), radius * math.sin(angle))


def arch_radius(chord: Millimetres, rise: Millimetres) -> Millimetres:
    """r = c²/8h + h/2, the segment formula of machinists' handbooks."""
    return chord**2 / (8.0 * abs(rise)) + abs(rise) / 2.0


def arch_line(chord: Millimetres, rise: Millimetres, middle: Point = ORIGIN) -> Curve:
    """The arc over a chord whose middle is given, from its left end; straight without a rise."""
    x, y = middle
    if rise == 0.0:
        return Line((x - chord / 2.0, y), (x + chord / 2.0, y))
    up = math.copysign(1.0, rise)
    radius = arch_radius(chord, rise)
    # The half angle from the tangent of its half: right also past half a circle.
    half = 2.0 * math.degrees(math.atan2(2.0 * abs(rise), chord))
    centre = (x, y + rise - up * radius)
    return CircularArc(centre, radius, up * 90.0 + up * half, -up * 2.0 * half)


def closed_polyline(points: list[Point], turn: str) -> BezierPath:
    """The closed polyline through points that are given clockwise."""
    ring = points if turn == "clockwise" else [points[0], *reversed(points[1:])]
    return BezierPath(
        [LineSegment(a, b) for a, b in zip(ring, [*ring[1:], ring[0]], strict=True)], closed=True
    )


def rectangle_line(
    width: Millimetres, height: Millimetres, radius: Millimetres, turn: str = "clockwise"
) -> Curve:
    """A rectangle about the origin, from the middle of its left side."""
    x, y = width / 2.0, height / 2.0
    points = [(-x, 0.0), (-x, y), (x, y), (x, -y), (-x, -y)]
    return rounded(closed_polyline(points, turn), radius).curve


def exactly_rounded(line: Curve, radius: Millimetres, field: str) -> Curve:
    """A line with its corners rounded.

    Raises
    ------
    WrongRecipeError
        Naming `field`, where the sides have no room for the radius.
    """
    found = rounded(line, radius)
    if found.least_radius < radius - ROUNDING:
        most = _largest_radius(line, found.least_radius, radius)
        raise WrongRecipeError(field, f"must be at most {most:.4g} to fit the sides")
    return found.curve


def _largest_radius(line: Curve, fits: Millimetres, too_large: Millimetres) -> Millimetres:
    """The largest radius that all corners have room for: arcs that did not fit came out smaller
    than they had to.
    """
    for _ in range(_HALVINGS):
        tried = (fits + too_large) / 2.0
        if rounded(line, tried).least_radius < tried - ROUNDING:
            too_large = tried
        else:
            fits = tried
    return fits

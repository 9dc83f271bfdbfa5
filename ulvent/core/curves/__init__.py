"""Curves by arc length: line, arcs, wave, spirals, Bezier path, chain, and their parallels.

Everything that lettering follows obeys one protocol, `Curve`: it answers arrays
of stations with points, tangents, curvatures and turnings, it can be reversed,
and it has a parallel at any distance that its bends allow. Every kind is evaluated
exactly; nothing is stood in for by a polyline or by other curves.
"""

from ulvent.core.base.arrays import Point
from ulvent.core.curves.analytic import (
    EllipseArc,
    GrowingSpiral,
    SineWave,
    Spiral,
    Superellipse,
)
from ulvent.core.curves.arc import CircularArc
from ulvent.core.curves.bezier import BezierPath, BezierSegment
from ulvent.core.curves.chain import Chain
from ulvent.core.curves.curve import Corners, Curve, Frames
from ulvent.core.curves.parallel import Parallel
from ulvent.core.curves.segments import (
    ArcSegment,
    CubicSegment,
    LineSegment,
    QuadraticSegment,
    Segment,
)
from ulvent.core.curves.straight import Line

__all__ = [
    "ArcSegment",
    "BezierPath",
    "BezierSegment",
    "Chain",
    "CircularArc",
    "Corners",
    "CubicSegment",
    "Curve",
    "EllipseArc",
    "Frames",
    "GrowingSpiral",
    "Line",
    "LineSegment",
    "Parallel",
    "Point",
    "QuadraticSegment",
    "Segment",
    "SineWave",
    "Spiral",
    "Superellipse",
]

"""Curves by arc length: line, arcs, wave, spirals, Bezier path, chain, and their parallels.

Everything that lettering follows obeys one narrow protocol, `Curve`: it answers arrays of
stations with points, tangents, curvatures and turnings, and it can be reversed. What can be
done with any curve is a function: a stretch of it, its parallel, the stations nearest to points.
Every kind is evaluated exactly; nothing is stood in for by a polyline or by other curves.
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
from ulvent.core.curves.feet import nearest
from ulvent.core.curves.parallel import Parallel
from ulvent.core.curves.parallels import parallel_of
from ulvent.core.curves.seam import section_of, started_at
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
    "nearest",
    "parallel_of",
    "section_of",
    "started_at",
]

"""The awkward inputs that every part is shown: curves, words, and wrong pieces."""

from __future__ import annotations

from ulvent.core.curves import (
    BezierPath,
    Chain,
    CircularArc,
    CubicSegment,
    Curve,
    EllipseArc,
    GrowingSpiral,
    Line,
    LineSegment,
    QuadraticSegment,
    SineWave,
    Spiral,
    Superellipse,
)
from ulvent.core.guides.kinds import AnyGuide
from ulvent.core.recipe import parse_guide

CUSP = CubicSegment((0, 0), (40, 30), (0, 30), (40, 0))
"""Two of its control points make an exact cusp at t = 1/2 when crossed far enough."""

EXACT_CUSP = CubicSegment((0, 0), (30, 30), (0, 30), (30, 0))
LOOP = CubicSegment((0, 0), (80, 40), (-40, 40), (40, 0))
INFLECTED = CubicSegment((0, 0), (30, 40), (10, -40), (40, 0))
HANDLELESS = CubicSegment((0, 0), (0, 0), (40, 20), (40, 20))
DOUBLING_BACK = CubicSegment((0, 0), (60, 0), (-20, 0), (40, 0))
TINY = CubicSegment((0, 0), (1e-4, 2e-4), (3e-4, 2e-4), (4e-4, 0))
HUGE = CubicSegment((0, 0), (3e5, 8e5), (9e5, -8e5), (2e6, 0))

CUBICS = {
    "nearly a cusp": CUSP,
    "exact cusp": EXACT_CUSP,
    "loop": LOOP,
    "inflected": INFLECTED,
    "no handles": HANDLELESS,
    "doubling back": DOUBLING_BACK,
    "tiny": TINY,
    "huge": HUGE,
}


def smooth_chain(count: int = 40) -> BezierPath:
    """A gently waving path of `count` cubics, 25 mm each, tangents continuous."""
    segments = []
    for index in range(count):
        lift = 9.0 if index % 2 == 0 else -9.0
        x = 25.0 * index
        segments.append(CubicSegment((x, 0), (x + 8, lift), (x + 17, lift), (x + 25, 0)))
    return BezierPath(segments)


def curves() -> dict[str, Curve]:
    """One curve of every kind, open and closed, with and without corners."""
    quadratic = QuadraticSegment((0, 0), (20, 40), (60, 0))
    square = [
        LineSegment((0, 0), (50, 0)),
        LineSegment((50, 0), (50, 30)),
        LineSegment((50, 30), (0, 30)),
        LineSegment((0, 30), (0, 0)),
    ]
    return {
        "line": Line((1, 2), (61, 42)),
        "arc": CircularArc((5, -3), 40, 200, -130),
        "circle": CircularArc.circle((0, 0), 120, 90, clockwise=True),
        "quadratic": BezierPath([quadratic]),
        "inflected": BezierPath([INFLECTED]),
        "chain of Beziers": smooth_chain(5),
        "polygon": BezierPath(square[:3]),
        "rectangle": BezierPath(square, closed=True),
        "ellipse": EllipseArc((3, 1), 50, 20, 180, -360),
        "ellipse arc": EllipseArc((0, 0), 20, 45, 30, 200),
        "wave": SineWave(40, 6, 2.5, 30),
        "spiral": Spiral(0, 9, -3.25, 90),
        "growing spiral": GrowingSpiral(8, 1.6, 2.5, 0),
        "superellipse": Superellipse(50, 30, 2.7, 180, clockwise=True),
        "arc and line": Chain(
            [CircularArc((0, 0), 30, 180, -90), Line((0, 30), (50, 30)), Line((50, 30), (70, 60))]
        ),
    }


RECIPES: dict[str, dict[str, object]] = {
    "circle": {"kind": "circle", "diameter": 90, "start": 200},
    "circle by length": {"kind": "circle", "round": 25.305},
    "arc": {"kind": "arc", "radius": 40, "angle": 150},
    "arc at the bottom": {"kind": "arc", "radius": 40, "angle": 80, "side": "bottom"},
    "arch": {"kind": "arch", "chord": 120, "rise": 30},
    "hanging arch": {"kind": "arch", "chord": 60, "rise": -45},
    "arc through": {"kind": "arc-through", "points": [[-30, 0], [5, 22], [40, -3]]},
    "ellipse": {"kind": "ellipse", "width": 120, "height": 70},
    "ellipse arc": {"kind": "ellipse", "width": 90, "height": 130, "start": 150, "angle": 200},
    "line": {"kind": "line", "length": 150},
    "wave": {"kind": "wave", "length": 60, "height": 14, "waves": 2.5, "phase": 40},
    "spiral": {"kind": "spiral", "inner": 20, "outer": 140, "turns": 3.5, "inward": True},
    "spiral by length": {"kind": "spiral", "start_radius": 0, "gain": 9, "length": 700},
    "growing spiral": {"kind": "growing-spiral", "inner": 12, "growth": 1.7, "turns": 2.25},
    "rectangle": {"kind": "rectangle", "width": 120, "height": 70},
    "rounded rectangle": {"kind": "rectangle", "width": 120, "height": 70, "radius": 12},
    "polygon": {"kind": "polygon", "sides": 7, "across": 100, "radius": 4},
    "star": {"kind": "star", "tips": 9, "outer": 120, "inner": 80, "tip_radius": 3},
    "superellipse": {"kind": "superellipse", "width": 100, "height": 60, "exponent": 3.3},
    "drawn": {
        "kind": "drawn",
        "nodes": [{"at": at} for at in ([0, 0], [30, 25], [70, 5], [95, 30], [130, 0])],
    },
    "drawn and closed": {
        "kind": "drawn",
        "closed": True,
        "nodes": [{"at": at} for at in ([0, 0], [40, 30], [80, 0], [40, -40])],
    },
    "path": {"kind": "path", "d": "M0 0C20 40 60 -20 80 10A30 30 0 0 1 120 30L150 0"},
}
"""One recipe of every kind that leans on no other, without its id."""


def guide(name: str, **changes: object) -> AnyGuide:
    """A recipe of the zoo, with fields changed."""
    return parse_guide({"id": "g", **RECIPES[name], **changes})

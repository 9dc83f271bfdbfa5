"""The awkward inputs that every part is shown: curves, words, and wrong pieces."""

from __future__ import annotations

from ulvent.core.curves import (
    BezierPath,
    Chain,
    CircularArc,
    CubicSegment,
    Curve,
    Line,
    LineSegment,
    QuadraticSegment,
)

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
        "arc and line": Chain(
            [CircularArc((0, 0), 30, 180, -90), Line((0, 30), (50, 30)), Line((50, 30), (70, 60))]
        ),
    }

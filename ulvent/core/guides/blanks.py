"""The outline of a blank: closed curves about the origin, the outer one first."""

from __future__ import annotations

from functools import lru_cache

from ulvent.core.base.arrays import Point
from ulvent.core.base.errors import CurveError, FieldProblem, PieceError
from ulvent.core.curves import BezierPath, Chain, CircularArc, Curve, LineSegment
from ulvent.core.guides import curve_from_path_data
from ulvent.core.guides.kinds import arch_line, rectangle_line
from ulvent.core.recipe.recipes import (
    AnyBlank,
    BannerBlank,
    DiscBlank,
    OutlineBlank,
    RectangleBlank,
    RingBlank,
    TagBlank,
)

SHEETS: dict[str, tuple[float, float]] = {
    "A5": (210.0, 148.0),
    "A4": (297.0, 210.0),
    "A3": (420.0, 297.0),
    "A2": (594.0, 420.0),
    "Letter": (279.4, 215.9),
    "Tabloid": (431.8, 279.4),
    "12 × 12 in": (304.8, 304.8),
    "12 × 24 in": (609.6, 304.8),
    "24 × 36 in": (914.4, 609.6),
    "300 × 200 mm": (300.0, 200.0),
    "600 × 300 mm": (600.0, 300.0),
    "600 × 400 mm": (600.0, 400.0),
    "900 × 600 mm": (900.0, 600.0),
}
"""Common sheets, mm, lying across. A sizes: ISO 216; the others: common practice, no source."""


@lru_cache(maxsize=64)
def blank_curves(blank: AnyBlank) -> tuple[Curve, ...]:
    """The outlines of a blank.

    Raises
    ------
    PieceError
        Naming the line of a free outline that is no closed line.
    """
    if isinstance(blank, DiscBlank):
        return (_circle((0.0, 0.0), blank.diameter),)
    if isinstance(blank, RingBlank):
        return (_circle((0.0, 0.0), blank.outer), _circle((0.0, 0.0), blank.inner))
    if isinstance(blank, RectangleBlank):
        return (rectangle_line(blank.width, blank.height, blank.radius),)
    if isinstance(blank, BannerBlank):
        return (_banner(blank),)
    if isinstance(blank, TagBlank):
        hole = (blank.hole_inset - blank.width / 2.0, 0.0)
        outer = rectangle_line(blank.width, blank.height, blank.radius)
        return (outer, _circle(hole, blank.hole))
    return _free(blank)


def blank_words(blank: AnyBlank | None) -> str:
    """A blank in a few words, with its size."""
    if blank is None:
        return "no blank"
    if isinstance(blank, DiscBlank):
        return f"disc ⌀ {blank.diameter:g} mm"
    if isinstance(blank, RingBlank):
        return f"ring ⌀ {blank.outer:g} / {blank.inner:g} mm"
    if isinstance(blank, OutlineBlank):
        return "free outline"
    return f"{blank.kind} {blank.width:g} × {blank.height:g} mm"


def _circle(centre: Point, diameter: float) -> Curve:
    return CircularArc.circle(centre, diameter / 2.0, 180.0, clockwise=True)


def _banner(blank: BannerBlank) -> Curve:
    """Both long edges are the same arch, one above the other; the ends are cut in."""
    x, y, drop = blank.width / 2.0, blank.height / 2.0, blank.rise / 2.0
    pieces: list[Curve] = [
        arch_line(blank.width, blank.rise, (0.0, y - drop)),
        _polyline([(x, y - drop), (x - blank.notch, -drop), (x, -y - drop)]),
        arch_line(blank.width, blank.rise, (0.0, -y - drop)).reversed(),
        _polyline([(-x, -y - drop), (-x + blank.notch, -drop), (-x, y - drop)]),
    ]
    return Chain(pieces, closed=True)


def _polyline(points: list[Point]) -> Curve:
    return BezierPath([LineSegment(a, b) for a, b in zip(points[:-1], points[1:], strict=True)])


def _free(blank: OutlineBlank) -> tuple[Curve, ...]:
    curves: list[Curve] = []
    for index, data in enumerate(blank.lines):
        where = f"blank.lines[{index}]"
        try:
            curve = curve_from_path_data(data)
        except CurveError as error:
            raise PieceError([FieldProblem(where, str(error))]) from error
        if not curve.closed:
            raise PieceError(
                [FieldProblem(where, "a blank's outline must be closed: end it with Z")]
            )
        curves.append(curve)
    return tuple(curves)

"""The line of each kind of recipe, in the recipe's own frame."""

from __future__ import annotations

import math
from collections.abc import Callable
from fractions import Fraction

from ulvent.core.base.arrays import Point
from ulvent.core.base.tolerances import CORNER
from ulvent.core.curves import (
    BezierPath,
    CircularArc,
    Curve,
    EllipseArc,
    GrowingSpiral,
    Line,
    LineSegment,
    SineWave,
    Spiral,
    Superellipse,
)
from ulvent.core.curves.rounded import rounded
from ulvent.core.guides.drawn import drawn_line
from ulvent.core.guides.pathdata import curve_from_path_data
from ulvent.core.recipe.recipes import (
    AnyGuide,
    ArcGuide,
    ArchGuide,
    ArcThroughGuide,
    BetweenGuide,
    CircleGuide,
    DrawnGuide,
    EllipseGuide,
    GrowingSpiralGuide,
    LineGuide,
    ParallelGuide,
    PathGuide,
    PolygonGuide,
    RectangleGuide,
    SpiralGuide,
    StarGuide,
    SuperellipseGuide,
    WaveGuide,
    WrongRecipeError,
)

_ORIGIN = (0.0, 0.0)
_MOST_TURNS = 500.0


def recipe_line(guide: AnyGuide, bases: tuple[Curve, ...]) -> Curve:
    """The untouched line of a recipe; `bases` are the curves of the guides it leans on.

    Raises
    ------
    CurveError, WrongRecipeError
        When the recipe gives no curve.
    """
    if bases:
        return _leaning(guide, bases)
    make: Callable[[AnyGuide], Curve] = _MAKERS[type(guide)]
    return make(guide)


def _leaning(guide: AnyGuide, bases: tuple[Curve, ...]) -> Curve:
    # Imported when it is needed: SciPy would double the start of the command line.
    from ulvent.core.curves.between import line_between
    from ulvent.core.curves.trimmed import trimmed_parallels

    if isinstance(guide, BetweenGuide):
        return line_between(bases[0], bases[1], guide.share)
    if isinstance(guide, ParallelGuide):
        return trimmed_parallels(bases[0], guide.distance)[0]
    half = bases[0].length / 2.0
    return Line((-half, 0.0), (half, 0.0))


# ------------------------------------------------------------- circles and arcs


def circle_diameter(guide: CircleGuide) -> float:
    """The diameter of a circle, however its size is given, mm."""
    if guide.diameter is not None:
        return guide.diameter
    if guide.radius is not None:
        return 2.0 * guide.radius
    assert guide.round is not None
    return guide.round / math.pi


def _circle(guide: CircleGuide) -> Curve:
    clockwise = guide.turn == "clockwise"
    return CircularArc.circle(_ORIGIN, circle_diameter(guide) / 2.0, guide.start, clockwise)


def _arc(guide: ArcGuide) -> Curve:
    if guide.side == "top":
        return CircularArc(_ORIGIN, guide.radius, 90.0 + guide.angle / 2.0, -guide.angle)
    return CircularArc(_ORIGIN, guide.radius, 270.0 - guide.angle / 2.0, guide.angle)


def arch_radius(chord: float, rise: float) -> float:
    """r = c²/8h + h/2, the segment formula of machinists' handbooks."""
    return chord**2 / (8.0 * abs(rise)) + abs(rise) / 2.0


def arch_line(chord: float, rise: float, middle: Point = (0.0, 0.0)) -> Curve:
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


def _arch(guide: ArchGuide) -> Curve:
    return arch_line(guide.chord, guide.rise)


def arc_through(points: tuple[Point, Point, Point]) -> CircularArc:
    """The circular arc from the first over the second to the third point.

    The centre is worked out in rational numbers, so that it is the nearest there is.

    Raises
    ------
    WrongRecipeError
        When the points lie on one straight line.
    """
    (ax, ay), (bx, by), (cx, cy) = ((Fraction(x), Fraction(y)) for x, y in points)
    across = 2 * ((bx - ax) * (cy - ay) - (by - ay) * (cx - ax))
    if across == 0:
        raise WrongRecipeError("points", "lie on one straight line; move the middle one off it")
    b, c = (bx - ax) ** 2 + (by - ay) ** 2, (cx - ax) ** 2 + (cy - ay) ** 2
    x = ax + ((cy - ay) * b - (by - ay) * c) / across
    y = ay + ((bx - ax) * c - (cx - ax) * b) / across
    centre = (float(x), float(y))
    radius = math.hypot(float(ax - x), float(ay - y))
    begin, end = (
        math.degrees(math.atan2(float(py - y), float(px - x))) for px, py in ((ax, ay), (cx, cy))
    )
    forward = 1.0 if across > 0 else -1.0
    sweep = (forward * (end - begin)) % 360.0
    return CircularArc(centre, radius, begin, forward * sweep)


def _arc_through(guide: ArcThroughGuide) -> Curve:
    return arc_through(guide.points)


def _ellipse(guide: EllipseGuide) -> Curve:
    forward = -1.0 if guide.turn == "clockwise" else 1.0
    rx, ry = guide.width / 2.0, guide.height / 2.0
    begin = _eccentric(guide.start, rx, ry)
    if guide.angle == 360.0:
        return EllipseArc(_ORIGIN, rx, ry, begin, forward * 360.0)
    end = _eccentric(guide.start + forward * guide.angle, rx, ry)
    return EllipseArc(_ORIGIN, rx, ry, begin, end - begin)


def _eccentric(degrees: float, rx: float, ry: float) -> float:
    """The eccentric angle of the point seen from the centre at an angle, in the same turn."""
    angle = math.radians(degrees)
    seen = math.atan2(rx * math.sin(angle), ry * math.cos(angle))
    # Both angles lie in the same quarter, so the nearest turn is the right one.
    return math.degrees(seen + 2.0 * math.pi * round((angle - seen) / (2.0 * math.pi)))


# ---------------------------------------------------------------- lines and waves


def _line(guide: LineGuide) -> Curve:
    return Line((-guide.length / 2.0, 0.0), (guide.length / 2.0, 0.0))


def _wave(guide: WaveGuide) -> Curve:
    return SineWave(guide.length, guide.height / 2.0, guide.waves, guide.phase)


# ------------------------------------------------------------------------ spirals


def spiral_start_radius(guide: SpiralGuide | GrowingSpiralGuide) -> float:
    """Where a spiral starts, however that is given, mm from its centre."""
    if guide.start_radius is not None:
        return guide.start_radius
    assert guide.inner is not None
    return guide.inner / 2.0


def spiral_extent(guide: SpiralGuide) -> tuple[float, float]:
    """Gain a turn, mm, and number of turns, from whichever two figures are given.

    Raises
    ------
    WrongRecipeError
        When no spiral has the figures.
    """
    first = spiral_start_radius(guide)
    span = None if guide.outer is None else guide.outer / 2.0 - first
    if span is not None and span <= 0.0:
        raise WrongRecipeError("outer", f"must be more than the inner {2.0 * first:g}")
    gain, turns, length = guide.gain, guide.turns, guide.length
    if gain is not None and turns is not None:
        return gain, turns
    if span is not None and turns is not None:
        return span / turns, turns
    if span is not None and gain is not None:
        return gain, span / gain
    assert length is not None
    if gain is not None:
        each = gain
        return gain, _solved(lambda n: _spiral_length(first, each, n), length, "length")
    if turns is not None:
        least = 2.0 * math.pi * first * turns
        if length <= least:
            reason = f"must be more than {least:.4g}, which {turns:g} turns without gain have"
            raise WrongRecipeError("length", reason)
        number = turns
        return _solved(lambda g: _spiral_length(first, g, number), length, "length"), turns
    assert span is not None
    if length <= span:
        raise WrongRecipeError("length", f"must be more than the {span:.4g} to the outer edge")
    reach = span
    turns = _solved(lambda n: _spiral_length(first, reach / n, n), length, "length")
    return span / turns, turns


def _spiral_length(first: float, gain: float, turns: float) -> float:
    """The closed form: with r = bθ, s = b/2·(θ√(1+θ²) + asinh θ), between two angles."""
    rate = gain / (2.0 * math.pi)
    begin = first / rate

    def from_centre(angle: float) -> float:
        return rate / 2.0 * (angle * math.hypot(1.0, angle) + math.asinh(angle))

    return from_centre(begin + 2.0 * math.pi * turns) - from_centre(begin)


def _solved(length_at: Callable[[float], float], wanted: float, field: str) -> float:
    """The figure at which a growing length is as wanted."""
    from scipy.optimize import brentq

    low, high = 1e-6, 1.0
    if length_at(low) > wanted:
        raise WrongRecipeError(field, f"must be more than {length_at(low):.4g}")
    while length_at(high) < wanted:
        low, high = high, 2.0 * high
        if high > 1e7:
            raise WrongRecipeError(field, "no such spiral; give another figure")
    return float(brentq(lambda value: length_at(value) - wanted, low, high, xtol=1e-14, rtol=1e-15))


def _spiral(guide: SpiralGuide) -> Curve:
    gain, turns = spiral_extent(guide)
    if turns > _MOST_TURNS:
        raise WrongRecipeError("gain", f"makes {turns:.0f} turns; at most {_MOST_TURNS:g} are made")
    return _inward(
        Spiral(spiral_start_radius(guide), gain, _signed(turns, guide), guide.start), guide
    )


def _growing_spiral(guide: GrowingSpiralGuide) -> Curve:
    first, rate = spiral_start_radius(guide), math.log(guide.growth)
    if guide.turns is not None:
        turns = guide.turns
    elif guide.outer is not None:
        if guide.outer / 2.0 <= first:
            raise WrongRecipeError("outer", f"must be more than the inner {2.0 * first:g}")
        turns = math.log(guide.outer / 2.0 / first) / rate
    else:
        assert guide.length is not None
        # s = a·√(1+b²)/b · (e^{bθ} − 1), with b the growth a radian.
        b = rate / (2.0 * math.pi)
        turns = math.log1p(guide.length * b / (first * math.hypot(1.0, b))) / rate
    if turns > _MOST_TURNS:
        raise WrongRecipeError(
            "growth", f"makes {turns:.0f} turns; at most {_MOST_TURNS:g} are made"
        )
    curve = GrowingSpiral(first, guide.growth, _signed(turns, guide), guide.start)
    return _inward(curve, guide)


def _signed(turns: float, guide: SpiralGuide | GrowingSpiralGuide) -> float:
    """Turns from the inside out: what is travelled inward turns the other way round."""
    clockwise = (guide.turn == "clockwise") != guide.inward
    return -turns if clockwise else turns


def _inward(curve: Curve, guide: SpiralGuide | GrowingSpiralGuide) -> Curve:
    return curve.reversed() if guide.inward else curve


# ------------------------------------------------------------------ closed figures


def _polyline(points: list[Point], turn: str) -> BezierPath:
    """The closed polyline through points that are given clockwise."""
    ring = points if turn == "clockwise" else [points[0], *reversed(points[1:])]
    return BezierPath(
        [LineSegment(a, b) for a, b in zip(ring, [*ring[1:], ring[0]], strict=True)], closed=True
    )


def _rectangle(guide: RectangleGuide) -> Curve:
    return rectangle_line(guide.width, guide.height, guide.radius, guide.turn)


def rectangle_line(width: float, height: float, radius: float, turn: str = "clockwise") -> Curve:
    """A rectangle about the origin, from the middle of its left side."""
    x, y = width / 2.0, height / 2.0
    points = [(-x, 0.0), (-x, y), (x, y), (x, -y), (-x, -y)]
    return rounded(_polyline(points, turn), radius).curve


def _polygon(guide: PolygonGuide) -> Curve:
    radius, step = guide.across / 2.0, 360.0 / guide.sides
    # Standing on a side, and started in the middle of the side at its lower left.
    first = 270.0 - step / 2.0
    ring = [_around(radius, first - step * index) for index in range(guide.sides)]
    middle = ((ring[0][0] + ring[-1][0]) / 2.0, (ring[0][1] + ring[-1][1]) / 2.0)
    line = _polyline([middle, *ring], guide.turn)
    return _exactly_rounded(line, guide.radius, "radius")


def _exactly_rounded(line: Curve, radius: float, field: str) -> Curve:
    found = rounded(line, radius)
    if found.least_radius < radius - 1e-9:
        raise WrongRecipeError(field, f"must be at most {found.least_radius:.4g} to fit the sides")
    return found.curve


def _star(guide: StarGuide) -> Curve:
    step = 180.0 / guide.tips
    ring: list[Point] = []
    # It starts in the valley opposite the tip at the top, or beside it.
    first = -90.0 - (0.0 if guide.tips % 2 else step)
    for index in range(guide.tips):
        ring.append(_around(guide.inner / 2.0, first - 2.0 * step * index))
        ring.append(_around(guide.outer / 2.0, first - step * (2 * index + 1)))
    line = _polyline(ring, guide.turn)
    turns = line.corners.turns.tolist()
    tip_way = -1.0 if guide.turn == "clockwise" else 1.0
    radii = [guide.tip_radius if t * tip_way > 0.0 else guide.valley_radius for t in turns]
    # The seam lies in a valley, which is none where the star is a polygon.
    if abs(line.seam_turn) > CORNER:
        radii.append(guide.valley_radius)
    found = rounded(line, radii)
    smallest = min((r for r in (guide.tip_radius, guide.valley_radius) if r > 0.0), default=0.0)
    if found.least_radius < smallest - 1e-9:
        field = "tip_radius" if guide.tip_radius else "valley_radius"
        raise WrongRecipeError(
            field, f"must be less: the sides have room for {found.least_radius:.4g}"
        )
    return found.curve


def _around(radius: float, degrees: float) -> Point:
    angle = math.radians(degrees)
    return (radius * math.cos(angle), radius * math.sin(angle))


def _superellipse(guide: SuperellipseGuide) -> Curve:
    return Superellipse(
        guide.width / 2.0,
        guide.height / 2.0,
        guide.exponent,
        180.0,
        clockwise=guide.turn == "clockwise",
    )


def _drawn(guide: DrawnGuide) -> Curve:
    return drawn_line(guide.nodes, guide.closed)


def _path(guide: PathGuide) -> Curve:
    return curve_from_path_data(guide.d)


_MAKERS: dict[type, Callable[..., Curve]] = {
    CircleGuide: _circle,
    ArcThroughGuide: _arc_through,
    ArcGuide: _arc,
    ArchGuide: _arch,
    EllipseGuide: _ellipse,
    LineGuide: _line,
    WaveGuide: _wave,
    SpiralGuide: _spiral,
    GrowingSpiralGuide: _growing_spiral,
    RectangleGuide: _rectangle,
    PolygonGuide: _polygon,
    StarGuide: _star,
    SuperellipseGuide: _superellipse,
    DrawnGuide: _drawn,
    PathGuide: _path,
}

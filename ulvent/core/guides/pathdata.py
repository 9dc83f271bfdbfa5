"""Curves from SVG path data (SVG 2, chapter Paths), in mm with y up.

The text is first read against the grammar, so that every mistake is named with
its place; the geometry of commands, shorthands and elliptical arcs is then left
to svgelements. Circular arcs stay exact; elliptical ones become cubics of at most
ten degrees, which differ from the ellipse by less than 1e-9 of its size.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable

import svgelements

from ulvent.core.base.arrays import Point
from ulvent.core.base.errors import CurveError
from ulvent.core.base.fields import FARTHEST
from ulvent.core.curves import (
    ArcSegment,
    BezierSegment,
    CubicSegment,
    Curve,
    LineSegment,
    QuadraticSegment,
    Segment,
)
from ulvent.core.outlines import FileOutline, Outline, OutlinePen, curve_of

_ARGUMENTS = {"M": 2, "L": 2, "H": 1, "V": 1, "C": 6, "S": 4, "Q": 4, "T": 2, "A": 7, "Z": 0}
_NUMBER = re.compile(r"[\s,]*([+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)")
_FLAG = re.compile(r"[\s,]*([01])")
_COMMAND = re.compile(r"[\s,]*([A-Za-z])")
_FLAG_PLACES = (3, 4)
_ARC_STEP = math.radians(10.0)
_ROUND = 1e-9


def curve_from_path_data(data: str) -> Curve:
    """The one line that `data` draws.

    Raises
    ------
    CurveError
        Naming the command that is wrong, or that starts a second line.
    """
    _check_grammar(data, one_line=True)
    path = svgelements.Path(data)
    closed = any(isinstance(part, svgelements.Close) for part in path)
    return curve_of(FileOutline(tuple(exact_segments(path)), closed))


def outline_from_path_data(data: str) -> Outline:
    """All that `data` draws as one outline, every contour closed; arcs become cubics.

    Raises
    ------
    CurveError
        Naming the command that is wrong.
    """
    _check_grammar(data, one_line=False)
    pen = OutlinePen()
    for contour in svgelements.Path(data).as_subpaths():
        parts = [part for part in svgelements.Path(contour) if part.start is not None]
        segments = [
            cubic
            for part in parts
            if not isinstance(part, svgelements.Move) and part.end is not None
            for cubic in (
                _as_cubics(part)
                if isinstance(part, svgelements.Arc) and _bends(part)
                else [_bezier(part)]
            )
        ]
        if not segments:
            continue
        pen.moveTo(segments[0].start)
        for segment in segments:
            if isinstance(segment, LineSegment):
                pen.lineTo(segment.end)
            elif isinstance(segment, QuadraticSegment):
                pen.qCurveTo(*segment[1:])
            else:
                pen.curveTo(*segment[1:])
        pen.closePath()
    return pen.outline()


def exact_segments(path: Iterable[svgelements.PathSegment]) -> list[Segment]:
    """The segments of one line of path data: circular arcs exact, elliptical ones as cubics."""
    found: list[Segment] = []
    for part in path:
        if isinstance(part, svgelements.Move) or part.start is None or part.end is None:
            continue
        if isinstance(part, svgelements.Arc) and _bends(part):
            found.extend([_circular(part)] if _is_circular(part) else _as_cubics(part))
            continue
        segment = _bezier(part)
        if any(point != segment[0] for point in segment[1:]):
            found.append(segment)
    return found


def _check_grammar(data: str, one_line: bool) -> None:
    """Read `data` against the grammar of path data; with `one_line`, refuse a second line."""
    at, end = 0, len(data.rstrip())
    drawn = moved = False
    while at < end:
        found = _COMMAND.match(data, at)
        letter = found.group(1).upper() if found else ""
        if found is None or letter not in _ARGUMENTS:
            place = at + len(data[at:]) - len(data[at:].lstrip(" \t\r\n,")) + 1
            raise CurveError(f"path data: no command at character {place}")
        where = f"path data: {found.group(1)} at character {found.start(1) + 1}"
        if not moved and letter != "M":
            raise CurveError(f"{where}: the path must begin with M")
        if one_line and moved and letter == "M":
            raise CurveError(f"{where}: a guide is one line, and this begins a second")
        if one_line and _closed_before(data, found.start(1)):
            raise CurveError(f"{where}: a guide is one line, and Z has closed it")
        moved, drawn = True, drawn or letter != "M"
        at, sets = _read_arguments(data, found.end(), letter, where)
        drawn = drawn or sets > 1
    if not drawn:
        raise CurveError("path data: draws nothing")


def _closed_before(data: str, at: int) -> bool:
    """Whether the last thing before character `at` is a command that closes the path."""
    return data[:at].rstrip(" \t\r\n,")[-1:] in ("Z", "z")


def _read_arguments(data: str, at: int, letter: str, where: str) -> tuple[int, int]:
    """Read all argument sets of a command; the place after them and their number."""
    wanted = _ARGUMENTS[letter]
    count = 0
    while wanted:
        pattern = _FLAG if letter == "A" and count % wanted in _FLAG_PLACES else _NUMBER
        found = pattern.match(data, at)
        if not found:
            break
        value = float(found.group(1))
        if not abs(value) <= FARTHEST:
            raise CurveError(f"{where}: {found.group(1)} is farther than {FARTHEST:g} mm")
        at = found.end()
        count += 1
    if wanted and (count == 0 or count % wanted):
        raise CurveError(f"{where}: takes {wanted} numbers, and has {count}")
    return at, count // wanted if wanted else 0


def _pair(point: svgelements.Point) -> Point:
    return (float(point.x), float(point.y))


def _bezier(part: svgelements.PathSegment) -> BezierSegment:
    if isinstance(part, svgelements.QuadraticBezier):
        return QuadraticSegment(_pair(part.start), _pair(part.control), _pair(part.end))
    if isinstance(part, svgelements.CubicBezier):
        return CubicSegment(
            _pair(part.start), _pair(part.control1), _pair(part.control2), _pair(part.end)
        )
    return LineSegment(_pair(part.start), _pair(part.end))


def _bends(arc: svgelements.Arc) -> bool:
    """Whether an arc is one; with a radius of 0 it is a straight line (SVG 2, 9.5.1)."""
    return float(arc.rx) > 0.0 and float(arc.ry) > 0.0 and float(arc.sweep) != 0.0


def _is_circular(arc: svgelements.Arc) -> bool:
    return abs(float(arc.rx) - float(arc.ry)) <= _ROUND * float(arc.rx)


def _circular(arc: svgelements.Arc) -> ArcSegment:
    centre, start = _pair(arc.center), _pair(arc.start)
    begin = math.degrees(math.atan2(start[1] - centre[1], start[0] - centre[0]))
    return ArcSegment(centre, math.dist(centre, start), begin, math.degrees(float(arc.sweep)))


def _as_cubics(arc: svgelements.Arc) -> list[BezierSegment]:
    count = max(1, math.ceil(abs(float(arc.sweep)) / _ARC_STEP))
    return [_bezier(cubic) for cubic in arc.as_cubic_curves(count)]

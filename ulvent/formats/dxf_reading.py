"""Reading the outlines of a DXF file, in millimetres.

Lines, arcs, circles, ellipses, polylines with bulges, splines, and all of these inside
blocks; circular arcs stay exact. Loose lines whose ends touch become one outline.
`$INSUNITS` says what a unit is; files that leave it open are taken as millimetres.

A file is not trusted: blocks are counted before they are opened.
"""

from __future__ import annotations

import io
import math
from collections.abc import Iterable, Iterator
from itertools import islice

import ezdxf
from ezdxf import path as dxf_path
from ezdxf import recover
from ezdxf.disassemble import recursive_decompose
from ezdxf.document import Drawing
from ezdxf.entities import Arc, Circle, DXFEntity, Line, LWPolyline, Polyline
from ezdxf.lldxf.const import DXFError
from ezdxf.path import Curve3To, Curve4To

from ulvent.core.base.arrays import Point
from ulvent.core.curves import ArcSegment, CubicSegment, LineSegment, QuadraticSegment, Segment
from ulvent.core.outlines import FileOutline
from ulvent.formats.loose_ends import joined_ends
from ulvent.formats.outline_file import (
    MOST_ELEMENTS,
    Counted,
    OutlineFileError,
    refuse_unreadable_size,
)

DEEPEST_BLOCKS = 20

_MILLIMETRES = {0: 1.0, 1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0, 13: 0.001, 14: 100.0}
"""Of `$INSUNITS` (DXF reference): unitless, inches, feet, mm, cm, m, microns, dm."""
_UNITS = {"mm": 1.0, "inch": 25.4}
_PARSER_ERRORS = (
    ArithmeticError,
    AssertionError,
    AttributeError,
    DXFError,
    LookupError,
    OSError,
    RecursionError,
    StopIteration,
    TypeError,
    ValueError,
)
_DRAWN = {"LINE", "ARC", "CIRCLE", "ELLIPSE", "LWPOLYLINE", "POLYLINE", "SPLINE"}
_UPRIGHT = 1e-9
_STRAIGHT = 1e-9
"""Units by which an arc may rise over its chord and be one: its centre would be far off."""


def read_dxf(data: bytes, unit: str = "file") -> list[FileOutline]:
    """The outlines of the model space of a DXF file.

    Parameters
    ----------
    unit
        `file` for what the file says, or `mm` or `inch`

    Raises
    ------
    OutlineFileError
        When the file is broken, empty, hostile or too large.
    """
    refuse_unreadable_size(data)
    try:
        document, _ = recover.read(io.BytesIO(data))
        scale = _UNITS.get(unit) or _MILLIMETRES.get(document.header.get("$INSUNITS", 0), 1.0)
        lines = list(_lines(document, scale))
    except _PARSER_ERRORS as error:
        raise OutlineFileError("the file is not a DXF that can be read") from error
    if not lines:
        raise OutlineFileError("the file has no lines in its model space")
    return joined_ends(lines)


def _lines(document: Drawing, scale: float) -> Iterator[list[Segment]]:
    space = document.modelspace()
    _refuse_too_much(document, space)
    counted = Counted()
    for entity in islice(recursive_decompose(space), MOST_ELEMENTS + 1):
        if entity.dxftype() not in _DRAWN:
            continue
        for line in _segments(entity):
            scaled = [_scaled(segment, scale) for segment in line]
            kept = [segment for segment in scaled if _has_length(segment)]
            counted.add(kept)
            if kept:
                yield kept


def _refuse_too_much(document: Drawing, space: Iterable[DXFEntity]) -> None:
    """Refuse what grows too large, or for ever, when its blocks are opened."""
    sizes: dict[str, int] = {}

    def size(entities: Iterable[DXFEntity], above: tuple[str, ...]) -> int:
        if len(above) > DEEPEST_BLOCKS:
            raise OutlineFileError(f"blocks are nested more than {DEEPEST_BLOCKS} deep")
        total = 0
        for entity in entities:
            if entity.dxftype() != "INSERT":
                total += 1
            else:
                name = str(entity.dxf.name)
                if name in above:
                    raise OutlineFileError(f"the block “{name}” holds itself")
                if name not in sizes:
                    block = document.blocks.get(name)
                    sizes[name] = size(block, (*above, name)) if block is not None else 0
                rows = max(int(entity.dxf.get("row_count", 1)), 1)
                columns = max(int(entity.dxf.get("column_count", 1)), 1)
                total += sizes[name] * rows * columns
            if total > MOST_ELEMENTS:
                raise OutlineFileError(f"the file comes to more than {MOST_ELEMENTS} lines")
        return total

    size(space, ())


def _segments(entity: DXFEntity) -> Iterator[list[Segment]]:
    """The lines of one entity, unscaled."""
    if isinstance(entity, LWPolyline | Polyline) and _is_flat(entity):
        yield _from_polyline(entity)
    elif isinstance(entity, Line):
        yield [LineSegment(_pair(entity.dxf.start), _pair(entity.dxf.end))]
    elif isinstance(entity, Arc | Circle) and _is_upright(entity):
        yield [_arc(entity)]
    else:
        for line in dxf_path.make_path(entity).sub_paths():
            yield _from_path(line)


def _from_polyline(entity: LWPolyline | Polyline) -> list[Segment]:
    """Its corners joined by lines, and by arcs where there is a bulge: the tangent of a quarter of
    the angle, counter-clockwise."""
    if isinstance(entity, LWPolyline):
        corners = [((x, y), bulge) for x, y, bulge in entity.get_points("xyb")]
    else:
        corners = [
            (_pair(one.dxf.location), float(one.dxf.get("bulge", 0.0))) for one in entity.vertices
        ]
    following = corners[1:] + corners[:1] if entity.is_closed else corners[1:]
    return [
        _bulged(here, end, bulge)
        for (here, bulge), (end, _) in zip(corners, following, strict=False)
    ]


def _bulged(here: Point, end: Point, bulge: float) -> Segment:
    if abs(bulge) * math.dist(here, end) < _STRAIGHT:
        return LineSegment(here, end)
    centre = ezdxf.math.bulge_center(here, end, bulge)
    begin = math.degrees(math.atan2(here[1] - centre.y, here[0] - centre.x))
    sweep = 4.0 * math.degrees(math.atan(bulge))
    return ArcSegment((centre.x, centre.y), centre.distance(ezdxf.math.Vec2(here)), begin, sweep)


def _is_flat(entity: LWPolyline | Polyline) -> bool:
    if isinstance(entity, Polyline) and not entity.is_2d_polyline:
        return False
    smooth = isinstance(entity, Polyline) and bool(entity.dxf.smooth_type)
    return _is_upright(entity) and not smooth


def _is_upright(entity: DXFEntity) -> bool:
    """Whether an entity's plane is the drawing's, seen from above."""
    x, y, z = entity.dxf.get("extrusion", (0.0, 0.0, 1.0))
    return bool(abs(x) < _UPRIGHT and abs(y) < _UPRIGHT and z > 0.0)


def _arc(entity: Arc | Circle) -> ArcSegment:
    centre, radius = _pair(entity.dxf.center), float(entity.dxf.radius)
    if not isinstance(entity, Arc):
        return ArcSegment(centre, radius, 0.0, 360.0)
    begin, end = float(entity.dxf.start_angle), float(entity.dxf.end_angle)
    return ArcSegment(centre, radius, begin, (end - begin) % 360.0 or 360.0)


def _from_path(line: dxf_path.Path) -> list[Segment]:
    found: list[Segment] = []
    here = _pair(line.start)
    for command in line.commands():
        end = _pair(command.end)
        if isinstance(command, Curve4To):
            found.append(CubicSegment(here, _pair(command.ctrl1), _pair(command.ctrl2), end))
        elif isinstance(command, Curve3To):
            found.append(QuadraticSegment(here, _pair(command.ctrl), end))
        else:
            found.append(LineSegment(here, end))
        here = end
    return found


def _scaled(segment: Segment, scale: float) -> Segment:
    if isinstance(segment, ArcSegment):
        x, y = segment.centre
        centre = (x * scale, y * scale)
        return ArcSegment(centre, segment.radius * scale, segment.begin, segment.sweep)
    return type(segment)(*((x * scale, y * scale) for x, y in segment))


def _has_length(segment: Segment) -> bool:
    if isinstance(segment, ArcSegment):
        return segment.radius > 0.0
    return any(point != segment[0] for point in segment[1:])


def _pair(point: ezdxf.math.Vec3) -> Point:
    return (float(point[0]), float(point[1]))

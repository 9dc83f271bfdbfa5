"""Writing DXF R2010 in millimetres (`$INSUNITS` 4).

One layer a lettering, border or guide that is a line of its own, named as a person calls it
and in the colour of what becomes of it. Every contour is one closed entity: a light polyline
where it is lines and circular arcs throughout, otherwise one cubic spline that is exactly
the outline's lines and curves. Guides, when asked for, lie on a layer of their own, circles
as circles. The same layout gives the same bytes.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from io import StringIO

import ezdxf
import numpy as np
from ezdxf.colors import DXF_DEFAULT_COLORS, int2rgb
from ezdxf.document import Drawing
from ezdxf.layouts import Modelspace
from ezdxf.math import Bezier4P, Vec3, bezier_to_bspline
from ezdxf.sections.classes import REQ_R2004

from ulvent.core.base.outputs import OUTPUTS
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves import ArcSegment, Segment
from ulvent.core.curves.cubics import raised
from ulvent.core.outlines import FileOutline, Outline
from ulvent.core.prepare import Group, numbered, other_guides
from ulvent.core.shapes import arc_of
from ulvent.core.workshop import Workpiece

# Otherwise every file carries the time and a random number.
ezdxf.options.write_fixed_meta_data_for_testing = True

_MILLIMETRES = 4
_GUIDES = "guides"
_FULL_TURN = 360.0
_COLOURS = 250
"""Those of the list after it are greys that some programs do not print."""

Point = tuple[float, float]
Span = list[Point]
"""A stretch of a contour: 2 points of a line, 4 of a cubic."""


def write_dxf(work: Workpiece, guides: bool = False) -> bytes:
    """The lettering of a piece, prepared, as a DXF file; with `guides`, those too."""
    document = new_dxf()
    if work.left_out:
        document.header.custom_vars.append("Left out", work.left_out)
    space = document.modelspace()
    piece = work.layout.piece
    # Without the signs that DXF does not take, names may be the same.
    layers = numbered([_layer_name(group) for group in work.groups])
    for group, layer in zip(work.groups, layers, strict=True):
        add_layer(document, layer, piece.colour(group.output))
        for outline in (*group.areas, *group.lines):
            _add_outline(space, outline, layer)
        for curve in group.curves:
            _add_curve(space, curve, layer)
    others = other_guides(work.layout, work.ready)
    if guides and others:
        document.layers.add(_GUIDES)
        for line in others.values():
            _add_curve(space, line, _GUIDES)
    return dxf_bytes(document)


def new_dxf() -> Drawing:
    """An empty document in millimetres."""
    document = ezdxf.new("R2010", units=_MILLIMETRES)
    document.header["$INSUNITS"] = _MILLIMETRES
    document.header["$MEASUREMENT"] = 1
    return document


def dxf_bytes(document: Drawing) -> bytes:
    """A document as a file, always the same bytes for the same one."""
    # As ezdxf adds them, but in the same order in each process.
    for name in (*REQ_R2004, *sorted(document.entitydb.dxf_types_in_use())):
        document.classes.add_class(name)
    text = StringIO()
    document.write(text)
    return text.getvalue().encode("utf-8")


def add_layer(document: Drawing, name: str, colour: str) -> None:
    """A layer in a colour, `#rrggbb`, as new programs read it, and old ones."""
    value = int(colour.removeprefix("#"), 16)
    document.layers.add(name, true_color=value, color=_nearest_index(value))


def _layer_name(group: Group) -> str:
    """What becomes of it, and what it is called."""
    return layer_name(f"{OUTPUTS[group.output][0].capitalize()} - {group.name}")


def layer_name(name: str) -> str:
    """As DXF names layers."""
    return " ".join(re.sub(r'[<>/\\":;?*|=`,\x00-\x1f]+', " ", name).split())


def _nearest_index(colour: int) -> int:
    """The colour of the format's own list that is nearest, for programs that know only those."""
    wanted = np.array(int2rgb(colour))
    known = np.array([int2rgb(value) for value in DXF_DEFAULT_COLORS[1:_COLOURS]])
    return int(np.square(known - wanted).sum(axis=1).argmin()) + 1


def _add_outline(space: Modelspace, outline: Outline, layer: str) -> None:
    for spans, closed in _contours(outline):
        _add_contour(space, spans, closed, layer)


def _add_contour(space: Modelspace, spans: list[Span], closed: bool, layer: str) -> None:
    attributes = {"layer": layer}
    arcs = [arc_of(np.array(span)) if len(span) == 4 else None for span in spans]
    if all(len(span) == 2 or arc for span, arc in zip(spans, arcs, strict=True)):
        # A bulge is the tangent of a quarter of the arc's sweep.
        corners = [
            (*span[0], math.tan(arc.sweep / 4.0) if arc else 0.0)
            for span, arc in zip(spans, arcs, strict=True)
        ]
        if not closed:
            corners.append((*spans[-1][-1], 0.0))
        space.add_lwpolyline(corners, format="xyb", close=closed, dxfattribs=attributes)
        return
    spline = space.add_spline(dxfattribs=attributes)
    cubics = [Bezier4P(Vec3.list(_as_cubic(span))) for span in spans]
    spline.apply_construction_tool(bezier_to_bspline(cubics))
    spline.closed = closed


def _contours(outline: Outline) -> Iterator[tuple[list[Span], bool]]:
    spans: list[Span] = []
    start = at = (0.0, 0.0)
    for operation, array in outline.steps():
        points = [(float(x), float(y)) for x, y in array]
        if operation == "M":
            if spans:
                yield spans, False
            spans = []
            start = at = points[0]
        elif operation == "Z":
            if _apart(at, start):
                spans.append([at, start])
            elif spans:
                spans[-1][-1] = start
            if spans:
                yield spans, True
            spans = []
        elif operation == "Q" or _apart(at, points[-1]) or len(points) > 1:
            spans.append(_raised([at, *points]))
            at = points[-1]
    if spans:
        yield spans, False


def _raised(points: Span) -> Span:
    """A quadratic as the cubic that is the same curve."""
    if len(points) != 3:
        return points
    (controls,) = raised(np.array([points], dtype=float))
    return [(float(x), float(y)) for x, y in controls]


def _as_cubic(points: Span) -> Span:
    """A line too as a cubic."""
    if len(points) == 4:
        return points
    (ax, ay), (bx, by) = points
    thirds = [(ax + (bx - ax) * share, ay + (by - ay) * share) for share in (1.0 / 3.0, 2.0 / 3.0)]
    return [points[0], *thirds, points[1]]


def _apart(one: Point, two: Point) -> bool:
    return abs(one[0] - two[0]) > JOINT or abs(one[1] - two[1]) > JOINT


def _add_curve(space: Modelspace, curve: FileOutline, layer: str) -> None:
    """Circles and arcs as such; runs of other segments as one polyline or spline."""
    run: list[Span] = []
    segments = curve.segments
    for segment in segments:
        if not isinstance(segment, ArcSegment):
            run.append(_raised(list(segment)))
            continue
        _flush(space, run, False, layer)
        run = []
        _add_arc(space, segment, layer)
    _flush(space, run, curve.closed and not _has_arc(segments), layer)


def _has_arc(segments: tuple[Segment, ...]) -> bool:
    return any(isinstance(segment, ArcSegment) for segment in segments)


def _flush(space: Modelspace, run: list[Span], closed: bool, layer: str) -> None:
    if run:
        _add_contour(space, run, closed, layer)


def _add_arc(space: Modelspace, arc: ArcSegment, layer: str) -> None:
    attributes = {"layer": layer}
    if abs(arc.sweep) == _FULL_TURN:
        space.add_circle(arc.centre, arc.radius, dxfattribs=attributes)
        return
    first, last = sorted((arc.begin, arc.begin + arc.sweep))
    space.add_arc(arc.centre, arc.radius, first, last, dxfattribs=attributes)

"""Guides and blanks taken from elsewhere: from a file's edges, or from another piece."""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import suppress

import numpy as np

from ulvent.core.base.arrays import Bounds, united
from ulvent.core.base.errors import CurveError, wrong_field
from ulvent.core.base.fields import MOST_PATH_DATA
from ulvent.core.base.tolerances import NIL
from ulvent.core.curves import Curve, Segment
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.guides.blanks import (
    AnyBlank,
    DiscBlank,
    OutlineBlank,
    RectangleBlank,
    RingBlank,
    blank_curves,
)
from ulvent.core.guides.build import guide_curves
from ulvent.core.guides.kinds import AnyGuide
from ulvent.core.guides.kinds.circle_guide import CircleGuide
from ulvent.core.guides.kinds.parallel_guide import ParallelGuide
from ulvent.core.guides.kinds.path_guide import PathGuide
from ulvent.core.guides.kinds.rectangle_guide import RectangleGuide
from ulvent.core.guides.scaling import resized
from ulvent.core.outlines import FileOutline, curve_of, in_line, moved_segment
from ulvent.core.outlines.path_text import segment_data

_FITS = 0.8
"""A guide fitted to a blank takes up this share of it."""
_DECIMALS = 3
MOST_SOURCE = 200


def guide_of_edges(guide_id: str, edges: Sequence[Sequence[Segment]], source: str) -> PathGuide:
    """Edges of a file joined in order, as a guide that lies where the file has it.

    Raises
    ------
    PieceError
        Where they are no line.
    """
    try:
        outline = in_line(edges)
        curve = curve_of(outline)
    except CurveError as error:
        raise wrong_field("edges", str(error)) from error
    x, y = _middle(curve_bounds(curve))
    x, y = round(x, _DECIMALS), round(y, _DECIMALS)
    moved = [moved_segment(segment, -x, -y) for segment in outline.segments]
    data = segment_data(moved, outline.closed, up=True)
    refuse_long("edges", data)
    return PathGuide(
        id=guide_id,
        kind="path",
        d=data,
        centre=(x, y),
        source=source[:MOST_SOURCE],
        corners="keep-off",
    )


def blank_of_outlines(outlines: Sequence[Sequence[Sequence[Segment]]], source: str) -> OutlineBlank:
    """Whole outlines of a file, each by its edges in order, as a blank brought to the origin.

    Raises
    ------
    PieceError
        Naming the outline that is open, or too long.
    """
    found: list[FileOutline] = []
    for index, edges in enumerate(outlines):
        outline = in_line(edges)
        if not outline.closed:
            raise wrong_field(f"outlines[{index}]", "is open: a blank is closed")
        found.append(outline)
    x, y = _middle(outline_bounds(found))
    lines = tuple(
        segment_data([moved_segment(s, -x, -y) for s in outline.segments], closed=True, up=True)
        for outline in sorted(found, key=lambda one: -_extent(one))
    )
    for index, line in enumerate(lines):
        refuse_long(f"outlines[{index}]", line)
    blank = OutlineBlank(kind="outline", lines=lines, source=source[:MOST_SOURCE])
    blank_curves(blank)
    return blank


def centred_lines(
    outlines: Sequence[FileOutline],
) -> tuple[list[tuple[FileOutline, float]], Bounds]:
    """The outlines of a file that are lines, with their lengths, and the box round them, mm.

    They are moved together until the middle of that box lies at the origin. A speck, or a line
    that does not hang together, is left out.
    """
    kept: list[tuple[FileOutline, float]] = []
    for outline in outlines:
        with suppress(CurveError):
            kept.append((outline, curve_of(outline).length))
    if not kept:
        return [], (0.0, 0.0, 0.0, 0.0)
    box = outline_bounds([outline for outline, _ in kept])
    x, y = _middle(box)
    moved = [
        (
            FileOutline(tuple(moved_segment(s, -x, -y) for s in outline.segments), outline.closed),
            length,
        )
        for outline, length in kept
    ]
    return moved, (box[0] - x, box[1] - y, box[2] - x, box[3] - y)


def outline_bounds(outlines: Sequence[FileOutline]) -> Bounds:
    """The box round all outlines, mm."""
    return united([curve_bounds(curve_of(outline)) for outline in outlines])


def edge_guides(blank: AnyBlank, distance: float) -> tuple[AnyGuide, ...]:
    """The outer edge of a blank as a guide, or what lies `distance` mm inside of it.

    A round blank gives a ring, a rectangle one of its kind; others give their edge, hidden, and
    its parallel.

    Raises
    ------
    PieceError
        Where there is no room for such a line.
    """
    edge = blank_curves(blank)[0]
    x0, y0, x1, y1 = curve_bounds(edge)
    room = min(x1 - x0, y1 - y0) / 2.0
    if not 0.0 <= distance < room:
        raise wrong_field("edge", f"must be from 0 to less than {room:g}, half of the blank")
    size = {"width": x1 - x0 - 2.0 * distance, "height": y1 - y0 - 2.0 * distance}
    if isinstance(blank, DiscBlank | RingBlank):
        return (CircleGuide(id="edge", kind="circle", diameter=size["width"], start=180.0),)
    if isinstance(blank, RectangleBlank):
        radius = max(blank.radius - distance, 0.0)
        return (RectangleGuide(id="edge", kind="rectangle", radius=radius, **size),)
    data = segment_data(edge.segments(), edge.closed, up=True)
    own = PathGuide(id="edge", kind="path", d=data, source="the blank", hidden=distance > 0.0)
    if distance == 0.0:
        return (own,)
    inward = -distance if _turns_right(edge) else distance
    return own, ParallelGuide(id="inner-edge", kind="parallel", guide="edge", distance=inward)


def _turns_right(curve: Curve) -> bool:
    """Whether a closed curve runs clockwise, so that its inside is to its right."""
    x, y = curve.points(np.linspace(0.0, curve.length, 257)).T
    return float(np.sum(x[:-1] * y[1:] - x[1:] * y[:-1])) < 0.0


def standing_alone(guide: AnyGuide, curve: Curve) -> AnyGuide:
    """A guide about its own centre; one that leans on others becomes the line that it is."""
    if not guide.leans_on:
        return guide.model_copy(update={"centre": (0.0, 0.0), "hidden": False, "removed": False})
    data = segment_data(curve.segments(), curve.closed, up=True)
    x, y = _middle(curve_bounds(curve))
    return PathGuide(id=guide.id, kind="path", d=data, corners=guide.corners, centre=(-x, -y))


def fitted_to(guide: AnyGuide, blank: AnyBlank | None) -> AnyGuide:
    """A guide as large as a blank has room for, in its middle.

    Raises
    ------
    PieceError
        Where there is no blank.
    """
    if blank is None:
        raise wrong_field("blank", "the piece has no blank to fit a guide to")
    box = curve_bounds(blank_curves(blank)[0])
    a0, b0, a1, b1 = curve_bounds(guide_curves((guide,))[guide.id])
    wide, high = box[2] - box[0], box[3] - box[1]
    factor = round(_FITS * min(wide / max(a1 - a0, NIL), high / max(b1 - b0, NIL)), 4)
    x, y = _middle(box)
    off = ((a0 + a1) / 2.0 * factor, (b0 + b1) / 2.0 * factor)
    centre = (round(x - off[0], _DECIMALS), round(y - off[1], _DECIMALS))
    return resized(guide, factor).model_copy(update={"centre": centre})


def _middle(box: Bounds) -> tuple[float, float]:
    x0, y0, x1, y1 = box
    return (x0 + x1) / 2.0, (y0 + y1) / 2.0


def _extent(outline: FileOutline) -> float:
    x0, y0, x1, y1 = curve_bounds(curve_of(outline))
    return (x1 - x0) * (y1 - y0)


def refuse_long(field: str, data: str) -> None:
    if len(data) > MOST_PATH_DATA:
        reason = f"come to more than {MOST_PATH_DATA} characters of path data: choose fewer"
        raise wrong_field(field, reason)

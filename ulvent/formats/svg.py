"""Writing SVG 2 in true millimetres.

One user unit is one millimetre. Lettering is paths, one a letter, in one group a
lettering; curves stay curves. There are no transforms, no text elements, and
nothing that is not asked for. The same layout gives the same bytes.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from xml.sax.saxutils import escape, quoteattr

import numpy as np

from ulvent.core.base.arrays import Bounds, united
from ulvent.core.curves import ArcSegment, Curve, LineSegment, Segment
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.layout import LaidGuide, Layout
from ulvent.core.outlines import Outline
from ulvent.core.prepare import Layer, prepared
from ulvent.core.recipe.piece import Piece
from ulvent.core.shapes import arc_of

_DECIMALS = 4
_FINE = 6
_HAIRLINE = "0.1"
_HALF_TURN = 180.0
_NEEDLESS = re.compile(r"\.?0+(?= )")
_PLACES = [" ".join(["%s %s"] * count) for count in range(4)]

Step = tuple[str, Sequence[Sequence[float]]]
"""A command of path data and its points."""


def write_svg(layout: Layout, guides: bool = False) -> bytes:
    """A layout, prepared, as an SVG file; with `guides`, all of those in a group of their own.

    Guides that are lines of their own are written in any case.
    """
    ready = prepared(layout)
    body = [_layer(layer, layout.piece) for layer in ready.layers]
    boxes = [curve_bounds(outline) for outline in layout.blank[:1]] + ready.bounds()
    for guide in ready.guides:
        body.append(_kept_guide(guide))
        boxes.append(guide.bounds)
    shown = tuple(guide for guide in layout.shown_guides if guide not in ready.guides)
    if guides and shown:
        body.append(_guides(shown))
        boxes.extend(guide.bounds for guide in shown)
    bounds = united(boxes or [guide.bounds for guide in layout.shown_guides])
    return _document(layout.piece.title, bounds, body)


def write_thumbnail(layout: Layout) -> bytes:
    """The piece as a small picture: its blank, its guides, its letters."""
    body: list[str] = []
    if layout.blank:
        outlines = "".join(curve_data(outline) for outline in layout.blank)
        body.append(
            f'<path d="{outlines}" fill="#fcfbf6" fill-rule="evenodd" stroke="#b9b09a" '
            'stroke-width="1" vector-effect="non-scaling-stroke"/>'
        )
    bounds = united([layout.bounds(), *(guide.bounds for guide in layout.shown_guides)])
    margin = 0.01 * max(bounds[2] - bounds[0], bounds[3] - bounds[1], 1.0)
    thin, fine = number(0.25 * margin), number(0.5 * margin)
    body.append(_guides(layout.shown_guides, "#2a7f6f", thin))
    body.extend(_lettering(layout, one.id, "#1b2130", fine) for one in layout.piece.letterings)
    wider = (bounds[0] - margin, bounds[1] - margin, bounds[2] + margin, bounds[3] + margin)
    return _document(layout.piece.title, wider, body)


def write_words(outlines: list[Outline], bounds: Bounds, title: str, strokes: bool) -> bytes:
    """A few words set straight, as a picture of their face."""
    ink = 'fill="none" stroke="#1b2130"' if strokes else 'fill="#1b2130"'
    body = [f'<path {ink} d="{outline_data(outline)}"/>' for outline in outlines]
    return _document(title, bounds, body)


def write_curve(curve: Curve, title: str) -> bytes:
    """One line as a small picture."""
    x0, y0, x1, y1 = curve_bounds(curve)
    size = max(x1 - x0, y1 - y0, 1.0)
    x, y, half = (x0 + x1) / 2.0, (y0 + y1) / 2.0, 0.55 * size
    body = [
        f'<path d="{curve_data(curve)}" fill="none" stroke="#1f7365" stroke-width="1.5" '
        'vector-effect="non-scaling-stroke"/>'
    ]
    return _document(title, (x - half, y - half, x + half, y + half), body)


def outline_data(outline: Outline, arcs: bool = False) -> str:
    """Path data of an outline, y down as SVG has it; with `arcs`, arcs are said to be so."""
    steps: list[Step] = []
    at = np.zeros(2)
    for operation, points in outline.steps():
        arc = arc_of(np.stack([at, *points])) if arcs and operation == "C" else None
        if arc is not None:
            flag = "0" if arc.sweep > 0.0 else "1"
            steps.append((_arc_to(number(arc.radius, _FINE), flag), points[2:].tolist()))
        else:
            steps.append((operation, points.tolist()))
        if len(points):
            at = points[-1]
    return _path_data(steps)


def curve_data(curve: Curve) -> str:
    """Path data of a curve, y down as SVG has it; circular arcs stay arcs."""
    return segment_data(curve.segments(), curve.closed)


def segment_data(segments: Sequence[Segment], closed: bool, up: bool = False) -> str:
    """Path data of a line of segments; with `up`, for a plane with y up, and more finely."""
    steps: list[Step] = [("M", [segments[0].start])]
    for segment in segments:
        if isinstance(segment, ArcSegment):
            steps.extend(_arcs(segment, up))
        else:
            steps.append((" LQC"[len(segment) - 1], segment[1:]))
    if closed:
        # A last line that the closing command draws anyway is left to it.
        if isinstance(segments[-1], LineSegment):
            steps.pop()
        steps.append(("Z", ()))
    return _path_data(steps, up)


def number(value: float, decimals: int = _DECIMALS) -> str:
    """A figure in as few characters as its decimals need."""
    text = f"{value:.{decimals}f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def _path_data(steps: Sequence[Step], up: bool = False) -> str:
    """Commands with their points; all figures are written in one go, which is what takes time."""
    figures = [figure for _, points in steps for point in points for figure in point]
    if not up:
        figures[1::2] = [-y for y in figures[1::2]]
    text = f"%.{_FINE if up else _DECIMALS}f " * len(figures) % tuple(figures)
    short = _NEEDLESS.sub("", text).replace("-0 ", "0 ").split()
    places = "".join([command + _PLACES[len(points)] for command, points in steps])
    return places % tuple(short)


def _arcs(arc: ArcSegment, up: bool) -> list[Step]:
    """A whole circle takes two arcs: one alone could not say which way round."""
    shares = [0.5, 1.0] if abs(arc.sweep) > _HALF_TURN else [1.0]
    # Counter-clockwise with y up is the negative-angle direction with y down: flag 0.
    flag = "1" if (arc.sweep > 0.0) == up else "0"
    command = _arc_to(number(arc.radius, _FINE if up else _DECIMALS), flag)
    return [(command, [arc.at(share)]) for share in shares]


def _arc_to(radius: str, flag: str) -> str:
    return f"A{radius} {radius} 0 0 {flag} "


def _lettering(
    layout: Layout, lettering_id: str, ink: str = "#000000", stroke: str = _HAIRLINE
) -> str:
    lines = layout.lines_of(lettering_id)
    filled = f'fill="{ink}"'
    stroked = f'fill="none" stroke="{ink}" stroke-width="{stroke}"'
    paths = [
        f'<path d="{outline_data(setting.placed_outline(index))}"/>'
        for setting in lines
        for index in range(len(setting.clusters))
        if setting.drawn[index]
    ]
    ticks = [
        f'<path {filled if closed else stroked} d="{outline_data(outline)}"/>'
        for setting in lines
        for outline, closed in setting.tick_outlines()
    ]
    paint = stroked if lines and lines[0].face.single_stroke else filled
    name = quoteattr(f"lettering-{lettering_id}")
    lettering = next(one for one in layout.piece.letterings if one.id == lettering_id)
    title = f"<title>{escape(lettering.text or lettering_id)}</title>"
    return "\n".join([f"<g id={name} {paint}>{title}", *paths, *ticks, "</g>"])


def _layer(layer: Layer, piece: Piece) -> str:
    """A layer in a group of its own: areas filled, single lines stroked."""
    areas = [f'<path d="{outline_data(one, arcs=True)}"/>' for one in layer.outlines]
    lines = [f'<path d="{outline_data(one, arcs=True)}"/>' for one in layer.strokes]
    stroked = f'fill="none" stroke="#000000" stroke-width="{_HAIRLINE}"'
    titles = {one.id: one.text for one in piece.letterings}
    title = titles.get(layer.owner) or layer.owner or piece.title or layer.id
    head = f"id={quoteattr(layer.id)}"
    named = f"<title>{escape(title)}</title>"
    if not areas:
        return "\n".join([f"<g {head} {stroked}>{named}", *lines, "</g>"])
    inner = ["\n".join([f"<g {stroked}>", *lines, "</g>"])] if lines else []
    return "\n".join([f'<g {head} fill="#000000">{named}', *areas, *inner, "</g>"])


def _kept_guide(guide: LaidGuide) -> str:
    """A guide that is a line of its own, and what it is for."""
    name = quoteattr(f"{guide.recipe.output}-{guide.recipe.id}")
    paint = f'fill="none" stroke="#000000" stroke-width="{_HAIRLINE}"'
    return f'<g id={name} {paint}>\n<path d="{curve_data(guide.curve)}"/>\n</g>'


def _guides(guides: tuple[LaidGuide, ...], colour: str = "#000000", stroke: str = _HAIRLINE) -> str:
    paths = [
        f'<path id={quoteattr(f"guide-{guide.recipe.id}")} d="{curve_data(guide.curve)}"/>'
        for guide in guides
    ]
    paint = f'fill="none" stroke="{colour}" stroke-width="{stroke}"'
    return "\n".join([f'<g id="guides" {paint}><title>Guides</title>', *paths, "</g>"])


def _document(title: str, bounds: Bounds, body: list[str]) -> bytes:
    x0, y0, x1, y1 = bounds
    width, height = number(x1 - x0), number(y1 - y0)
    head = (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}mm" height="{height}mm" '
        f'viewBox="{number(x0)} {number(-y1)} {width} {height}">'
    )
    named = [f"<title>{escape(title)}</title>"] if title else []
    return "\n".join([head, *named, *body, "</svg>", ""]).encode("utf-8")

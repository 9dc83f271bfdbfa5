"""Small pictures as SVG: of a piece, of a guide, of a few words."""

from __future__ import annotations

from xml.sax.saxutils import escape, quoteattr

from ulvent.core.base.arrays import Bounds, united
from ulvent.core.curves import Curve
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.layout import Layout
from ulvent.core.outlines import Outline
from ulvent.core.outlines.path_text import number
from ulvent.formats.svg_data import curve_data, outline_data
from ulvent.formats.svg_document import guides_group, svg_document


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
    body.append(guides_group(layout.shown_guides, "#2a7f6f", thin))
    body.extend(_lettering(layout, one.id, "#1b2130", fine) for one in layout.piece.letterings)
    wider = (bounds[0] - margin, bounds[1] - margin, bounds[2] + margin, bounds[3] + margin)
    return svg_document(layout.piece.title, wider, body)


def write_words(outlines: list[Outline], bounds: Bounds, title: str, strokes: bool) -> bytes:
    """A few words set straight, as a picture of their face."""
    ink = 'fill="none" stroke="#1b2130"' if strokes else 'fill="#1b2130"'
    body = [f'<path {ink} d="{outline_data(outline)}"/>' for outline in outlines]
    return svg_document(title, bounds, body)


def write_curve(curve: Curve, title: str) -> bytes:
    """One line as a small picture."""
    x0, y0, x1, y1 = curve_bounds(curve)
    size = max(x1 - x0, y1 - y0, 1.0)
    x, y, half = (x0 + x1) / 2.0, (y0 + y1) / 2.0, 0.55 * size
    body = [
        f'<path d="{curve_data(curve)}" fill="none" stroke="#1f7365" stroke-width="1.5" '
        'vector-effect="non-scaling-stroke"/>'
    ]
    return svg_document(title, (x - half, y - half, x + half, y + half), body)


def _lettering(layout: Layout, lettering_id: str, ink: str, stroke: str) -> str:
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

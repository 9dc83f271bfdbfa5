"""Writing SVG 2 in true millimetres.

One user unit is one millimetre. Lettering is paths, one a letter, in one group a
lettering; curves stay curves. There are no transforms, no text elements, and
nothing that is not asked for. The same layout gives the same bytes.
"""

from __future__ import annotations

from xml.sax.saxutils import escape, quoteattr

from ulvent.core.base.arrays import united
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.layout import LaidGuide
from ulvent.core.prepare import Layer
from ulvent.core.recipe import Piece
from ulvent.core.workshop import Workpiece
from ulvent.formats.svg_data import curve_data, outline_data
from ulvent.formats.svg_document import HAIRLINE, guides_group, svg_document


def write_svg(work: Workpiece, guides: bool = False) -> bytes:
    """A piece, prepared, as an SVG file; with `guides`, all of those in a group of their own.

    Guides that are lines of their own are written in any case.
    """
    layout, ready = work.layout, work.ready
    body = [_layer(layer, layout.piece) for layer in ready.layers]
    boxes = [curve_bounds(outline) for outline in layout.blank[:1]] + ready.bounds()
    for guide in ready.guides:
        body.append(_kept_guide(guide))
        boxes.append(guide.bounds)
    shown = tuple(guide for guide in layout.shown_guides if guide not in ready.guides)
    if guides and shown:
        body.append(guides_group(shown))
        boxes.extend(guide.bounds for guide in shown)
    bounds = united(boxes or [guide.bounds for guide in layout.shown_guides])
    return svg_document(layout.piece.title, bounds, body, work.left_out)


def _layer(layer: Layer, piece: Piece) -> str:
    """A layer in a group of its own: areas filled, single lines stroked."""
    areas = [f'<path d="{outline_data(one, arcs=True)}"/>' for one in layer.outlines]
    lines = [f'<path d="{outline_data(one, arcs=True)}"/>' for one in layer.strokes]
    stroked = f'fill="none" stroke="#000000" stroke-width="{HAIRLINE}"'
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
    paint = f'fill="none" stroke="#000000" stroke-width="{HAIRLINE}"'
    return f'<g id={name} {paint}>\n<path d="{curve_data(guide.curve)}"/>\n</g>'

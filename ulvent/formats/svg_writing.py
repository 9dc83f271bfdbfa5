"""Writing SVG 2 in true millimetres.

One user unit is one millimetre. What is drawn, engraved and cut has a group each, with a
colour of its own, since many machines tell them apart by colour; in it, each lettering,
border and guide has a group under its name. Lettering is paths, one a letter; curves stay
curves. What is engraved is filled, what is cut or drawn is a line. There are no transforms,
no text elements, and nothing that is not asked for. The same layout gives the same bytes.
"""

from __future__ import annotations

import re
from itertools import groupby
from xml.sax.saxutils import escape, quoteattr

from ulvent.core.base.arrays import united
from ulvent.core.base.outputs import OUTPUTS
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.outlines import curve_of
from ulvent.core.outlines.path_text import segment_data
from ulvent.core.prepare import Group, laid_lines, other_guides
from ulvent.core.workshop import Workpiece
from ulvent.formats.svg_data import outline_data
from ulvent.formats.svg_document import HAIRLINE, svg_document

_GUIDES = "#8a8a8a"


def write_svg(work: Workpiece, guides: bool = False) -> bytes:
    """A piece, prepared, as an SVG file; with `guides`, all of those in a group of their own.

    Guides that are lines of their own are written in any case.
    """
    layout, groups = work.layout, work.groups
    lie = layout.piece.lie.matrix
    edges = [curve_bounds(curve_of(line)) for line in laid_lines(layout.blank, lie)]
    boxes = edges + [box for group in groups for box in group.bounds()]
    body: list[str] = []
    for output, same in groupby(groups, key=lambda group: group.output):
        title = OUTPUTS[output][0].capitalize()
        colour = layout.piece.colour(output)
        paint = f'fill="none" stroke="{colour}" stroke-width="{HAIRLINE}"'
        body.append(f'<g id="{output}" {paint}><title>{title}</title>')
        body += [svg_group(group, colour) for group in same]
        body.append("</g>")
    others = other_guides(layout, work.ready)
    if guides and others:
        paint = f'fill="none" stroke="{_GUIDES}" stroke-width="{HAIRLINE}"'
        paths = [
            f'<path id="{_id("guide", name)}" d="{segment_data(line.segments, line.closed)}"/>'
            for name, line in others.items()
        ]
        body.append("\n".join([f'<g id="guides" {paint}><title>Guides</title>', *paths, "</g>"]))
        boxes.extend(curve_bounds(curve_of(line)) for line in others.values())
    bounds = united(boxes or [curve_bounds(curve_of(line)) for line in others.values()])
    return svg_document(layout.piece.title, bounds, body, work.left_out)


def svg_group(group: Group, colour: str) -> str:
    """A group under its name: areas filled where they are engraved."""
    head = f"<g id={quoteattr(_id(group.output, group.name))}>"
    filled = f' fill="{colour}" stroke="none"' if group.output == "engrave" else ""
    areas = [f'<path d="{outline_data(one, arcs=True)}"{filled}/>' for one in group.areas]
    lines = [f'<path d="{outline_data(one, arcs=True)}"/>' for one in group.lines]
    curves = [f'<path d="{segment_data(one.segments, one.closed)}"/>' for one in group.curves]
    return "\n".join(
        [f"{head}<title>{escape(group.name)}</title>", *areas, *lines, *curves, "</g>"]
    )


def _id(stem: str, name: str) -> str:
    """As SVG ids are: the name without what an id may not hold."""
    words = re.sub(r"[^\w.-]+", "-", name).strip("-.")
    return f"{stem}-{words or 'lines'}"

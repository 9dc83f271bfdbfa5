"""Thread as lines: SVG and DXF by thread, G-code for a frame, and a template on paper."""

from __future__ import annotations

import re
from io import BytesIO
from xml.sax.saxutils import escape

from reportlab.pdfgen.canvas import Canvas

from ulvent.core.base.arrays import Bounds, Points
from ulvent.core.base.errors import wrong_field
from ulvent.core.outlines.path_text import number
from ulvent.core.stitches import Embroidery
from ulvent.formats.dxf_writing import add_layer, dxf_bytes, layer_name, new_dxf
from ulvent.formats.pdf_writing import (
    BAR,
    LARGEST,
    LINE,
    MARGIN,
    begin_page,
    check_bar,
    draw_line,
)  # fmt: skip
from ulvent.formats.svg_document import svg_document

_ARM = 6.0
_FEED = 3000
"""mm a minute of a frame that is moved from needle point to needle point."""


def _bounds(embroidery: Embroidery) -> Bounds:
    return embroidery.bounds or (0.0, 0.0, 1.0, 1.0)


def thread_svg(embroidery: Embroidery) -> bytes:
    """A group a thread; lines are as wide as a laid thread, with a corner at each needle point."""
    body: list[str] = []
    wide = number(embroidery.cloth.thread)
    for index, colour in enumerate(embroidery.colours, 1):
        paint = f'fill="none" stroke="{colour.colour}" stroke-width="{wide}"'
        title = escape(colour.asks or f"Thread {index}")
        body.append(
            f'<g id="thread-{index}" {paint} stroke-linejoin="round"><title>{title}</title>'
        )
        body += [f'<path d="{_data(one.points)}"/>' for one in colour.sewn]
        body.append("</g>")
    return svg_document("Thread", _bounds(embroidery), body)


def _data(points: Points) -> str:
    return "M" + "L".join(f"{number(x)} {number(-y)}" for x, y in points.tolist())


def thread_dxf(embroidery: Embroidery) -> bytes:
    """A layer a thread, a polyline for what is sewn in one."""
    document = new_dxf()
    space = document.modelspace()
    for index, colour in enumerate(embroidery.colours, 1):
        layer = layer_name(f"{index} - {colour.asks or 'Thread'}")
        add_layer(document, layer, colour.colour)
        for one in colour.sewn:
            space.add_lwpolyline(one.points.round(3).tolist(), dxfattribs={"layer": layer})
    return dxf_bytes(document)


def thread_gcode(embroidery: Embroidery) -> bytes:
    """A move a stitch, as RS274/NGC has them: `M3` starts the needle, `M5` holds it for a jump.

    Needle points are counted from the lower left of all that is sewn.
    """
    x0, y0, _, _ = _bounds(embroidery)
    lines = ["G21 G90 G17 G94", "M5"]
    for index, colour in enumerate(embroidery.colours, 1):
        asks = colour.asks or (f"Thread {index}" if index > 1 else "")
        if asks:
            lines.append(f"M0 ({re.sub(r'[^ -~]|[()%;]', ' ', asks)})")
        for one in colour.sewn:
            first, *rest = (one.points - (x0, y0)).round(2).tolist()
            lines += [f"G0 X{first[0]:g} Y{first[1]:g}", "M3", f"F{_FEED}"]
            lines += [f"G1 X{x:g} Y{y:g}" for x, y in rest]
            lines.append("M5")
    return "\n".join([*lines, "G0 X0 Y0", "M2", ""]).encode("ascii")


def thread_pdf(embroidery: Embroidery) -> bytes:
    """A template at true size: what is sewn, crosshairs at its middle, a bar to check by."""
    x0, y0, x1, y1 = _bounds(embroidery)
    width = max(x1 - x0, BAR) + 2.0 * MARGIN
    height = y1 - y0 + 3.5 * MARGIN
    if max(width, height) > LARGEST:
        raise wrong_field("", f"makes a page of {max(width, height):.0f} mm; a PDF has at most "
                          f"{LARGEST:.0f} mm")  # fmt: skip
    target = BytesIO()
    page = Canvas(target, invariant=1, pageCompression=1)
    page.setTitle("Template")
    page.setCreator("Ulvent")
    begin_page(page, width, height)
    page.saveState()
    page.translate(MARGIN - x0, 2.5 * MARGIN - y0)
    page.setLineWidth(LINE)
    for colour in embroidery.colours:
        page.setStrokeColor(colour.colour)
        for one in colour.sewn:
            draw_line(page, one.points.tolist())
    _crosshairs(page, (x0, y0, x1, y1))
    page.restoreState()
    check_bar(page, MARGIN, "you sew")
    page.showPage()
    page.save()
    return target.getvalue()


def _crosshairs(page: Canvas, box: Bounds) -> None:
    x0, y0, x1, y1 = box
    x, y = (x0 + x1) / 2.0, (y0 + y1) / 2.0
    page.setStrokeColorRGB(0.0, 0.0, 0.0)
    page.line(x - _ARM, y, x + _ARM, y)
    page.line(x, y - _ARM, x, y + _ARM)
    # What is seen of the middle at the edges of the words, to fold the cloth by.
    page.line(x0 - _ARM, y, x0 - 1.0, y)
    page.line(x1 + 1.0, y, x1 + _ARM, y)
    page.line(x, y0 - _ARM, x, y0 - 1.0)
    page.line(x, y1 + 1.0, x, y1 + _ARM)

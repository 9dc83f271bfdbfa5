"""An SVG document in true millimetres: one user unit is one millimetre."""

from __future__ import annotations

from xml.sax.saxutils import escape, quoteattr

from ulvent.core.base.arrays import Bounds
from ulvent.core.layout import LaidGuide
from ulvent.core.outlines.path_text import number
from ulvent.formats.svg_data import curve_data

HAIRLINE = "0.1"


def svg_document(title: str, bounds: Bounds, body: list[str], lacks: str = "") -> bytes:
    """The bytes of a document that shows what lies in a box, mm, y up; `lacks` is said in it."""
    x0, y0, x1, y1 = bounds
    width, height = number(x1 - x0), number(y1 - y0)
    head = (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}mm" height="{height}mm" '
        f'viewBox="{number(x0)} {number(-y1)} {width} {height}">'
    )
    named = [f"<title>{escape(title)}</title>"] if title else []
    named += [f"<desc>{escape(lacks)}</desc>"] if lacks else []
    return "\n".join([head, *named, *body, "</svg>", ""]).encode("utf-8")


def guides_group(
    guides: tuple[LaidGuide, ...], colour: str = "#000000", stroke: str = HAIRLINE
) -> str:
    """Guides in a group of their own."""
    paths = [
        f'<path id={quoteattr(f"guide-{guide.recipe.id}")} d="{curve_data(guide.curve)}"/>'
        for guide in guides
    ]
    paint = f'fill="none" stroke="{colour}" stroke-width="{stroke}"'
    return "\n".join([f'<g id="guides" {paint}><title>Guides</title>', *paths, "</g>"])

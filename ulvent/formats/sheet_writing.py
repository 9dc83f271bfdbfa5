"""Sheets of parts as SVG, and the list of what lies on them as PDF.

A part is all groups of its piece under its own name; what is drawn, engraved and cut stays apart.
"""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import replace
from typing import NamedTuple
from xml.sax.saxutils import escape

import numpy as np

from ulvent.core.base.arrays import Matrices
from ulvent.core.base.outputs import OUTPUTS
from ulvent.core.outlines import FileOutline, laid_segment
from ulvent.core.prepare import Group
from ulvent.core.recipe import Piece
from ulvent.formats.svg_document import HAIRLINE, svg_document
from ulvent.formats.svg_writing import svg_group


class SheetPart(NamedTuple):
    """A part on a sheet: its name, its groups as its piece has them, and where it lies."""

    name: str
    groups: tuple[Group, ...]
    matrix: Matrices


def sheet_svg(
    title: str, size: tuple[float, float], parts: Sequence[SheetPart], of: Piece
) -> bytes:
    """One sheet, its lower left corner at the origin."""
    body: list[str] = []
    for output in OUTPUTS:
        mine = [
            (part, [group for group in part.groups if group.output == output]) for part in parts
        ]
        if not any(groups for _, groups in mine):
            continue
        colour = of.colour(output)
        paint = f'fill="none" stroke="{colour}" stroke-width="{HAIRLINE}"'
        body.append(f'<g id="{output}" {paint}><title>{OUTPUTS[output][0].capitalize()}</title>')
        for number, (part, groups) in enumerate(mine, 1):
            if groups:
                body.append(f'<g id="{output}-part-{number}"><title>{escape(part.name)}</title>')
                for place, group in enumerate(groups, 1):
                    named = f"{number}-{place}-{group.name}"
                    body.append(svg_group(_moved(group, part.matrix, named), colour))
                body.append("</g>")
        body.append("</g>")
    return svg_document(title, (0.0, 0.0, *size), body)


def _moved(group: Group, matrix: Matrices, name: str) -> Group:
    """A group where it lies on a sheet."""
    own = np.array([[1.0, 0.0, 0.0], [0.0, 1.0, 0.0]]) if group.lie is None else group.lie
    lie = matrix[:, :2] @ own
    lie[:, 2] += matrix[:, 2]
    curves = [
        FileOutline(tuple(laid_segment(one, matrix) for one in line.segments), line.closed)
        for line in group.curves
    ]
    lines = [line.transformed(matrix) for line in group.lines]
    return replace(group, name=name, lie=lie, lines=lines, curves=curves)


class ListedSheet(NamedTuple):
    """A sheet in a cutting list: its width and height, mm, and the names of what lies on it."""

    size: tuple[float, float]
    names: Sequence[str]


def cutting_list(title: str, sheets: Sequence[ListedSheet]) -> bytes:
    """What lies on each sheet, as PDF."""
    from reportlab.lib.pagesizes import A4
    from reportlab.lib.units import mm
    from reportlab.pdfgen.canvas import Canvas

    out = io.BytesIO()
    page = Canvas(out, pagesize=A4, invariant=1)
    page.setTitle(f"{title}, cutting list")
    left, top, step = 20 * mm, A4[1] - 25 * mm, 5.2 * mm
    y = 0.0
    for number, (size, names) in enumerate(sheets, 1):
        lines = [
            f"Sheet {number} of {len(sheets)}, {size[0]:g} × {size[1]:g} mm: {len(names)} parts"
        ]
        for place, line in enumerate([*lines, *names]):
            if y < 25 * mm:
                if number > 1 or place:
                    page.showPage()
                y = top
                page.setFont("Helvetica-Bold", 13)
                page.drawString(left, y + 3 * mm, f"{title}, cutting list")
                y -= 2 * step
            page.setFont("Helvetica-Bold" if place == 0 else "Helvetica", 10)
            # The page's font has Latin letters; others are in the drawing.
            shown = line.encode("cp1252", "replace").decode("cp1252")
            page.drawString(left if place == 0 else left + 6 * mm, y, shown)
            y -= step
        y -= step
    page.save()
    return out.getvalue()

"""A run as SVG: a group a pass, in the order in which they run; tracks in their order too."""

from __future__ import annotations

import math
from xml.sax.saxutils import escape

from ulvent.core.base.arrays import Points
from ulvent.core.outlines.path_text import number
from ulvent.core.runs import Run
from ulvent.core.runs.few_moves import moves, once_each
from ulvent.formats.svg_document import HAIRLINE, svg_document

_OFF = 0.001


def write_svg_by_pass(run: Run) -> bytes:
    """Tracks as the tool goes along them, mm from the machine's zero."""
    body: list[str] = []
    data = once_each(_data)
    for one in run.passes:
        paint = f'fill="none" stroke="{one.colour}" stroke-width="{HAIRLINE}"'
        title = escape(f"{one.number} {one.title}, {one.tool.title}")
        body.append(f'<g id="pass-{one.number}" {paint}><title>{title}</title>')
        for track in one.tracks:
            body.append(f'<path d="{data(track.points)}"/>')
        body.append("</g>")
    return svg_document("Run", run.bounds, body)


def _data(points: Points) -> str:
    x, y = points[0].tolist()
    data = [f"M{number(x)} {number(-y)}"]
    for move in moves(points, _OFF):
        end = f"{number(move.end[0])} {number(-move.end[1])}"
        if move.turn:
            # All arcs are less than half a turn; y is down, so what turns left sweeps back.
            radius = number(math.dist(move.end, move.centre))
            data.append(f"A{radius} {radius} 0 0 {int(move.turn < 0)} {end}")
        else:
            data.append(f"L{end}")
    return "".join(data)

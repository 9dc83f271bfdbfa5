"""A picture of what a run leaves: its tracks over the blank, with its resolution set."""

from __future__ import annotations

from io import BytesIO

from ulvent.core.base.arrays import Points
from ulvent.core.base.outputs import OUTPUTS
from ulvent.core.runs import Run
from ulvent.formats.pdf_writing import framed

_DPI, _MOST_PIXELS = 300.0, 6000
_MARGIN, _LINE = 3.0, 0.25
_FINER = 2
"""Drawn so many times finer, and then made smaller, for smooth edges."""
_PAPER, _BLANK, _EDGE = "#ffffff", "#f5f1e6", "#8a8576"


def write_png(run: Run) -> bytes:
    """A run as a picture at 300 dots an inch, or fewer where that would be too large."""
    from PIL import Image, ImageDraw

    x0, y0, x1, y1 = framed(run)
    x0, y0, x1, y1 = x0 - _MARGIN, y0 - _MARGIN, x1 + _MARGIN, y1 + _MARGIN
    dots = min(_DPI / 25.4, _MOST_PIXELS / max(x1 - x0, y1 - y0))
    size = max(1, round((x1 - x0) * dots)), max(1, round((y1 - y0) * dots))
    picture = Image.new("RGB", (size[0] * _FINER, size[1] * _FINER), _PAPER)
    draw = ImageDraw.Draw(picture)
    scale = dots * _FINER

    def placed(points: Points) -> list[tuple[float, float]]:
        return [((x - x0) * scale, (y1 - y) * scale) for x, y in points.tolist()]

    for ring in run.blank:
        draw.polygon(placed(ring), fill=_BLANK, outline=_EDGE)
    width = max(1, round(_LINE * scale))
    for one in run.passes:
        colour = OUTPUTS[one.tool.output][2]
        for track in one.tracks:
            draw.line(placed(track.points), fill=colour, width=width, joint="curve")
    target = BytesIO()
    dpi = dots * 25.4
    picture.resize(size, Image.Resampling.LANCZOS).save(target, "PNG", dpi=(dpi, dpi))
    return target.getvalue()

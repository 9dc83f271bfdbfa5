"""A picture of what a run leaves: its tracks over the blank, with its resolution set."""

from __future__ import annotations

import math
from io import BytesIO

from ulvent.core.base.arrays import Points
from ulvent.core.runs import Run
from ulvent.core.runs.relief import FLOOR, wood

_DPI = 300.0
_MOST_DOTS, _MOST_FINE = 20e6, 5e6
"""Dots of a picture; those that it may have and still be drawn finer first."""
_MARGIN, _LINE = 3.0, 0.25
_FINER = 2
"""Drawn so many times finer, and then made smaller, for smooth edges."""
_PAPER, _BLANK, _EDGE = "#ffffff", "#f5f1e6", "#8a8576"


def write_png(run: Run) -> bytes:
    """A run as a picture at 300 dots an inch, or fewer where that would be too large."""
    from PIL import Image, ImageDraw

    x0, y0, x1, y1 = run.frame
    x0, y0, x1, y1 = x0 - _MARGIN, y0 - _MARGIN, x1 + _MARGIN, y1 + _MARGIN
    dots = min(_DPI / 25.4, math.sqrt(_MOST_DOTS / ((x1 - x0) * (y1 - y0))))
    size = max(1, round((x1 - x0) * dots)), max(1, round((y1 - y0) * dots))
    finer = _FINER if size[0] * size[1] <= _MOST_FINE else 1
    picture = Image.new("RGB", (size[0] * finer, size[1] * finer), _PAPER)
    draw = ImageDraw.Draw(picture)
    scale = dots * finer

    def placed(points: Points) -> list[tuple[float, float]]:
        return [((x - x0) * scale, (y1 - y) * scale) for x, y in points.tolist()]

    for ring in run.blank:
        draw.polygon(placed(ring), fill=_BLANK, outline=_EDGE)
    width = max(1, round(_LINE * scale))
    for one in run.passes:
        colour = one.colour
        floor = max(1, round(one.clears * scale))
        for track in one.tracks if one.clears else ():
            draw.line(placed(track.points), fill=wood(FLOOR), width=floor, joint="curve")
        for track in one.tracks:
            relief = one.relief(track)
            if relief is not None:
                for corners, light in zip(relief.corners, relief.light.tolist(), strict=True):
                    draw.polygon(placed(corners), fill=wood(light))
            draw.line(placed(track.points), fill=colour, width=width, joint="curve")
    target = BytesIO()
    dpi = dots * 25.4
    if finer > 1:
        picture = picture.resize(size, Image.Resampling.LANCZOS)
    picture.save(target, "PNG", dpi=(dpi, dpi))
    return target.getvalue()

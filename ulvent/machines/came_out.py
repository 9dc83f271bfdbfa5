"""What came out of a simulated machine, held against what was meant: a figure and a picture."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from io import BytesIO

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.base.trees import point_tree
from ulvent.core.outlines import Polyline, even_places
from ulvent.core.runs.relief import FLOOR, walls, wood
from ulvent.machines.bed import Bed, Done

_STEP = 0.1
_DOTS = 4.0
"""Of the picture, a mm."""
_OFF = 0.1
"""mm: what is farther off than this is shown as wrong."""
_GROUND, _MEANT, _DONE, _WRONG = "#fdfcf8", "#c9c3b4", "#1b2130", "#a3352a"


def farthest_apart(meant: Sequence[Points], done: Sequence[Points]) -> float:
    """mm from any place of one set of lines (k, 2) to the other; infinite where one is empty."""
    if not meant or not done:
        return 0.0 if not meant and not done else math.inf
    ones, others = _places(meant), _places(done)
    return max(
        float(point_tree(others).query(ones)[0].max()),
        float(point_tree(ones).query(others)[0].max()),
    )


def picture(bed: Bed, meant: Sequence[Points] = ()) -> bytes:
    """A PNG of the bed: what was meant is pale, what was done dark, and what is wrong red."""
    from PIL import Image, ImageDraw

    size = max(1, round(bed.width * _DOTS)), max(1, round(bed.height * _DOTS))
    image = Image.new("RGB", size, _GROUND)
    draw = ImageDraw.Draw(image)

    def placed(points: Sequence[Sequence[float]]) -> list[tuple[float, float]]:
        return [(x * _DOTS, (bed.height - y) * _DOTS) for x, y in points]

    for line in meant:
        draw.line(placed(line.tolist()), fill=_MEANT, width=3)
    for one in bed.done:
        if one.cutter is not None and one.cutter.across:
            floor = max(1, round(one.cutter.across * _DOTS))
            draw.line(placed(one.points), fill=wood(FLOOR), width=floor, joint="curve")
        for corners, light in _walls(one):
            draw.polygon(placed(corners), fill=wood(light))
    tree = point_tree(_places(meant)) if meant else None
    for one in bed.done:
        line = np.array(one.points)
        wrong = tree is not None and bool(tree.query(line)[0].max() > _OFF + _STEP)
        draw.line(placed(one.points), fill=_WRONG if wrong else _DONE, width=1)
    target = BytesIO()
    image.save(target, "PNG", dpi=(_DOTS * 25.4, _DOTS * 25.4))
    return target.getvalue()


def _walls(one: Done) -> Iterator[tuple[Sequence[Sequence[float]], float]]:
    """What a pointed cutter has left of the surface, strip by strip."""
    if one.cutter is None or not one.cutter.angle:
        return
    found = walls(np.array(one.points), np.array(one.depths), one.cutter.angle)
    yield from zip(found.corners.tolist(), found.light.tolist(), strict=True)


def _places(lines: Sequence[Points]) -> Points:
    return even_places([Polyline(np.asarray(line), False) for line in lines], _STEP, 2).points

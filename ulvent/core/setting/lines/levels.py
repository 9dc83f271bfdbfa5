"""Level stretches of a shape's inside, on which the lines stand that fill it."""

from __future__ import annotations

import math

import numpy as np

from ulvent.core.curves import Curve, Line
from ulvent.core.shapes import Region

MOST_FILLED = 500


def level_stretches(
    guide: Curve, margin: float, pitch: float, reach: tuple[float, float], angle: float
) -> list[Line]:
    """Stretches of lines across a closed guide, from the top, in reading direction.

    Parameters
    ----------
    reach
        how far lettering reaches below its line (negative) and above it, mm: all of it is
        inside of the guide, `margin` mm from its edge
    """
    cos, sin = math.cos(math.radians(angle)), math.sin(math.radians(angle))
    level = np.array([[cos, sin, 0.0], [-sin, cos, 0.0]])
    shape = Region.inside(guide).offset(-margin).transformed(level)
    if shape.is_empty:
        return []
    low, high = reach
    x0, y0, x1, y1 = shape.bounds
    count = math.floor((y1 - y0 - (high - low)) / pitch) + 1
    if count < 1:
        return []
    # What is left over is shared by top and bottom.
    top = y1 - high - (y1 - y0 - (high - low) - (count - 1) * pitch) / 2.0
    found: list[Line] = []
    for number in range(min(count, MOST_FILLED)):
        y = top - number * pitch
        strip = Region.box((x0 - 1.0, y + low, x1 + 1.0, y + high))
        blocked = sorted((p.bounds[0], p.bounds[2]) for p in strip.minus(shape).parts)
        at = x0 - 1.0
        for begin, end in [*blocked, (x1 + 1.0, x1 + 1.0)]:
            if begin - at > high - low:
                ends = np.array([[at, y], [begin, y]]) @ level[:, :2]
                (ax, ay), (bx, by) = ends.tolist()
                found.append(Line((ax, ay), (bx, by)))
            at = max(at, end)
    return found

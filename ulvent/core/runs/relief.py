"""What a pointed cutter leaves of the surface: walls, light and dark as they face."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import Floats, Lengths, Points
from ulvent.core.base.tolerances import JOINT

_LIGHT = np.array([-1.0, 1.0]) / np.sqrt(2.0)
"""From which it comes: from the upper left, as drawings of reliefs are lit."""
FLOOR = 0.5
"""How light a floor is."""
_SIDES = 24
"""With so many a hole is shown."""
_DARK, _BRIGHT = (92, 72, 48), (236, 222, 190)
"""Of what is carved, turned away from the light and towards it."""


class Strips(NamedTuple):
    """Walls along a way.

    corners
        (n, 4, 2) mm, two for each step of the way: to its left and to its right
    light
        (n,) from 0, turned away from the light, to 1
    """

    corners: Floats
    light: Floats


def walls(points: Points, depths: Lengths, angle: float) -> Strips:
    """The walls that slope down to a way (k, 2) from both sides.

    depths
        (k,) at each point, mm
    angle
        between the sides of the cutter, degrees
    """
    widths = 2.0 * depths * math.tan(math.radians(angle / 2.0))
    if np.hypot(*np.diff(points, axis=0).T).sum() < widths.max() / 2.0:
        return _hole(points[int(np.argmax(widths))], float(widths.max()) / 2.0)
    kept = np.append(True, np.hypot(*np.diff(points, axis=0).T) > JOINT)
    points, radii = points[kept], widths[kept, None] / 2.0
    ways = np.diff(points, axis=0)
    lengths = np.hypot(*ways.T)[:, None]
    ahead = ways / lengths
    left = ahead[:, ::-1] * (-1.0, 1.0)
    # The edges touch the circles at both ends, which need not be equally large.
    back = np.clip(np.diff(radii, axis=0) / lengths, -1.0, 1.0)
    corners, light = [], []
    for side in (left, -left):
        touch = side * np.sqrt(1.0 - back**2) - ahead * back
        edge = points + radii * _between(touch)
        corners.append(np.stack([points[:-1], points[1:], edge[1:], edge[:-1]], axis=1))
        # A wall on the left faces to the right.
        light.append(FLOOR - 0.5 * touch @ _LIGHT)
    return Strips(np.concatenate(corners), np.concatenate(light))


def _hole(middle: Points, radius: float) -> Strips:
    """The walls of a hole where a cutter goes down in one place (2,)."""
    turns = np.linspace(0.0, 2.0 * np.pi, _SIDES + 1)
    out = np.stack([np.cos(turns), np.sin(turns)], axis=1)
    rim, still = middle + radius * out, np.broadcast_to(middle, (_SIDES, 2))
    facing = -(out[:-1] + out[1:]) / 2.0
    light = FLOOR + 0.5 * facing @ _LIGHT
    return Strips(np.stack([still, still, rim[1:], rim[:-1]], axis=1), light)


def _between(touch: Floats) -> Floats:
    """(n + 1, 2) unit vectors between those of n steps, and at both ends theirs."""
    found = np.concatenate([touch[:1], touch[:-1] + touch[1:], touch[-1:]])
    sizes = np.hypot(*found.T)[:, None]
    unit: Floats = found / np.where(sizes > JOINT, sizes, 1.0)
    return unit


def wood(light: float) -> tuple[int, int, int]:
    """The colour of what is carved, by how light it is: red, green, blue, to 255."""
    red, green, blue = (
        round(dark + light * (bright - dark)) for dark, bright in zip(_DARK, _BRIGHT, strict=True)
    )
    return red, green, blue

"""Circular arcs among cubics, for formats that have arcs of their own."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ulvent.core.base.arrays import Floats

_OFF = 5e-6
"""A cubic of 45° is off its circle by 4.2e-6 of the radius."""
_ROUNDED = 1e-5
_MOST_SWEEP = math.radians(91.0)
_LEAST_SWEEP = math.radians(1.0)


@dataclass(frozen=True)
class Arc:
    """A circular arc, mm; sweep in radians, positive counter-clockwise."""

    centre: tuple[float, float]
    radius: float
    sweep: float


def arc_of(cubic: Floats) -> Arc | None:
    """The arc that a cubic (4, 2) stands for; none where it is no arc."""
    (ax, ay), (bx, by), (cx, cy), (dx, dy) = cubic.tolist()
    first, last = math.hypot(bx - ax, by - ay), math.hypot(dx - cx, dy - cy)
    if first == 0.0 or abs(first - last) > 1e-4 * first + _ROUNDED:
        return None
    into = complex(bx - ax, by - ay) / first
    out = complex(dx - cx, dy - cy) / last
    sweep = math.remainder(math.atan2(out.imag, out.real) - math.atan2(into.imag, into.real),
                           2.0 * math.pi)  # fmt: skip
    if not _LEAST_SWEEP < abs(sweep) < _MOST_SWEEP:
        return None
    radius = math.hypot(dx - ax, dy - ay) / (2.0 * math.sin(abs(sweep) / 2.0))
    centre = complex(ax, ay) + into * 1j * math.copysign(radius, sweep)
    if abs(abs(complex(dx, dy) - centre) - radius) > _OFF * radius + _ROUNDED:
        return None
    handle = 4.0 / 3.0 * math.tan(abs(sweep) / 4.0) * radius
    if abs(handle - first) > 1e-4 * handle + _ROUNDED:
        return None
    return Arc((centre.real, centre.imag), radius, sweep)

"""Touch lines: which line of the letters lies on the guide."""

from __future__ import annotations

from typing import Literal

from ulvent.core.faces import Metrics

TouchLine = Literal["ascender", "capital", "middle", "baseline", "descender"]


def touch_height(touch: TouchLine, metrics: Metrics) -> float:
    """Height of a touch line above the baseline, font units. `middle` halves a capital."""
    heights = {
        "ascender": metrics.ascender,
        "capital": metrics.cap_height,
        "middle": metrics.cap_height / 2.0,
        "baseline": 0.0,
        "descender": metrics.descender,
    }
    return heights[touch]

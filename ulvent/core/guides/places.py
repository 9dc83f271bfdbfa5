"""Places on a guide that makers call by name, as shares of its length."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from ulvent.core.curves import Curve
from ulvent.core.curves.bounds import curve_bounds


@lru_cache(maxsize=256)
def named_places(curve: Curve) -> dict[str, float]:
    """Shares of the length at which the named places lie, each in [0, 1].

    On a closed guide they are the points nearest to the middles of its box's sides, where
    it comes nearest to touching them; on an open one its start, middle and end.
    """
    if not curve.closed:
        return {"start": 0.0, "middle": 0.5, "end": 1.0}
    x0, y0, x1, y1 = curve_bounds(curve)
    middle_x, middle_y = (x0 + x1) / 2.0, (y0 + y1) / 2.0
    sides = {
        "top": (middle_x, y1),
        "right": (x1, middle_y),
        "bottom": (middle_x, y0),
        "left": (x0, middle_y),
    }
    stations = curve.nearest(np.array(list(sides.values())))
    return {
        name: _tidy(station / curve.length)
        for name, station in zip(sides, stations.tolist(), strict=True)
    }


def _tidy(share: float) -> float:
    """A share that rounding has put just beside a plain figure, or just before the seam."""
    rounded = round(share, 6)
    near: float = rounded if abs(share - rounded) < 1e-8 else share
    return near % 1.0

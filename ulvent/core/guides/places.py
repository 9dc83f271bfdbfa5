"""Places on a guide that makers call by name, as shares of its length."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.remembered import remembered
from ulvent.core.curves import Curve, nearest
from ulvent.core.curves.bounds import curve_bounds

_ALONG = {"start": 0.0, "middle": 0.5, "end": 1.0}


def named_places(curve: Curve) -> dict[str, float]:
    """The places that are offered, as shares of the length in [0, 1].

    A closed guide's sides; an open one's start, middle and end. An open guide has a top as
    well (`place_share`), which is not looked for while the guide is being pulled about.
    """
    return _sides(curve) if curve.closed else _ALONG


def place_share(curve: Curve, name: str) -> float:
    """The share of the length at which a place lies: along the guide, or one of its sides."""
    return _ALONG[name] if name in _ALONG else _sides(curve)[name]


@remembered(256)
def _sides(curve: Curve) -> dict[str, float]:
    """The points nearest to the middles of the sides of the curve's box."""
    x0, y0, x1, y1 = curve_bounds(curve)
    middle_x, middle_y = (x0 + x1) / 2.0, (y0 + y1) / 2.0
    sides = {
        "top": (middle_x, y1),
        "right": (x1, middle_y),
        "bottom": (middle_x, y0),
        "left": (x0, middle_y),
    }
    stations = nearest(curve, np.array(list(sides.values())))
    return {
        name: _tidy(station / curve.length, curve.closed)
        for name, station in zip(sides, stations.tolist(), strict=True)
    }


def _tidy(share: float, closed: bool) -> float:
    """A share that rounding has put just beside a plain figure, or just before the seam."""
    rounded = round(share, 6)
    near: float = rounded if abs(share - rounded) < 1e-8 else share
    return near % 1.0 if closed else near

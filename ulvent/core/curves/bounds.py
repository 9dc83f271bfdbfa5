"""The box of a curve."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Bounds
from ulvent.core.base.remembered import remembered
from ulvent.core.base.tolerances import NIL
from ulvent.core.curves.curve import Curve

_ROUNDS = 2


@remembered(256)
def curve_bounds(curve: Curve) -> Bounds:
    """The box of a curve: its outermost samples, moved on to where the tangent turns back."""
    stations, points = curve.samples
    if len(curve.corners.stations):
        stations = np.concatenate([stations, curve.corners.stations])
        points = np.concatenate([points, curve.points(curve.corners.stations)])
    step = 2.0 * curve.length / len(stations)
    outermost = [points[:, 0].argmin(), points[:, 1].argmin()]
    outermost += [points[:, 0].argmax(), points[:, 1].argmax()]
    found = stations[outermost]
    axes = np.array([0, 1, 0, 1])
    rows = np.arange(4)
    for _ in range(_ROUNDS):
        at = curve.frames(found)
        slope, bend = at.tangents[rows, axes], at.curvatures * at.normals[rows, axes]
        bent = np.abs(bend) > NIL
        moved = slope / np.where(bent, bend, 1.0)
        found = np.where(bent & (np.abs(moved) <= step), found - moved, found)
        if not curve.closed:
            found = np.clip(found, 0.0, curve.length)
    turning = curve.points(found)[rows, axes]
    sampled = points[outermost, axes]
    x0, y0 = np.minimum(turning[:2], sampled[:2]).tolist()
    x1, y1 = np.maximum(turning[2:], sampled[2:]).tolist()
    return x0, y0, x1, y1

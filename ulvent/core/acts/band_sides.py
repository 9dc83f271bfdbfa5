"""Which side of its guide a lettering stands on, and which way up.

A lettering's band is the strip between its feet and the heads of its capitals, as two
distances to the left of the guide. Words are put on the other side, turned over, or
fitted to another lettering's band by choosing reading, touch line and standoff anew.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ulvent.core.curves import Curve
from ulvent.core.faces import Face
from ulvent.core.recipe import Lettering
from ulvent.core.setting import baseline_curve, guide_station, scale_of

_DECIMALS = 6

_TURNED = {"baseline": "capital", "capital": "baseline", "middle": "middle"}
"""Which line of the letters lies where another one lay, once they are turned over."""

Band = tuple[float, float]


def band_of(lettering: Lettering, guide: Curve, face: Face) -> Band:
    """Least and greatest distance to the left of the guide between which capitals stand, mm."""
    foot = baseline_curve(lettering, guide, face).distance
    head = foot + scale_of(lettering, face) * face.metrics.cap_height
    return (foot, head) if lettering.reading == "along" else (-head, -foot)


def on_other_side(lettering: Lettering, guide: Curve, face: Face) -> Lettering:
    """On the other side of the guide, as far off, reading the same way."""
    low, high = band_of(lettering, guide, face)
    return _in_band(lettering, (-high, -low))


def turned_over(lettering: Lettering, guide: Curve, face: Face) -> Lettering:
    """In the same place, head down: it reads the other way. Twice, it is as before.

    The line of the letters that lay at the guide lies there still: what were the feet are the
    heads now, the middle is the middle. The labels of a dial go round the other way.
    """
    other: Any = "against" if lettering.reading == "along" else "along"
    align: Any = {"start": "end", "centre": "centre", "end": "start"}[lettering.align]
    touch: Any = _TURNED.get(lettering.touch, lettering.touch)
    changes = {"reading": other, "align": align, "touch": touch}
    if lettering.dial is not None:
        way = "against" if lettering.dial.way == "along" else "along"
        changes["dial"] = lettering.dial.model_copy(update={"way": way})
    if lettering.touch in _TURNED:
        return lettering.model_copy(update={**changes, "standoff": 0.0 - lettering.standoff})
    turned = lettering.model_copy(update={**changes, "standoff": 0.0})
    (low, _), (wanted, _) = band_of(turned, guide, face), band_of(lettering, guide, face)
    up = 1.0 if other == "along" else -1.0
    standoff = float(np.round(up * (wanted - low), _DECIMALS)) + 0.0
    return turned.model_copy(update={"standoff": standoff})


def matched_to(
    lettering: Lettering, face: Face, other: Lettering, other_face: Face, guide: Curve
) -> Lettering:
    """Between the same two parallels as `other`, as high, and upright where it stands.

    Upright is what reads from left to right at the place where the lettering is held.
    """
    band = band_of(other, guide, other_face)
    tangent = guide.frames(guide_station(lettering, guide)).tangents[0]
    reading: Any = "along" if tangent[0] >= 0.0 else "against"
    per_height = scale_of(lettering, face) * face.metrics.cap_height / lettering.height
    height = round((band[1] - band[0]) / per_height, _DECIMALS)
    changed = lettering.model_copy(update={"reading": reading, "height": height})
    return _in_band(changed, band)


def _in_band(lettering: Lettering, band: Band) -> Lettering:
    """With its feet on the edge of `band` that its reading puts them on.

    The touch line is the edge that lies nearer to the guide.
    """
    low, high = band if lettering.reading == "along" else (-band[1], -band[0])
    touch: Any = "baseline" if abs(low) <= abs(high) else "capital"
    standoff = float(np.round(low if touch == "baseline" else high, _DECIMALS)) + 0.0
    return lettering.model_copy(update={"touch": touch, "standoff": standoff})

"""Sliding a lettering along its guide: by a length, or after a pointer."""

from __future__ import annotations

import numpy as np

from ulvent.core.curves import Curve, nearest
from ulvent.core.guides import place_share
from ulvent.core.recipe import Lettering, PlaceKind
from ulvent.core.setting import guide_station

_STATION_DECIMALS = 3
_SHARE_DECIMALS = 7


def slid_along(lettering: Lettering, guide: Curve, distance: float) -> Lettering:
    """Slid by `distance` mm in its reading direction."""
    forward = distance if lettering.reading == "along" else -distance
    return _moved(lettering, guide, forward)


def slid_after(
    lettering: Lettering, guide: Curve, start: tuple[float, float], end: tuple[float, float]
) -> Lettering:
    """Slid as far along the guide as a pointer went from `start` to `end`, mm."""
    first, last = nearest(guide, np.array([start, end]))
    return _moved(lettering, guide, float(last - first))


def kept_as(lettering: Lettering, guide: Curve, at_in: PlaceKind) -> Lettering:
    """In the same place, kept in another way: as a station, a share, or from a named place."""
    station = guide_station(lettering, guide)
    return _at(lettering.model_copy(update={"at_in": at_in}), guide, station)


def _moved(lettering: Lettering, guide: Curve, distance: float) -> Lettering:
    """Tied to the same place as before: a share stays a share, a named place that place."""
    length = guide.length
    first = guide_station(lettering, guide)
    station = first + distance
    station = station % length if guide.closed else min(max(station, 0.0), length)
    return _at(lettering, guide, station)


def _at(lettering: Lettering, guide: Curve, station: float) -> Lettering:
    """Held at `station`, in the way in which it keeps its place."""
    length = guide.length
    if lettering.at_in == "share":
        at = round(station / length, _SHARE_DECIMALS)
    elif lettering.at_in == "mm":
        at = round(station, _STATION_DECIMALS)
    else:
        off = station - place_share(guide, lettering.at_in) * length
        if guide.closed:
            off = (off + length / 2.0) % length - length / 2.0
        at = round(off, _STATION_DECIMALS)
    return lettering.model_copy(update={"at": at})

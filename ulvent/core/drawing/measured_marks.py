"""Measuring a guide: its length between stations, its bend at one, the chord between two."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ulvent.core.base.arrays import Point
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves import Curve, nearest, section_of
from ulvent.core.layout import LaidGuide

_STRAIGHT = 1e-9
"""Bends below this, 1/mm, a radius of a thousand kilometres, count as straight."""


@dataclass(frozen=True)
class Measured:
    """One guide measured.

    stations, points
        where, mm; one or two of each
    stretch
        the part between two stations, in the guide's direction; past the seam where the
        second comes before the first on a closed guide
    length
        of the stretch, or of the whole guide
    chord
        straight between the two stations, mm
    radius
        of the bend at the last station, mm; nothing where it is straight
    text
        all of it in one line, for copying
    """

    guide: str
    stations: tuple[float, ...]
    points: tuple[Point, ...]
    stretch: Curve | None
    length: float
    chord: float | None
    radius: float | None
    text: str


Mark = float | Point
"""A station, mm, or a point of the piece, for the station nearest to it."""


def measured(guide: LaidGuide, marks: tuple[Mark, ...]) -> Measured:
    """Measure `guide` at the last one or two of `marks`.

    Stations off an open guide are taken as its nearer end.
    """
    curve = guide.curve
    wanted = np.array(
        [
            float(nearest(curve, np.array([mark]))[0]) if isinstance(mark, tuple) else mark
            for mark in marks[-2:]
        ]
    )
    inside = np.mod(wanted, curve.length) if curve.closed else np.clip(wanted, 0.0, curve.length)
    at = curve.frames(inside)
    stretch: Curve | None = None
    chord: float | None = None
    length = curve.length
    if len(inside) == 2:
        begin, end = float(inside[0]), float(inside[1])
        if not curve.closed:
            begin, end = min(begin, end), max(begin, end)
        elif end <= begin:
            end += curve.length
        if end - begin > JOINT:
            stretch = section_of(curve, begin, end)
        length = end - begin
        chord = float(np.hypot(*(at.points[1] - at.points[0])))
    bend = float(at.curvatures[-1])
    radius = 1.0 / abs(bend) if abs(bend) > _STRAIGHT else None
    return Measured(
        guide=guide.recipe.id,
        stations=tuple(inside.tolist()),
        points=tuple((float(x), float(y)) for x, y in at.points),
        stretch=stretch,
        length=length,
        chord=chord,
        radius=radius,
        text=_text(inside.tolist(), length, chord, radius),
    )


def _text(stations: list[float], length: float, chord: float | None, radius: float | None) -> str:
    where = " to ".join(f"{station:.3f}" for station in stations)
    parts = [f"station {where} mm"]
    if chord is not None:
        parts += [f"length {length:.3f} mm", f"chord {chord:.3f} mm"]
    parts.append("straight" if radius is None else f"radius {radius:.3f} mm")
    return "; ".join(parts)

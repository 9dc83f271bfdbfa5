"""Keeping whole letters off the corners of a guide.

Around every corner lies a zone of the baseline that no letter may reach into: the arc
by which the baseline itself goes round the corner, or, where the corner closes on the
side of the letters' heads, as much on both sides as keeps the heads apart. Letters are
pushed on past a zone, away from the place where the lettering is held.
"""

from __future__ import annotations

import math

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats
from ulvent.core.base.tolerances import JOINT, LETTER_CORNER
from ulvent.core.curves import Curve, Parallel

Zone = tuple[float, float]


def letter_corners(guide: Curve) -> list[tuple[float, float]]:
    """Station and turn, mm and radians, of what lettering takes for corners; a seam is at 0."""
    found = [
        (station, turn)
        for station, turn in zip(
            guide.corners.stations.tolist(), guide.corners.turns.tolist(), strict=True
        )
        if abs(turn) >= LETTER_CORNER
    ]
    if guide.closed and abs(guide.seam_turn) >= LETTER_CORNER:
        found.insert(0, (0.0, guide.seam_turn))
    return found


def corner_zones(reading: Curve, baseline: Parallel, height: float) -> list[Zone]:
    """The zones on `baseline`, in its own stations; on a ring the first may begin before 0."""
    zones: list[Zone] = []
    for station, turn in letter_corners(reading):
        beside = np.array([station - JOINT, station + JOINT])
        before, after = baseline.carry(beside).tolist()
        closing = turn > 0.0
        clear = height * math.tan(min(turn, 0.95 * math.pi) / 2.0) if closing else 0.0
        zones.append((before - clear, after + clear))
    return zones


def pushed(
    begins: Floats, ends: Floats, solid: Booleans, zones: list[Zone], lap: float | None, held: float
) -> Floats:
    """How far each letter is pushed along the baseline, mm, so that none reaches into a zone.

    Parameters
    ----------
    begins, ends
        (n,) stations between which each letter stands unpushed, in order
    solid
        (n,) whether a letter has ink; what has none may stand anywhere
    lap
        the length of a closed baseline, on which the zones come again every lap
    held
        the station that stays where it is: letters beyond it are pushed on, letters
        before it back
    """
    shifts = np.zeros(len(begins))
    if not zones or not len(begins):
        return shifts
    spread = 2.0 * float(ends[-1] - begins[0]) + 10.0 * max(high - low for low, high in zones)
    everywhere = zones_along(zones, lap, float(begins[0]) - spread, float(ends[-1]) + spread)
    later = np.flatnonzero((begins + ends) / 2.0 >= held)
    earlier = np.flatnonzero((begins + ends) / 2.0 < held)[::-1]
    shifts[later] = _push_on(begins[later], ends[later], solid[later], everywhere)
    mirrored = [(-high, -low) for low, high in reversed(everywhere)]
    shifts[earlier] = -_push_on(-ends[earlier], -begins[earlier], solid[earlier], mirrored)
    return shifts


def zones_along(zones: list[Zone], lap: float | None, low: float, high: float) -> list[Zone]:
    """All zones in order, on a closed baseline those of every lap that is touched."""
    if lap is None:
        return sorted(zones)
    first, last = math.floor(low / lap) - 1, math.ceil(high / lap) + 1
    return sorted(
        (begin + turn * lap, end + turn * lap)
        for turn in range(first, last + 1)
        for begin, end in zones
    )


def _push_on(begins: Floats, ends: Floats, solid: Booleans, zones: list[Zone]) -> Floats:
    """Cumulative shifts forward; zones in order."""
    shifts = np.zeros(len(begins))
    shift, zone = 0.0, 0
    for index, (begin, end) in enumerate(zip(begins.tolist(), ends.tolist(), strict=True)):
        if solid[index]:
            while zone < len(zones) and zones[zone][1] <= begin + shift + JOINT:
                zone += 1
            while zone < len(zones) and zones[zone][0] < end + shift - JOINT:
                shift = max(shift, zones[zone][1] - begin)
                zone += 1
        shifts[index] = shift
    return shifts

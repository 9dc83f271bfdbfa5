"""Corners rounded by arcs, between sides of any kind.

The arc at a corner touches both sides: its centre lies where the parallels of the
sides at the distance of its radius cross. Where a side is too short for the arcs at
both of its ends, the radii there are made smaller until they share it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ulvent.core.base.arrays import Point
from ulvent.core.base.errors import CurveError
from ulvent.core.base.tolerances import CORNER, JOINT
from ulvent.core.curves.arc import CircularArc
from ulvent.core.curves.chain import Chain
from ulvent.core.curves.curve import Curve
from ulvent.core.curves.parallels import crossing_feet
from ulvent.core.curves.seam import section_of, started_at

_ROUNDS = 40
_HALF_TURN = math.pi * 0.999


@dataclass
class _Corner:
    """A corner being rounded. `before` and `after` are the feet of its arc, stations."""

    station: float
    turn: float
    radius: float
    before: float = 0.0
    after: float = 0.0


@dataclass(frozen=True)
class Rounded:
    """The rounded curve, and the smallest radius that it came down to, mm."""

    curve: Curve
    least_radius: float


def rounded(curve: Curve, radii: float | Sequence[float]) -> Rounded:
    """`curve` with its corners rounded, each by its radius or by what its sides have room for.

    Parameters
    ----------
    radii
        mm: one for all corners, or one for each in order of stations, a corner at the
        seam last; 0 leaves a corner as it is

    Raises
    ------
    CurveError
        Where no arc touches both sides of a corner.
    """
    stations, turns = curve.corners.stations.tolist(), curve.corners.turns.tolist()
    if curve.closed and abs(curve.seam_turn) > CORNER:
        stations, turns = [*stations, curve.length], [*turns, curve.seam_turn]
    each = radii if isinstance(radii, Sequence) else [radii] * len(stations)
    corners = [
        _Corner(station, turn, radius)
        for station, turn, radius in zip(stations, turns, each, strict=True)
        if radius > 0.0
    ]
    if not corners:
        return Rounded(curve, 0.0)
    for corner in corners:
        _place_feet(curve, corner)
    for _ in range(_ROUNDS):
        tight = _shrink_tightest(curve, corners)
        if tight is None:
            break
        for corner in tight:
            _place_feet(curve, corner)
    else:
        raise CurveError("the corners are too close together to be rounded")
    return Rounded(_joined(curve, corners), min(corner.radius for corner in corners))


def _place_feet(curve: Curve, corner: _Corner) -> None:
    """Find where the arc at a corner touches its sides; a smaller radius where it cannot."""
    if abs(corner.turn) > _HALF_TURN:
        raise CurveError(f"the line doubles back at station {corner.station:.4g}: no arc fits")
    reach = corner.radius * math.tan(abs(corner.turn) / 2.0)
    signed = math.copysign(corner.radius, corner.turn)
    for _ in range(_ROUNDS):
        feet = crossing_feet(curve, signed, (corner.station - reach, corner.station + reach))
        if feet is not None and feet[0] < corner.station < feet[1]:
            corner.before, corner.after = feet
            corner.radius = abs(signed)
            return
        signed, reach = 0.8 * signed, 0.8 * reach
    raise CurveError(f"no arc touches both sides of the corner at station {corner.station:.4g}")


def _shrink_tightest(curve: Curve, corners: list[_Corner]) -> list[_Corner] | None:
    """Make the two arcs smaller whose side is most too short for them; nothing when all fit."""
    count = len(corners)
    worst: tuple[float, list[_Corner]] | None = None
    for index, corner in enumerate(corners):
        following = corners[(index + 1) % count]
        last = index + 1 == count
        if last and not curve.closed:
            continue
        gap = following.station - corner.station + (curve.length if last else 0.0)
        taken = (corner.after - corner.station) + (following.station - following.before)
        if taken > gap + JOINT and (worst is None or taken / gap > worst[0]):
            worst = (taken / gap, [corner, following])
    ends = () if curve.closed else ((corners[0], True), (corners[-1], False))
    for corner, first in ends:
        gap = corner.station if first else curve.length - corner.station
        taken = corner.station - corner.before if first else corner.after - corner.station
        if taken > gap + JOINT and (worst is None or taken / gap > worst[0]):
            worst = (taken / gap, [corner])
    if worst is None:
        return None
    factor, tight = worst
    for corner in tight:
        corner.radius /= factor
    # A corner that stands alone on its ring is both neighbours of its side.
    return tight[:1] if len(tight) == 2 and tight[0] is tight[1] else tight


def _joined(curve: Curve, corners: list[_Corner]) -> Curve:
    """Sides and arcs in order, started where the curve started."""
    # On a ring, what lies between the last corner and the first is the first side.
    reached = corners[-1].after - curve.length if curve.closed else 0.0
    pieces: list[Curve] = []
    replaced: list[tuple[float, float]] = []
    for corner in corners:
        if corner.before - reached > JOINT:
            pieces.append(section_of(curve, reached, corner.before))
            replaced.append((reached, corner.before))
        pieces.append(_arc(curve, corner))
        replaced.append((corner.before, corner.after))
        reached = corner.after
    if curve.closed:
        return _started_at_seam(Chain(pieces, closed=True), pieces, replaced, curve.length)
    if curve.length - reached > JOINT:
        pieces.append(section_of(curve, reached, curve.length))
    return Chain(pieces)


def _started_at_seam(
    ring: Chain, pieces: list[Curve], replaced: list[tuple[float, float]], length: float
) -> Curve:
    """`ring` started where the old station 0 was, or at its share of the arc in its place."""
    passed = 0.0
    for piece, (begin, end) in zip(pieces, replaced, strict=True):
        for seam in (0.0, length):
            if begin <= seam < end:
                return started_at(ring, passed + piece.length * (seam - begin) / (end - begin))
        passed += piece.length
    return ring


def _arc(curve: Curve, corner: _Corner) -> CircularArc:
    at = curve.frames([corner.before, corner.after])
    left = math.copysign(corner.radius, corner.turn)
    centre: Point = (
        float(at.points[0, 0] + left * at.normals[0, 0]),
        float(at.points[0, 1] + left * at.normals[0, 1]),
    )
    begin = math.degrees(math.atan2(at.points[0, 1] - centre[1], at.points[0, 0] - centre[0]))
    (ux, uy), (vx, vy) = at.tangents
    sweep = math.degrees(math.atan2(ux * vy - uy * vx, ux * vx + uy * vy))
    if sweep * corner.turn < 0.0:
        sweep += math.copysign(360.0, corner.turn)
    return CircularArc(centre, corner.radius, begin, sweep)

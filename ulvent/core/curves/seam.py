"""Stretches of a curve past its seam, and a closed curve started elsewhere."""

from __future__ import annotations

import cmath
import math

from ulvent.core.base.arrays import Millimetres
from ulvent.core.base.errors import CurveError
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves.chain import Chain
from ulvent.core.curves.curve import Curve
from ulvent.core.curves.placed import Placed
from ulvent.core.curves.section import stretch_of


def section_of(curve: Curve, begin: Millimetres, end: Millimetres) -> Curve:
    """The open stretch from station `begin` to `end`, past the seam of a closed curve too.

    Raises
    ------
    CurveError
        Unless begin < end, both on the curve, and at most one lap apart.
    """
    length = curve.length
    if not end - begin > JOINT:
        raise CurveError("a part must end after it begins")
    if not curve.closed:
        if begin < -JOINT or end > length + JOINT:
            raise CurveError(f"a part must lie between station 0 and {length:.4g}")
        return stretch_of(curve, max(begin, 0.0), min(end, length))
    if end - begin > length + JOINT:
        raise CurveError("a part of a closed guide is at most one lap")
    first = begin % length
    last = min(first + (end - begin), first + length)
    if last <= length + JOINT:
        return stretch_of(curve, first, min(last, length))
    if length - first <= JOINT:
        return stretch_of(curve, 0.0, last - length)
    beyond = stretch_of(curve, 0.0, last - length)
    if curve.lap is not None:
        turned = math.degrees(cmath.phase(curve.lap.turn))
        beyond = Placed(beyond, 1.0, turned, (curve.lap.move.real, curve.lap.move.imag))
    return Chain([stretch_of(curve, first, length), beyond])


def started_at(curve: Curve, station: Millimetres) -> Curve:
    """A closed curve with its seam moved to `station`.

    Raises
    ------
    CurveError
        Of an open curve, and of one that is closed on a part only.
    """
    if not curve.closed:
        raise CurveError("only a closed guide can start elsewhere; use a part of it instead")
    if curve.lap is not None:
        raise CurveError("a line round a part begins at its back; slide the words along it instead")
    first = station % curve.length
    if min(first, curve.length - first) <= JOINT:
        return curve
    parts = [stretch_of(curve, first, curve.length), stretch_of(curve, 0.0, first)]
    return Chain(parts, closed=True)

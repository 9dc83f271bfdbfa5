"""A curve that knows its own points, in the place of one that searches for each of them.

A parallel finds the foot of every station by Newton's method and asks its base in each round;
the parallel of a parallel would ask that one as often again, and so on: each level would cost
several times the last.
"""

from __future__ import annotations

from itertools import pairwise

from ulvent.core.curves.bezier import BezierPath
from ulvent.core.curves.curve import Curve
from ulvent.core.curves.fitted import fitted_segments
from ulvent.core.curves.parallel import Parallel


def plain(curve: Curve) -> Curve:
    """The curve itself where it does not search, or else cubics within `DRAWING` of it."""
    if not searches(curve):
        return curve
    found: Curve | None = curve.notes.get("plain")
    if found is None:
        segments = fitted_segments(curve)
        # Beside a corner each side was asked a little apart from it.
        joined = [one._replace(end=other.start) for one, other in pairwise(segments)]
        last = segments[-1]
        joined.append(last._replace(end=segments[0].start) if curve.closed else last)
        found = curve.notes["plain"] = BezierPath(joined, closed=curve.closed)
    return found


def searches(curve: Curve) -> bool:
    """Whether a curve asks a parallel for its points, or is one."""
    return isinstance(curve, Parallel) or any(searches(one) for one in curve.asked)

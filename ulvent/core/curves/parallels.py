"""The parallel of any curve at any distance that its bends allow.

Mostly only corners need care; where the curve bends more tightly than the distance, `trimmed`
cuts off what runs backwards.
"""

from __future__ import annotations

import math

from ulvent.core.base.errors import CurveError
from ulvent.core.base.remembered import remembered
from ulvent.core.base.tolerances import CORNER, SAME
from ulvent.core.curves.curve import Curve
from ulvent.core.curves.parallel import TRACED, Parallel, Span

_MOST_ROUNDS = 64


@remembered(256)
def parallel_of(base: Curve, distance: float) -> Parallel:
    """The parallel of `base` at `distance` mm, positive to the left.

    Where the base bends too tightly, what runs backwards is left out together with the loop
    it belongs to. Remembered, since tables are dear.

    Raises
    ------
    CurveError
        Where the curve bends more tightly than the distance allows.
    """
    if distance == 0.0:
        return Parallel(base, 0.0, [Span(0.0, base.length)])
    traced = base.closed and len(base.corners.stations) >= TRACED
    if not traced and (distance * base.bends[1]).max() < 1.0:
        spans = _spans(base, distance)
        if spans:
            return Parallel(base, distance, spans)
    # Imported when it is needed: SciPy would double the start of the command line.
    from ulvent.core.curves.trimmed import nearby_spans

    spans = nearby_spans(base, distance)
    if not spans:
        raise CurveError(_why_none(base, distance))
    return Parallel(base, distance, spans)


def _spans(base: Curve, distance: float) -> list[Span]:
    """Spans where only corners need care; nothing where a side is used up by them."""
    corners = base.corners
    bounds = [0.0, *corners.stations.tolist(), base.length]
    begins, ends = bounds[:-1], bounds[1:]
    joints = [(index, index + 1, turn) for index, turn in enumerate(corners.turns.tolist())]
    if base.closed and abs(base.seam_turn) > CORNER:
        joints.append((len(begins) - 1, 0, base.seam_turn))
    going_round: dict[int, Span] = {}
    for before, after, turn in joints:
        if turn * distance < 0.0:
            going_round[before] = Span.whole_corner(ends[before], turn)
            continue
        reach = abs(distance * math.tan(turn / 2.0))
        feet = crossing_feet(base, distance, (bounds[before + 1] - reach, bounds[after] + reach))
        if feet is None:
            return []
        ends[before], begins[after] = feet
    spans: list[Span] = []
    for index, (begin, end) in enumerate(zip(begins, ends, strict=True)):
        if end <= begin:
            return []
        spans.append(Span(begin, end))
        if index in going_round:
            spans.append(going_round[index])
    return spans


def _why_none(base: Curve, distance: float) -> str:
    """Where a parallel fails, in words."""
    side = "left" if distance > 0.0 else "right"
    none = f"no parallel {abs(distance):g} mm to the {side}"
    stations, bends = base.bends
    bent = distance * bends
    worst = int(bent.argmax())
    if bent[worst] < 1.0:
        return f"{none}: the guide is too short between its corners"
    radius = 1.0 / abs(bends[worst])
    return (
        f"{none}: the guide bends to a radius of {radius:.3g} mm at station {stations[worst]:.4g}"
    )


def crossing_feet(
    base: Curve, distance: float, guess: tuple[float, float]
) -> tuple[float, float] | None:
    """Feet of the point where the parallels of two sides of a corner cross; nothing without one.

    Newton's method in two unknowns, from the feet that straight sides would have.
    Stations before 0 and past the end wrap on a closed base.
    """
    first, second = guess
    length = base.length
    for _ in range(_MOST_ROUNDS):
        if not (math.isfinite(first + second) and second - first < length):
            return None
        if not base.closed and (first < 0.0 or second > length):
            return None
        at = base.frames([first, second])
        offset = at.points + distance * at.normals
        apart = offset[1] - offset[0]
        if math.hypot(*apart) <= SAME:
            return first, second
        speeds = at.tangents * (1.0 - distance * at.curvatures)[:, None]
        u, v = speeds
        determinant = u[1] * v[0] - u[0] * v[1]
        if determinant == 0.0:
            return None
        first += (v[0] * apart[1] - v[1] * apart[0]) / determinant
        second += (u[0] * apart[1] - u[1] * apart[0]) / determinant
    return None

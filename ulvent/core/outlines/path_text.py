"""Lines as SVG path data (SVG 2, chapter Paths), in mm.

Written for the screen and for files with y down, as SVG has it, or more finely with y up, as
recipes hold it.
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence

from ulvent.core.base.tolerances import NIL
from ulvent.core.curves import ArcSegment, LineSegment, Segment

DECIMALS = 4
FINE = 6
_QUARTER_TURN = 90.0
_NEEDLESS = re.compile(r"\.?0+(?= )")
_PLACES = [" ".join(["%s %s"] * count) for count in range(4)]

Step = tuple[str, Sequence[Sequence[float]]]
"""A command of path data and its points, y up."""


def segment_data(segments: Sequence[Segment], closed: bool, up: bool = False) -> str:
    """Path data of a line of segments; with `up`, for a plane with y up, and more finely."""
    steps: list[Step] = [("M", [segments[0].start])]
    for segment in segments:
        if isinstance(segment, ArcSegment):
            steps.extend(_arcs(segment, up))
        else:
            steps.append((" LQC"[len(segment) - 1], segment[1:]))
    if closed:
        # A last line that the closing command draws anyway is left to it.
        if isinstance(segments[-1], LineSegment):
            steps.pop()
        steps.append(("Z", ()))
    return path_data(steps, up)


def number(value: float, decimals: int = DECIMALS) -> str:
    """A figure in as few characters as its decimals need."""
    text = f"{value:.{decimals}f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def path_data(steps: Sequence[Step], up: bool = False) -> str:
    """Path data of commands with their points, y down; with `up`, y up and more finely.

    All figures are written in one go, which is what takes time.
    """
    figures = [figure for _, points in steps for point in points for figure in point]
    if not up:
        figures[1::2] = [-y for y in figures[1::2]]
    text = f"%.{FINE if up else DECIMALS}f " * len(figures) % tuple(figures)
    short = _NEEDLESS.sub("", text).replace("-0 ", "0 ").split()
    places = "".join([command + _PLACES[len(points)] for command, points in steps])
    return places % tuple(short)


def _arcs(arc: ArcSegment, up: bool) -> list[Step]:
    """In quarter turns at most: the centre of half a turn hangs on the last digit of its ends."""
    count = max(1, math.ceil(abs(arc.sweep) / _QUARTER_TURN - NIL))
    shares = [(index + 1) / count for index in range(count)]
    # Counter-clockwise with y up is the negative-angle direction with y down: flag 0.
    flag = "1" if (arc.sweep > 0.0) == up else "0"
    command = arc_to(number(arc.radius, FINE if up else DECIMALS), flag)
    return [(command, [arc.at(share)]) for share in shares]


def arc_to(radius: str, flag: str) -> str:
    """The command of a circular arc of at most half a turn, but for its end."""
    return f"A{radius} {radius} 0 0 {flag} "

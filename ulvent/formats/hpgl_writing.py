"""HP-GL: a pen a pass, tracks in plotter units of 0.025 mm.

Only what every plotter takes is used: `IN` begins anew, `PA` says that places are absolute, `SP`
takes a pen, `VS` its speed in cm per second, `PU` and `PD` go somewhere with the pen up or down.
Depth, power and pauses have no words in it: a pass with several rounds goes round several times.
Source: the HP-GL reference, from memory.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.runs import PassRun, Run
from ulvent.core.runs.few_moves import once_each, thinned
from ulvent.formats.program import Block

UNITS_A_MM = 40
_OFF = 0.004
"""What leaving points out may add, mm: rounding to units has most of one unit for itself."""
_MOST_POINTS = 100
"""Of one instruction: small plotters have small memories."""


def hpgl_blocks(run: Run) -> Iterator[Block]:
    """A run as HP-GL, x to the right and y up from the machine's zero."""
    yield Block("begin", "IN;PA;\n")
    for one in run.working:
        if one.recipe.pause:
            # No word asks for it: only who sends it to a machine does.
            yield Block("ask", "", one.number, 0, one.recipe.pause)
        words = f"SP{one.number};VS{max(1, round(one.speed / 10.0))};\n"
        yield Block("pass", words, one.number)
        if run.sheet.rehearsal == "bounds":
            yield Block("bounds", _rehearsed(run), one.number, 0, "the bounds")
        else:
            yield from _tracks(run, one)
    yield Block("end", "PU0,0;SP0;\n")


def _tracks(run: Run, one: PassRun) -> Iterator[Block]:
    down = "PU" if run.sheet.rehearsal == "path" else "PD"
    few = once_each(lambda points: _units(thinned(points, _OFF)))
    for index, track in enumerate(one.tracks):
        first, *rest = few(track.points)
        words = f"PU{first};{_gone(down, rest or [first])}PU;\n"
        yield Block("lines", words, one.number, index)


def _rehearsed(run: Run) -> str:
    x0, y0, x1, y1 = run.bounds
    corners = np.array([[x0, y0], [x1, y0], [x1, y1], [x0, y1], [x0, y0]])
    return _gone("PU", _units(corners)) + "\n"


def _gone(word: str, places: list[str]) -> str:
    some = (places[at : at + _MOST_POINTS] for at in range(0, len(places), _MOST_POINTS))
    return "".join(f"{word}{','.join(few)};" for few in some)


def _units(points: Points) -> list[str]:
    """Places in plotter units, none twice in a row."""
    units = np.rint(points * UNITS_A_MM).astype(int)
    fresh = np.any(np.diff(units, axis=0, prepend=units[:1] - 1) != 0, axis=1)
    return [f"{x},{y}" for x, y in units[fresh].tolist()]

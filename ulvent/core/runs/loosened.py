"""What comes apart while a run goes on: parts that are cut all the way round."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.base.tolerances import JOINT
from ulvent.core.runs.run import PassRun, Run
from ulvent.core.shapes.region import ring_area


class Loose(NamedTuple):
    """A closed line that has been cut through.

    at
        seconds from the beginning of the run
    ring
        (k, 2) mm from the machine's zero
    kept
        whether what lies within it is kept; otherwise it is waste, and falls out
    """

    at: float
    ring: Points
    kept: bool


def loosened(run: Run) -> tuple[Loose, ...]:
    """What is loose by when, in the order in which it comes to be: what is within comes first."""
    found: list[Loose] = []
    begins = 0.0
    if run.sheet.rehearsal != "off":
        return ()
    for one in run.passes:
        found += (loose._replace(at=begins + loose.at) for loose in loosened_by(one))
        begins += one.seconds
    return tuple(found)


def loosened_by(one: PassRun) -> Iterator[Loose]:
    """What a pass cuts through all the way round; times are from its beginning."""
    if one.tool.output != "cut":
        return
    last = {track.line: index for index, track in enumerate(one.tracks)}
    for line, index in last.items():
        ring = one.lines[line]
        begin, end = one.tracks[index].points[[0, -1]]
        # Where tabs stand, the last stretch does not come back to where it began.
        held = one.recipe.tabs is not None and np.hypot(*(end - begin)) > JOINT
        if ring.closed and not held:
            inside_left = ring_area(ring.points) > 0.0
            yield Loose(one.lasts[index].up, ring.points, ring.keeps == inside_left)

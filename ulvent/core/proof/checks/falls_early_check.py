"""Parts that are cut loose while a later pass still works on them.

A beam or a router frees a part once it has followed a closed line through the sheet without tabs.
A blade does not: film stays on its backing, and paper on its mat.
"""

from __future__ import annotations

import numpy as np

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import counted, xy
from ulvent.core.runs import PassRun
from ulvent.core.runs.loosened import loosened_by
from ulvent.core.shapes import Region
from ulvent.core.shapes.region import ring_area

_WITHIN = 0.2
"""mm: what lies on the cut itself is not within it."""
_FREES = ("beam", "router")


def _look(subject: Subject) -> list[Finding]:
    run = subject.going
    found: list[Finding] = []
    loose = Region()
    freed = ""
    for one in run.passes:
        lines = {track.line: track.points for track in one.tracks}
        if not loose.is_empty and lines:
            middles = np.array([points[len(points) // 2] for points in lines.values()])
            inside = loose.contains(middles)
            if inside.any():
                found.append(
                    CHECK.finding(
                        f"pass {one.number}, “{one.title}”, works on "
                        f"{counted(int(inside.sum()), 'line')} of parts that {freed} has cut loose",
                        "Let it run before that pass, or give that pass tabs.",
                        float(inside.sum()),
                        places=tuple(xy(at) for at in run.place.to_piece(middles[inside][:5])),
                        key=f"{CHECK.kind}:{one.number}",
                    )
                )
        rings = _freeing(one)
        if rings:
            loose = Region.joined([loose, _within(rings)])
            freed = f"pass {one.number}, “{one.title}”,"
    return found


def _within(rings: list[np.ndarray]) -> Region:
    """All that lies within closed lines, whichever way round they run."""
    upright = [ring if ring_area(ring) > 0.0 else ring[::-1] for ring in rings]
    return Region.of_rings(upright).offset(-_WITHIN)


def _freeing(one: PassRun) -> list[np.ndarray]:
    """The closed lines that a pass cuts all the way round."""
    return [loose.ring for loose in loosened_by(one)] if one.recipe.tool in _FREES else []


CHECK = Check(kind="falls-early", rank=95, severity="fault", unit="lines", looks={"run": _look})

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
from ulvent.core.shapes import Region

_CLOSED = 0.05
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
            loose = Region.joined([loose, Region.of_rings(rings).filled().offset(-_WITHIN)])
            freed = f"pass {one.number}, “{one.title}”,"
    return found


def _freeing(one: PassRun) -> list[np.ndarray]:
    """The closed lines that a pass cuts all the way round."""
    if one.recipe.tool not in _FREES or one.recipe.tabs is not None:
        return []
    return [
        track.points
        for track in one.tracks
        if len(track.points) > 3 and np.hypot(*(track.points[0] - track.points[-1])) < _CLOSED
    ]


CHECK = Check(kind="falls-early", rank=95, severity="fault", unit="lines", looks={"run": _look})

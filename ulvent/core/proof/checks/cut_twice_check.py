"""Lines that two passes cut: the second burns, or tears, what the first has cut already."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.trees import point_tree
from ulvent.core.outlines import Polyline, even_places
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import xy
from ulvent.core.runs import PassRun

_SAMPLE = 0.5
_NEAR = 0.3
_ON_IT = 0.05
_DOUBLED = 2.0
"""mm: lines that lie on each other over less only cross."""
_PARALLEL = 0.995


def _look(subject: Subject) -> list[Finding]:
    run = subject.going
    found: list[Finding] = []
    before: list[tuple[PassRun, tuple[np.ndarray, np.ndarray]]] = []
    for one in run.passes:
        if one.tool.output != "cut" or not one.tracks:
            continue
        places = _places(one)
        for earlier, theirs in before:
            doubled = _doubled(places, theirs)
            length = len(doubled) * _SAMPLE
            if length < _DOUBLED:
                continue
            found.append(
                CHECK.finding(
                    f"passes {earlier.number} and {one.number} both cut the same "
                    f"{length:.0f} mm of lines",
                    "Take it out of one of them; to cut deeper let one pass repeat it.",
                    length,
                    places=(xy(run.place.to_piece(doubled[:1])[0]),),
                    key=f"{CHECK.kind}:{earlier.number}:{one.number}",
                )
            )
        before.append((one, places))
    return found


def _places(one: PassRun) -> tuple[np.ndarray, np.ndarray]:
    """Places along the lines of a pass, each line once however often it is followed."""
    once = {track.points.tobytes(): track.points for track in one.tracks}
    points, ways, *_ = even_places([Polyline(line, False) for line in once.values()], _SAMPLE, 2)
    return points, ways


def _doubled(
    ours: tuple[np.ndarray, np.ndarray], theirs: tuple[np.ndarray, np.ndarray]
) -> np.ndarray:
    """(n, 2) places of one pass that lie on lines of the other, which run the same way."""
    points, ways = ours
    apart, nearest = point_tree(theirs[0]).query(points, distance_upper_bound=_NEAR)
    near = np.flatnonzero(np.isfinite(apart))
    at, other = points[near], nearest[near]
    parallel = np.abs(np.einsum("ni,ni->n", ways[near], theirs[1][other])) > _PARALLEL
    off, way = theirs[0][other] - at, ways[near]
    across = np.abs(off[:, 0] * way[:, 1] - off[:, 1] * way[:, 0]) < _ON_IT
    found: np.ndarray = at[parallel & across]
    return found


CHECK = Check(kind="cut-twice", rank=94, severity="warning", unit="mm", looks={"run": _look})

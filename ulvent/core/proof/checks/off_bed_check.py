"""Passes that leave the bed of the machine that the run is meant for."""

from __future__ import annotations

import numpy as np

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import xy
from ulvent.core.runs.reach import beyond_bed

_SLACK = 1e-6


def _look(subject: Subject) -> list[Finding]:
    run = subject.going
    bed = run.sheet.bed
    if bed is None:
        return []
    beyond = {one.number: beyond_bed(one, bed) for one in run.passes}
    worst = max(run.passes, key=lambda one: beyond[one.number], default=None)
    if worst is None or beyond[worst.number] <= _SLACK:
        return []
    points = np.concatenate([track.points for track in worst.tracks])
    x0, y0, x1, y1 = bed.box
    out = np.maximum(np.array([x0, y0]) - points, points - np.array([x1, y1])).max(axis=1)
    far = beyond[worst.number]
    return [
        CHECK.finding(
            f"pass {worst.number}, “{worst.title}”, leaves the bed of "
            f"{bed.width:g} × {bed.height:g} mm by {far:.3g} mm",
            "Let the run begin farther from the bed's edge, or at another corner.",
            far,
            places=(xy(run.place.to_piece(points[[int(out.argmax())]])[0]),),
            key=CHECK.kind,
        )
    ]


CHECK = Check(kind="off-bed", rank=93, severity="fault", unit="mm", looks={"run": _look})

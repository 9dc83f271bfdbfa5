"""Needle points so near to each other that the cloth tears or the needle breaks."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding

_MOST = 16
"""Needle points in a square millimetre: two layers of satin with their underlay and a corner.
Common practice, no source."""


def _look(subject: Subject) -> Iterator[Finding]:
    sewn = subject.sewn.sewn
    if not sewn:
        return
    points = np.concatenate([one.points for one in sewn])
    cells, counts = np.unique(np.floor(points).astype(np.int64), axis=0, return_counts=True)
    most = int(counts.max())
    if most <= _MOST:
        return
    x, y = (cells[int(counts.argmax())] + 0.5).tolist()
    yield CHECK.finding(
        f"{most} stitches end in one square millimetre; {_MOST} are what cloth bears",
        "Let the letters stand farther apart there, or the stitches.",
        float(most),
        limit=float(_MOST),
        places=((x, y),),
        key=CHECK.kind,
    )


CHECK = Check(
    kind="crowded-stitches", rank=103, severity="warning", unit="stitches", looks={"thread": _look}
)

"""Stitches that are too short for a needle, or so long that they catch."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import xy
from ulvent.core.stitches import What

_SHORT, _MANY = 0.5, 0.05
"""mm; and the share of them that wears thread out. Common practice, no source."""
_LONG = 8.0
"""mm of a satin stitch that catches. Common practice, no source."""


def _look(subject: Subject) -> Iterator[Finding]:
    sewn = subject.sewn.sewn
    if not sewn:
        return
    lengths = [np.hypot(*np.diff(one.points, axis=0).T) for one in sewn]
    meant = [one.thread.what[1:] != What.TIE for one in sewn]
    short = sum(int((some[own] < _SHORT).sum()) for some, own in zip(lengths, meant, strict=True))
    every = sum(int(own.sum()) for own in meant)
    if short > _MANY * every:
        yield CHECK.finding(
            f"{short} of {every} stitches are shorter than {_SHORT:g} mm",
            "Make the letters larger, or the stitches farther apart.",
            float(short),
            limit=_MANY * every,
            key="short-stitches",
        )
    worst = max(range(len(sewn)), key=lambda index: float(lengths[index].max(initial=0.0)))
    longest = float(lengths[worst].max(initial=0.0))
    if longest > _LONG:
        at = int(lengths[worst].argmax())
        yield CHECK.finding(
            f"a stitch of “{sewn[worst].letter or sewn[worst].name}” is {longest:.1f} mm long",
            f"Split what is longer than {_LONG:g} mm, or fill it in rows: it would catch.",
            longest,
            limit=_LONG,
            unit="mm",
            places=(xy(sewn[worst].points[at]),),
            key="long-stitch",
        )


CHECK = Check(
    kind="stitch-length", rank=102, severity="warning", unit="stitches", looks={"thread": _look}
)

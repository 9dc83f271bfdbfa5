"""Thread that lies in the open between letters, and trims that hold the machine up."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import pairwise

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import xy

_SEEN = 1.0
"""mm of a thread that is not cut, and is seen."""
_MANY = 2.0
"""Trims a letter; one is what letters that stand apart need."""


def _look(subject: Subject) -> Iterator[Finding]:
    embroidery = subject.sewn
    gaps = [
        (math.dist(one.points[-1], two.points[0]), one, two)
        for colour in embroidery.colours
        for one, two in pairwise(colour.sewn)
    ]
    uncut = [one for one in gaps if _SEEN < one[0] <= embroidery.cloth.trim]
    if uncut:
        longest, before, _ = max(uncut, key=lambda one: one[0])
        count = "1 thread lies" if len(uncut) == 1 else f"{len(uncut)} threads lie"
        yield CHECK.finding(
            f"{count} in the open between letters, the longest {longest:.1f} mm: too short to trim",
            "Cut them by hand, or let the letters touch.",
            longest,
            unit="mm",
            places=(xy(before.points[-1]),),
            key="open-thread",
        )
    trims = len(gaps) - sum(1 for one in gaps if one[0] <= embroidery.cloth.trim)
    letters = len({(one.lettering, one.place, one.letter) for one in embroidery.sewn})
    if trims > _MANY * letters:
        yield CHECK.finding(
            f"{trims} trims for {letters} letters",
            "Choose a face whose letters are of one piece, or sew them in satin.",
            float(trims),
            limit=_MANY * letters,
            key="many-trims",
        )


CHECK = Check(
    kind="open-thread", rank=104, severity="hint", unit="stitches", looks={"thread": _look}
)

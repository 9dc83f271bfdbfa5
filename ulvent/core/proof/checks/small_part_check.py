"""Parts that are too small to be picked out."""

from __future__ import annotations

import math

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import MOST_PLACES, counted


def _look(subject: Subject) -> list[Finding]:
    limit = subject.sheet.least_part
    parts = subject.stuff.parts if subject.stuff else ()
    small = [part for part in parts if part.holds and _across(part.area) < limit]
    if not small:
        return []
    least = _across(small[-1].area)
    return [
        CHECK.finding(
            f"{counted(len(small), 'part')} too small to pick out: the smallest is "
            f"{least:.2f} mm across",
            "Make the letters larger, or join the parts to a bar.",
            least,
            lettering=subject.layer.owner,
            limit=limit,
            places=tuple(part.at for part in reversed(small[-MOST_PLACES:])),
        )
    ]


def _across(area: float) -> float:
    """Diameter of the disc of an area, mm."""
    return 2.0 * math.sqrt(area / math.pi)


CHECK = Check(
    kind="small-part",
    rank=40,
    severity="warning",
    unit="mm",
    looks={"sheet layer": _look},
    less_is_worse=True,
)

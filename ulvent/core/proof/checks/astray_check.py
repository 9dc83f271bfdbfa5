"""Lettering that leaves a body which was read: over its edge, over a hole, or out at its back."""

from __future__ import annotations

from collections.abc import Iterator

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import MOST_PLACES, named_letters


def _look(subject: Subject) -> Iterator[Finding]:
    for lettering in dict.fromkeys(one.lettering for one in subject.part.astray):
        mine = [one for one in subject.part.astray if one.lettering == lettering]
        boxes = [one.area.bounds for one in mine[:MOST_PLACES]]
        raised = mine[0].relief.relief == "raised"
        how = "does not stand on the body with all of its foot" if raised else "leaves the body"
        yield CHECK.finding(
            f"{how}{named_letters(one.text for one in mine)}",
            "Move it, make it smaller, or less deep.",
            float(len(mine)),
            lettering=lettering,
            letters=tuple(dict.fromkeys(one.text for one in mine if one.text)),
            places=tuple(((x0 + x1) / 2.0, (y0 + y1) / 2.0) for x0, y0, x1, y1 in boxes),
        )


CHECK = Check(kind="astray", rank=109, severity="fault", unit="letters", looks={"solid": _look})

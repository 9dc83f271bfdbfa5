"""A part that comes out in several pieces: lettering off the body, or counters cut loose."""

from __future__ import annotations

from collections.abc import Iterator

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding


def _look(subject: Subject) -> Iterator[Finding]:
    part = subject.part
    if part.recipe.apart or len(part.meshes) < 2:
        return
    loose = len(part.meshes) - 1
    yield CHECK.finding(
        f"the part comes out with {loose} loose {'piece' if loose == 1 else 'pieces'}",
        "Bring the lettering onto the body, or hold counters by bridges.",
        float(loose),
    )


CHECK = Check(kind="loose-solid", rank=112, severity="warning", looks={"solid": _look})

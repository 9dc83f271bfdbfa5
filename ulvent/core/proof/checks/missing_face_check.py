"""A face that is not here, so that another one stands in for it."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding


def _look(subject: Subject) -> list[Finding]:
    lettering, face = subject.words, subject.lines[0].face
    if not face.stands_for:
        return []
    return [
        CHECK.finding(
            f"the face “{lettering.face}” is not here; {face.name} stands in for it",
            "Add the face's file, or choose another face.",
            1.0,
            lettering=lettering.id,
        )
    ]


CHECK = Check(
    kind="missing-face",
    rank=10,
    severity="fault",
    looks={"lettering": _look},
)

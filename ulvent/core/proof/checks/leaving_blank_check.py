"""Letters that leave the blank, said while they are set."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.leaving import inside_of, leaving


def _look(subject: Subject) -> list[Finding]:
    if not subject.layout.blank:
        return []
    return leaving(
        CHECK, subject, inside_of(subject.layout.blank, subject.layout.piece.blank), "the blank"
    )


CHECK = Check(
    kind="leaving-blank",
    rank=55,
    severity="warning",
    looks={"lettering": _look},
)

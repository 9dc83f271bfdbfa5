"""Lettering that reaches outside of the blank."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.leaving import past_the_seam
from ulvent.core.proof.outside import outside


def _look(subject: Subject) -> list[Finding]:
    area = past_the_seam(subject.ready.blank, subject.layout.piece.blank)
    return outside(CHECK, subject, area, "the blank")


CHECK = Check(
    kind="outside-blank",
    rank=10,
    severity="fault",
    unit="mm",
    looks={"piece": _look},
    needless=("leaving-blank",),
)

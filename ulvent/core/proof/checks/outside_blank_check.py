"""Lettering that reaches outside of the blank."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.outside import outside


def _look(subject: Subject) -> list[Finding]:
    return outside(CHECK, subject, subject.ready.blank, "the blank")


CHECK = Check(
    kind="outside-blank",
    rank=10,
    severity="fault",
    unit="mm",
    looks={"piece": _look},
    needless=("leaving-blank",),
)

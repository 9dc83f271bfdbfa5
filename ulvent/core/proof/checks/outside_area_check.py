"""Lettering that reaches outside of what the tool can reach."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.outside import outside
from ulvent.core.shapes import Region


def _look(subject: Subject) -> list[Finding]:
    reach = subject.layout.piece.area
    if reach is None:
        return []
    # The tool reaches a box of the sheet; the piece may lie on it turned or mirrored.
    there = Region.box(reach.box).transformed(subject.layout.piece.lie.back)
    return outside(CHECK, subject, there, "what the tool can reach")


CHECK = Check(
    kind="outside-area",
    rank=20,
    severity="fault",
    unit="mm",
    looks={"piece": _look},
    needless=("leaving-area",),
)

"""Letters that leave what the tool can reach, said while they are set."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.leaving import leaving
from ulvent.core.shapes import Region


def _look(subject: Subject) -> list[Finding]:
    piece = subject.layout.piece
    if piece.area is None:
        return []
    there = Region.box(piece.area.box).transformed(piece.lie.back)
    return leaving(CHECK, subject, there, "what the tool can reach")


CHECK = Check(
    kind="leaving-area",
    rank=56,
    severity="warning",
    looks={"lettering": _look},
)

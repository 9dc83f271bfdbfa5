"""Pairs that even gaps bring nearer than they may come, since less would tear them apart."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding


def _look(subject: Subject) -> list[Finding]:
    pairs = [
        line.clusters[index].text + line.clusters[index + 1].text
        for line in subject.lines
        for index in line.too_near.nonzero()[0]
    ]
    if not pairs:
        return []
    named = ", ".join(f"“{text}”" for text in pairs)
    return [
        CHECK.finding(
            f"letters come nearer to each other than they should on this curve: {named}",
            "Open the gap after the first one by hand.",
            float(len(pairs)),
            lettering=subject.words.id,
            letters=tuple(pairs),
        )
    ]


CHECK = Check(
    kind="near-letters",
    rank=60,
    severity="warning",
    looks={"lettering": _look},
)

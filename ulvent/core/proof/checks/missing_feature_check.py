"""Features and axes that were asked for and that the face has not."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding


def _look(subject: Subject) -> list[Finding]:
    lettering, face = subject.words, subject.lines[0].face
    offered = {feature.tag for feature in face.features} | {axis.tag for axis in face.axes}
    asked = [*(tag for tag, value in lettering.features.items() if value), *lettering.axes]
    lacking = [tag for tag in asked if tag not in offered]
    if not lacking:
        return []
    return [
        CHECK.finding(
            f"{face.name} has no {', '.join(lacking)}; set without",
            "Choose a face that has it, or leave it out.",
            float(len(lacking)),
            lettering=lettering.id,
        )
    ]


CHECK = Check(
    kind="missing-feature",
    rank=40,
    severity="hint",
    looks={"lettering": _look},
)

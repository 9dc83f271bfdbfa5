"""Characters that a face has no letter for."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.remedy import Remedy

MOST_FACES = 4
"""So many faces are offered for a character that is missing."""


def _look(subject: Subject) -> list[Finding]:
    missing = [character for line in subject.lines for character in line.missing]
    if not missing:
        return []
    named = ", ".join(str(character) for character in missing)
    return [
        CHECK.finding(
            f"{subject.lines[0].face.name} has no letter for {named}; left blank",
            "Choose a face that has it, or another character.",
            float(len(missing)),
            lettering=subject.words.id,
            letters=tuple(character.character for character in missing),
            remedies=_faces_with(subject, {character.character for character in missing}),
        )
    ]


def _faces_with(subject: Subject, characters: set[str]) -> tuple[Remedy, ...]:
    lettering, wanted = subject.words, "".join(sorted(characters))
    having = [
        (face_id, other)
        for face_id, other in subject.others()
        if not other.shape(wanted).missing and not other.shape(lettering.text).missing
    ]
    return tuple(
        Remedy(label=f"set in {other.name}", of="lettering", owner=lettering.id,
               changes={"face": face_id})
        for face_id, other in having[:MOST_FACES]
    )  # fmt: skip


CHECK = Check(
    kind="missing-letters",
    rank=30,
    severity="fault",
    looks={"lettering": _look},
)

"""A rehearsal that is still switched on: the machine would move, and nothing would be done."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.remedy import Remedy


def _look(subject: Subject) -> list[Finding]:
    sheet = subject.layout.piece.run
    if sheet is None or sheet.rehearsal == "off":
        return []
    off = sheet.model_copy(update={"rehearsal": "off"}).model_dump(mode="json")
    remedy = Remedy(label="switch it off", of="piece", owner="", changes={"run": off})
    return [
        CHECK.finding(
            "the run is a rehearsal: every tool stays up",
            "Switch it off before the sheet is worked on.",
            float(len(sheet.passes)),
            remedies=(remedy,),
            key=CHECK.kind,
        )
    ]


CHECK = Check(
    kind="rehearsal",
    rank=91,
    severity="warning",
    unit="passes",
    looks={"piece": _look},
)

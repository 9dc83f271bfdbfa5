"""Passes that are held back, or switched off, and may be forgotten."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.remedy import Remedy


def _look(subject: Subject) -> list[Finding]:
    sheet = subject.layout.piece.run
    held = [one for one in sheet.passes if one.held] if sheet else []
    if not sheet or not held:
        return []
    passes = [one.model_copy(update={"held": False}) for one in sheet.passes]
    let_go = sheet.model_copy(update={"passes": tuple(passes)})
    label = f"let {'it' if len(held) == 1 else 'them'} run"
    changes = {"run": let_go.model_dump(mode="json")}
    names = ", ".join(f"“{one.name or one.id}”" for one in held)
    return [
        CHECK.finding(
            f"{len(held)} {'pass is' if len(held) == 1 else 'passes are'} held back: {names}",
            "Let it run once the sheet is ready for it.",
            float(len(held)),
            remedies=(Remedy(label=label, of="piece", owner="", changes=changes),),
            key=CHECK.kind,
        )
    ]


CHECK = Check(
    kind="held-back",
    rank=90,
    severity="hint",
    unit="passes",
    looks={"piece": _look},
)

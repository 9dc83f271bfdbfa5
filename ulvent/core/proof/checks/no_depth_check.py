"""Passes of tools that go to a depth, of which none is given: they would only touch the sheet."""

from __future__ import annotations

from ulvent.core.base.tools import TOOLS
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding


def _look(subject: Subject) -> list[Finding]:
    piece = subject.layout.piece
    given = {sheet.tool for sheet in piece.tool_sheets if sheet.depth}
    shallow = [
        one
        for one in (piece.run.passes if piece.run else ())
        if one.on and not one.depth and one.tool not in given and TOOLS[one.tool].way == "depth"
    ]
    if not shallow:
        return []
    names = ", ".join(f"“{one.name or one.id}”" for one in shallow)
    passes = "1 pass has" if len(shallow) == 1 else f"{len(shallow)} passes have"
    return [
        CHECK.finding(
            f"{passes} no depth and would only touch the sheet: {names}",
            "Give it a depth, or take the material and tool as a tool sheet.",
            float(len(shallow)),
            key=CHECK.kind,
        )
    ]


CHECK = Check(
    kind="no-depth",
    rank=92,
    severity="warning",
    unit="passes",
    looks={"piece": _look},
)

"""Passes of tools that go to a depth, of which none is given: they would only touch the sheet."""

from __future__ import annotations

from ulvent.core.base.tools import TOOLS, Tool
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding


def _look(subject: Subject) -> list[Finding]:
    piece = subject.layout.piece
    given = {sheet.tool for sheet in piece.tool_sheets if sheet.depth}
    shallow = [
        one
        for one in (piece.run.passes if piece.run else ())
        if one.on and not one.depth and one.tool not in given and _needs_depth(TOOLS[one.tool])
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


def _needs_depth(tool: Tool) -> bool:
    """A pointed cutter goes as deep as it fits between the edges."""
    return tool.way == "depth" and tool.areas != "grooved"


CHECK = Check(
    kind="no-depth",
    rank=92,
    severity="warning",
    unit="passes",
    looks={"piece": _look},
)

"""The whole proof of a piece: of its layout, of its outlines, and under each tool sheet."""

from __future__ import annotations

from dataclasses import dataclass

from ulvent.core.layout import Layout
from ulvent.core.prepare import Prepared, prepared
from ulvent.core.proof.cutting import grouped, prove_cutting
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.findings import OtherFaces, prove
from ulvent.core.proof.limits import prove_sheet
from ulvent.core.recipe.tool_sheet import PLAIN, ToolSheet

_RANK = {"fault": 0, "warning": 1, "hint": 2}


@dataclass(frozen=True, eq=False)
class Proof:
    """A piece prepared, the sheets it was held against, and the findings, the worst first."""

    ready: Prepared
    sheets: tuple[ToolSheet, ...]
    findings: tuple[Finding, ...]

    @property
    def faults(self) -> tuple[Finding, ...]:
        """Those that are not accepted."""
        return tuple(f for f in self.findings if f.severity == "fault" and not f.accepted)


def proof_of(layout: Layout, others: OtherFaces = tuple, remedies: bool = True) -> Proof:
    """Proof a piece against all its tool sheets, or, where it has none, a plain one.

    `others` and `remedies` are as for `prove`.

    Raises
    ------
    PieceError
        As `prepared` does.
    """
    ready = prepared(layout)
    sheets = layout.piece.tool_sheets or (PLAIN,)
    findings = [*prove(layout, others, remedies), *prove_cutting(layout, ready)]
    for sheet in sheets:
        findings.extend(prove_sheet(layout, ready, sheet))
    held = [finding.named().held_against(layout.piece.accepted) for finding in grouped(findings)]
    ranked = sorted(held, key=lambda finding: (finding.accepted, _RANK[finding.severity]))
    return Proof(ready, sheets, tuple(ranked))

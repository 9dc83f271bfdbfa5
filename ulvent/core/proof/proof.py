"""The whole proof of a piece: of its layout, of its outlines, and under each tool sheet."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from itertools import groupby

from ulvent.core.base.at_work import at_work
from ulvent.core.layout import Layout
from ulvent.core.prepare import Prepared
from ulvent.core.proof.check import OtherFaces, Stage, Subject
from ulvent.core.proof.checks import CHECKS
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.remedy import Remedy
from ulvent.core.recipe import PLAIN, Accepted, ToolSheet
from ulvent.core.runs import Run
from ulvent.core.solids import MadeSolid
from ulvent.core.stitches import Embroidery

_FEWER = "fewer letters would do"
_RANK = {"fault": 0, "warning": 1, "hint": 2}
_SAME = 1e-3
"""A figure that is worse by no more than this is the same."""


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


def prove_layout(layout: Layout, others: OtherFaces = tuple) -> tuple[Finding, ...]:
    """What there is to say of a piece before it is prepared, letterings in order.

    Faces of `others` are offered for missing letters.
    """
    return _held(_of_layout(layout, others), layout.piece.accepted)


def prove(
    layout: Layout,
    ready: Prepared,
    others: OtherFaces = tuple,
    run: Run | None = None,
    embroidery: Embroidery | None = None,
    solid: MadeSolid | None = None,
) -> Proof:
    """Proof a prepared piece against all its tool sheets, or, where it has none, a plain one.

    Faces of `others` are offered for missing letters. The run, the embroidery and the part are
    looked at where they are given.
    """
    whole = Subject(layout, others, ready)
    layers = [replace(whole, layer=layer) for layer in ready.layers]
    findings = [*_of_layout(layout, others), *_look("piece", [whole])]
    findings += [*_look("layer", layers), *_look("layers", [whole])]
    sheets = layout.piece.tool_sheets or (PLAIN,)
    for sheet in sheets:
        under: list[Finding] = []
        for layer in layers:
            found = _look("sheet layer", [replace(layer, sheet=sheet)])
            if layer.layer.kind == "border":
                found = [f.model_copy(update={"key": f"{f.kind}:{layer.layer.id}"}) for f in found]
            under += found
        under += _look("sheet", [replace(whole, sheet=sheet)])
        findings += [finding.model_copy(update={"sheet": sheet.id}) for finding in under]
    if run is not None:
        findings += _look("run", [replace(whole, run=run)])
    if embroidery is not None:
        findings += _look("thread", [replace(whole, embroidery=embroidery)])
    if solid is not None:
        findings += _look("solid", [replace(whole, solid=solid)])
    held = _held(_once(findings), layout.piece.accepted)
    ranked = sorted(held, key=lambda finding: (finding.accepted, _RANK[finding.severity]))
    return Proof(ready, sheets, tuple(ranked))


def tried_remedies(layout: Layout, kind: str, lettering_id: str) -> list[Remedy]:
    """What mends a finding of a lettering, where that must be tried; that takes a while."""
    remedies = CHECKS[kind].remedies if kind in CHECKS else None
    lettering = next((one for one in layout.piece.letterings if one.id == lettering_id), None)
    if not remedies or lettering is None:
        return []
    with at_work("", f"trying what mends “{kind}”", _FEWER):
        return remedies(layout, lettering)


def _of_layout(layout: Layout, others: OtherFaces) -> list[Finding]:
    letterings = layout.piece.letterings
    return _look("lettering", [Subject(layout, others, lettering=one) for one in letterings])


def _look(stage: Stage, subjects: Iterable[Subject]) -> list[Finding]:
    """What all checks find at a stage, subject by subject."""
    found: list[Finding] = []
    for subject in subjects:
        for check in CHECKS.values():
            if stage in check.looks:
                with at_work("", f"the check “{check.kind.replace('-', ' ')}”", _FEWER):
                    found.extend(check.looks[stage](subject))
    return found


def _once(findings: list[Finding]) -> list[Finding]:
    """Nothing twice, and nothing that another finding makes needless."""
    needless = {
        (kind, finding.lettering) for finding in findings for kind in CHECKS[finding.kind].needless
    }
    # What is said of the whole piece needs not be said of its letterings.
    kept = [
        one
        for one in findings
        if (one.kind, one.lettering) not in needless and (one.kind, "") not in needless
    ]
    alike = groupby(kept, key=lambda one: (one.kind, one.lettering, one.sheet, one.message))
    return [next(same) for _, same in alike]


def _held(findings: Iterable[Finding], accepted: tuple[Accepted, ...]) -> tuple[Finding, ...]:
    """Findings with their keys; those that a person has accepted, and are no worse, are so."""
    figures = {(one.key, one.sheet): one.figure for one in reversed(accepted)}
    held: list[Finding] = []
    for finding in findings:
        key = finding.key or f"{finding.kind}:{finding.lettering}"
        was = figures.get((key, finding.sheet))
        more = 0.0 if was is None else finding.figure - was
        worse = -more if CHECKS[finding.kind].less_is_worse else more
        well = was is not None and worse <= _SAME
        held.append(finding.model_copy(update={"key": key, "accepted": well}))
    return tuple(held)

"""Passes that carve through the plate that they are to carve into."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import xy


def _look(subject: Subject) -> list[Finding]:
    solid, run = subject.layout.piece.solid, subject.going
    found: list[Finding] = []
    for one in run.passes if solid is not None else ():
        deepest = max(one.tracks, key=lambda track: track.depth, default=None)
        if solid is None or deepest is None or not one.tool.areas:
            continue
        if deepest.depth >= solid.under_face:
            found.append(
                CHECK.finding(
                    f"pass {one.number}, “{one.title}”, goes {deepest.depth:.3g} mm deep into a "
                    f"plate that is {solid.under_face:g} mm thick",
                    "Give the pass less depth, or take a pointed cutter with a wider angle.",
                    deepest.depth,
                    places=(xy(run.place.to_piece(deepest.points[:1])[0]),),
                    key=f"{CHECK.kind}:{one.number}",
                )
            )
    return found


CHECK = Check(kind="too-deep", rank=95.5, severity="fault", unit="mm", looks={"run": _look})

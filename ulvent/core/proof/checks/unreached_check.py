"""Corners into which a round cutter does not come."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.unreached import unreached
from ulvent.core.proof.where import MOST_PLACES, counted, xy


def _look(subject: Subject) -> list[Finding]:
    layer, sheet = subject.layer, subject.sheet
    if sheet.use == "lines" or sheet.cutter <= 0.0:
        return []
    rest = unreached(layer.area, sheet.cutter, "outside" if sheet.use == "kept" else "inside")
    if rest.is_empty:
        return []
    parts = sorted(rest.parts, key=lambda part: -part.area)
    return [
        CHECK.finding(
            f"a cutter of {sheet.cutter:g} mm does not reach "
            f"{counted(len(parts), 'corner')}, {rest.area:.2f} mm² in all",
            "Round the corners to the cutter's radius, or use a finer one.",
            rest.area,
            lettering=layer.owner,
            places=tuple(xy(part.rings[0][0]) for part in parts[:MOST_PLACES]),
        )
    ]


CHECK = Check(
    kind="unreached",
    rank=70,
    severity="hint",
    unit="mm²",
    looks={"sheet layer": _look},
)

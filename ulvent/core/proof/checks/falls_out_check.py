"""Parts that would fall out of the sheet though they are no letters."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.remedy import Remedy
from ulvent.core.proof.where import MOST_PLACES, counted, prepare_remedy
from ulvent.core.steps.bridge_step import Bridges

_LEAST_BRIDGE = 0.5
"""Width of a bridge that is offered, mm, where the material says nothing."""


def _look(subject: Subject) -> list[Finding]:
    layer = subject.layer
    falling = subject.stuff.loose if subject.stuff else ()
    if not falling:
        return []
    remedies: tuple[Remedy, ...] = ()
    if layer.kind != "border":
        width = max(subject.sheet.least_stroke, _LEAST_BRIDGE)
        label, bridges = f"tie them with bridges {width:g} mm wide", Bridges(width=width)
        remedies = (prepare_remedy(label, layer, subject.layout.piece, bridges=bridges),)
    return [
        CHECK.finding(
            f"{counted(len(falling), 'part')} would fall out, the largest "
            f"{falling[0].area:.1f} mm²",
            "Tie them with bridges.",
            float(len(falling)),
            lettering=layer.owner,
            remedies=remedies,
            places=tuple(part.at for part in falling[:MOST_PLACES]),
        )
    ]


CHECK = Check(
    kind="falls-out",
    rank=20,
    severity="fault",
    looks={"sheet layer": _look},
)

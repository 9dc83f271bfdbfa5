"""Letters that are lower than a tool can make them."""

from __future__ import annotations

from ulvent.core.base.tolerances import JOINT
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding


def _look(subject: Subject) -> list[Finding]:
    layer, sheet = subject.layer, subject.sheet
    low = [p for p in layer.cutouts if 0.0 < p.height < sheet.least_height - JOINT]
    if not low:
        return []
    least = min(low, key=lambda cutout: cutout.height)
    return [
        CHECK.finding(
            f"letters are {least.height:.2f} mm high; this tool needs {sheet.least_height:g} mm",
            "Make the letters higher, or choose a finer tool.",
            least.height,
            lettering=layer.owner,
            limit=sheet.least_height,
            letters=tuple(dict.fromkeys(cutout.text for cutout in low)),
            places=(least.area.some_point(),),
        )
    ]


CHECK = Check(
    kind="low-letters",
    rank=10,
    severity="warning",
    unit="mm",
    looks={"sheet layer": _look},
    less_is_worse=True,
)

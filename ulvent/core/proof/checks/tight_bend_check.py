"""A guide that bends more tightly than the letters on it can follow."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.setting import tight_stretches


def _look(subject: Subject) -> list[Finding]:
    stretches = [(one, line) for line in subject.lines for one in tight_stretches(line)]
    if not stretches:
        return []
    worst, line = min(stretches, key=lambda pair: pair[0].radius)
    return [
        CHECK.finding(
            f"the guide bends to a radius of {worst.radius:.3g} mm at station "
            f"{worst.begin:.4g}, tighter than letters {line.capital:.4g} mm high "
            "can follow",
            "Use smaller letters, stand them farther off, or ease the bend.",
            worst.radius,
            lettering=subject.words.id,
            limit=line.capital,
        )
    ]


CHECK = Check(
    kind="tight-bend",
    rank=50,
    severity="warning",
    unit="mm",
    looks={"lettering": _look},
    less_is_worse=True,
)

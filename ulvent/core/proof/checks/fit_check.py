"""A fit that has no exact answer, and the nearest one."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding


def _look(subject: Subject) -> list[Finding]:
    fitted = subject.lines[0].fitted
    # Without words there is nothing to fit, and nothing is wrong yet.
    words = subject.words.dial or subject.words.text.strip()
    if fitted is None or not fitted.note or not words:
        return []
    return [
        CHECK.finding(
            fitted.note,
            "Change the words, the guide, or the limits of the fit.",
            fitted.value,
            lettering=subject.words.id,
            unit="letters" if fitted.kind == "repeats" else "mm",
        )
    ]


CHECK = Check(
    kind="fit",
    rank=80,
    severity="fault",
    unit="mm",
    looks={"lettering": _look},
)

"""Findings on a laid-out piece.

So far: lettering that overflows its guide, characters that its face lacks, and guides
that bend more tightly than their letters can follow.
"""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict

from ulvent.core.layout import Layout
from ulvent.core.setting import Setting, tight_stretches

Severity = Literal["fault", "warning", "hint"]


class Finding(BaseModel):
    """One thing that a maker should know.

    figure, limit
        what was found and what it is held against, in `unit`
    letters
        the letters it concerns, as they are read
    """

    model_config = ConfigDict(frozen=True)

    kind: Literal["overflow", "missing-letters", "tight-bend"]
    severity: Severity
    lettering: str
    message: str
    remedy: str
    figure: float
    limit: float
    unit: Literal["mm", "letters"]
    letters: tuple[str, ...]


def prove(layout: Layout) -> list[Finding]:
    """All findings, letterings in order."""
    findings: list[Finding] = []
    for setting in layout.settings:
        findings.extend(_overflow(setting))
        findings.extend(_missing(setting))
        findings.extend(_tight(setting))
    return findings


def _overflow(setting: Setting) -> list[Finding]:
    if setting.room >= 0.0:
        return []
    letters = setting.letters_without_room()
    named = ", ".join(f"“{stretch}”" for stretch in setting.words_without_room())
    guide = "one lap of its guide" if setting.baseline.closed else "its guide"
    over = setting.overhang
    message = f"{over:.2f} mm of this lettering do not fit on {guide}"
    message += f"; no room for: {named}" if letters else ""
    too_long = setting.length > setting.baseline.length
    remedy = (
        "Make it smaller or tighter, shorten the words, or use a larger guide."
        if too_long
        else "Slide it along the guide: it is short enough to fit."
    )
    return [
        Finding(
            kind="overflow",
            severity="fault",
            lettering=setting.lettering.id,
            message=message,
            remedy=remedy,
            figure=over,
            limit=0.0,
            unit="mm",
            letters=tuple(letters),
        )
    ]


def _missing(setting: Setting) -> list[Finding]:
    if not setting.missing:
        return []
    named = ", ".join(str(character) for character in setting.missing)
    return [
        Finding(
            kind="missing-letters",
            severity="fault",
            lettering=setting.lettering.id,
            message=f"{setting.face.name} has no letter for {named}; left blank",
            remedy="Choose a face that has it, or another character.",
            figure=float(len(setting.missing)),
            limit=0.0,
            unit="letters",
            letters=tuple(character.character for character in setting.missing),
        )
    ]


def _tight(setting: Setting) -> list[Finding]:
    stretches = tight_stretches(setting)
    if not stretches:
        return []
    worst = min(stretches, key=lambda stretch: stretch.radius)
    return [
        Finding(
            kind="tight-bend",
            severity="warning",
            lettering=setting.lettering.id,
            message=(
                f"the guide bends to a radius of {worst.radius:.3g} mm at station "
                f"{worst.begin:.4g}, tighter than letters {setting.lettering.height:g} mm high "
                "can follow"
            ),
            remedy="Use smaller letters, stand them farther off, or ease the bend.",
            figure=worst.radius,
            limit=setting.lettering.height,
            unit="mm",
            letters=(),
        )
    ]

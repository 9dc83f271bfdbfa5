"""A made-up check: words that are all capitals, with a remedy."""

from __future__ import annotations

from ulvent.core.layout import Layout
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.remedy import Remedy
from ulvent.core.recipe import Lettering


def _look(subject: Subject) -> list[Finding]:
    words = subject.words
    if not words.text.isupper():
        return []
    return [CHECK.finding("these words shout", "Speak low.", len(words.text), lettering=words.id)]


def _remedies(_: Layout, lettering: Lettering) -> list[Remedy]:
    changes = {"text": lettering.text.lower()}
    return [Remedy(label="speak low", of="lettering", owner=lettering.id, changes=changes)]


CHECK = Check(
    kind="shouting", rank=90, severity="hint", looks={"lettering": _look}, remedies=_remedies
)

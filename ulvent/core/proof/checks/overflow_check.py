"""Lettering that has no room on its guide, and labels that run into each other."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.more_room import overflow_remedies
from ulvent.core.recipe import Lettering
from ulvent.core.setting import Setting
from ulvent.core.setting.letters.sequences import label_texts

_MOST_NAMED = 8
_SAID = 0.005
"""What is less than this over, mm, would be said as 0.00 mm, and harms no one."""


def _look(subject: Subject) -> list[Finding]:
    lettering = subject.words
    line = max(subject.lines, key=lambda line: line.overhang)
    if line.unplaced:
        return [_without_place(line, lettering)]
    if line.overhang < _SAID:
        return []
    if lettering.dial is not None:
        named = "letters" if lettering.dial.labels.kind == "phrase" else "labels"
        message = f"{named} run into each other by {line.overhang:.2f} mm"
        remedy = "Make them smaller, or use a larger guide."
        return [CHECK.finding(message, remedy, line.overhang, lettering=lettering.id)]
    letters = line.letters_without_room()
    remedy = (
        "Make it smaller or tighter, shorten the words, or use a larger guide."
        if line.length > line.baseline.length
        else "Slide it along the guide: it is short enough to fit."
    )
    return [
        CHECK.finding(
            _message(line, letters),
            remedy,
            line.overhang,
            lettering=lettering.id,
            letters=tuple(letters),
        )
    ]


def _without_place(line: Setting, lettering: Lettering) -> Finding:
    dial, left = lettering.dial, line.unplaced
    assert dial is not None
    texts = label_texts(dial.labels, words=lettering.text)
    things = "letters" if dial.labels.kind == "phrase" else "labels"
    held = "letters and spaces" if things == "letters" and "" in texts else things
    named = ", ".join(f"“{text}”" for text in left[:_MOST_NAMED])
    more = f" and {len(left) - _MOST_NAMED} more" if len(left) > _MOST_NAMED else ""
    return CHECK.finding(
        f"{len(texts)} {held}, {line.label_places} places: no place for {named}{more}",
        f"Give the guide more places, or have fewer {things}.",
        len(left),
        lettering=lettering.id,
        letters=left,
        unit="letters",
    )


def _message(line: Setting, letters: list[str]) -> str:
    over = line.overhang
    if line.lettering.repeat:
        return f"the repeated words are {over:.2f} mm longer than their guide"
    named = ", ".join(f"“{stretch}”" for stretch in line.words_without_room())
    guide = "one lap of its guide" if line.baseline.closed else "its guide"
    message = f"{over:.2f} mm of this lettering do not fit on {guide}"
    return message + (f"; no room for: {named}" if letters else "")


CHECK = Check(
    kind="overflow",
    rank=20,
    severity="fault",
    unit="mm",
    looks={"lettering": _look},
    remedies=overflow_remedies,
)

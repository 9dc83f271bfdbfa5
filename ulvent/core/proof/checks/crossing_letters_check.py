"""Letters that lie on each other where they stand, before anything is prepared."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.crossing_letters import crossing_letters
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import counted

_MOST_NAMED = 6
_MOST_MEASURED = 6
"""Pairs of a line: a pull waits for it."""


def _look(subject: Subject) -> list[Finding]:
    lettering, found, more_places = subject.words, [], False
    if _joined(subject):
        return []
    for line in subject.lines:
        crossings, more = crossing_letters(line, _MOST_MEASURED)
        more_places |= more
        found += [
            (area, line.clusters[one], line.clusters[two], line.poses.feet[one])
            for one, two, area in crossings
        ]
    if not found:
        return []
    found.sort(key=lambda each: -each[0])
    pairs = [one.text + two.text for _, one, two, _ in found]
    named = ", ".join(f"“{pair}”" for pair in dict.fromkeys(pairs[:_MOST_NAMED]))
    others = f" and {len(pairs) - _MOST_NAMED} more" if len(pairs) > _MOST_NAMED else ""
    places = counted(len(found), "place") + (" or more" if more_places else "")
    return [
        CHECK.finding(
            f"letters overlap at {places}, by up to {found[0][0]:.2g} mm²: {named}{others}",
            "Open the gaps there, make the letters smaller, or join them when preparing.",
            found[0][0],
            lettering=lettering.id,
            letters=tuple(pairs),
            places=tuple((float(at[0]), float(at[1])) for _, _, _, at in found[:_MOST_NAMED]),
        )
    ]


def _joined(subject: Subject) -> bool:
    """Whether what overlaps becomes one when it is prepared."""
    recipes = (subject.words.prepare, subject.layout.piece.prepare)
    return any(recipe is not None and recipe.join is not None for recipe in recipes)


CHECK = Check(
    kind="crossing-letters",
    rank=50,
    severity="warning",
    unit="mm²",
    looks={"lettering": _look},
    needless=("near-letters",),
)

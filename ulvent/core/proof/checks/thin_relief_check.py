"""Letters of a part that are thinner than what makes it holds, or a cutter reaches into.

Least walls of what is printed and cast are common practice, no source.
"""

from __future__ import annotations

from collections.abc import Iterator

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.recipe.solid import Making, Solid
from ulvent.core.solids import StandingLetter

_LEAST: dict[Making, tuple[float, str]] = {
    "printing": (0.4, "a printed wall holds from {0:g} mm on"),
    "casting": (0.6, "metal flows into {0:g} mm and more"),
}
_LOST = 0.02
"""The share of a letter that may be thinner, as corners and points are."""


def _look(subject: Subject) -> Iterator[Finding]:
    recipe = subject.part.recipe
    least, why = _least(recipe)
    by_lettering: dict[str, list[tuple[float, StandingLetter]]] = {}
    for letter in subject.part.letters:
        if letter.relief.relief == "grooved":
            continue
        opened = letter.area.offset(-least / 2.0).offset(least / 2.0)
        lost = 1.0 - opened.area / letter.area.area
        if lost > _LOST:
            by_lettering.setdefault(letter.lettering, []).append((lost, letter))
    for lettering, thin in by_lettering.items():
        worst, letter = max(thin, key=lambda one: one[0])
        yield CHECK.finding(
            f"{100.0 * worst:.0f} % of “{letter.text}” is thinner than {least:g} mm; {why}",
            "Make it larger, choose a bolder face, or another tool.",
            100.0 * worst,
            lettering=lettering if _is_there(subject, lettering) else "",
            letters=tuple(dict.fromkeys(one.text for _, one in thin if one.text)),
            places=tuple(one.area.some_point() for _, one in thin[:40]),
        )


def _least(recipe: Solid) -> tuple[float, str]:
    if recipe.making == "milling":
        return recipe.cutter, f"a cutter of {recipe.cutter:g} mm goes no further in"
    least, why = _LEAST[recipe.making]
    return least, why.format(least)


def _is_there(subject: Subject, lettering: str) -> bool:
    return any(one.id == lettering for one in subject.layout.piece.letterings)


CHECK = Check(kind="thin-relief", rank=110, severity="warning", unit="%", looks={"solid": _look})

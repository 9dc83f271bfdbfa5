"""Passes whose speed or power is nobody's own: not the pass's, and of no tool sheet."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.runs import PassRun


def _look(subject: Subject) -> list[Finding]:
    without = [one for one in subject.going.passes if one.tracks and _lacks(one)]
    if not without:
        return []
    names = ", ".join(f"“{one.title}”" for one in without)
    passes = "1 pass has" if len(without) == 1 else f"{len(without)} passes have"
    return [
        CHECK.finding(
            f"{passes} no figures of their own, only usual ones: {names}",
            "Try them on scrap, or give the pass its speed and power, or a tool sheet.",
            float(len(without)),
            key=CHECK.kind,
        )
    ]


def _lacks(one: PassRun) -> bool:
    recipe, usual = one.recipe, one.usual
    lacks_power = one.tool.way == "power" and not (recipe.power or usual.power)
    return lacks_power or not (recipe.speed or usual.speed)


CHECK = Check(kind="usual-figures", rank=97, severity="hint", unit="passes", looks={"run": _look})

"""Castings whose lettering has upright walls: it does not come out of its mould."""

from __future__ import annotations

from collections.abc import Iterator

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.remedy import Remedy

_DRAFT = 5.0
"""Degrees that patterns are given: common practice, no source."""


def _look(subject: Subject) -> Iterator[Finding]:
    recipe = subject.part.recipe
    upright = [
        one for one in subject.part.letters
        if one.relief.relief in ("raised", "sunk") and not one.relief.draft
    ]  # fmt: skip
    if recipe.making != "casting" or not upright:
        return
    leaning = recipe.model_copy(
        update={
            "relief": recipe.relief.model_copy(update={"draft": _DRAFT}),
            "letterings": tuple(
                one.model_copy(update={"draft": one.draft or _DRAFT}) for one in recipe.letterings
            ),
        }
    )
    remedy = Remedy(
        label=f"let walls lean in by {_DRAFT:g}°", of="piece", owner="",
        changes={"solid": leaning.model_dump(mode="json")},
    )  # fmt: skip
    yield CHECK.finding(
        "the walls of the lettering stand upright: it may not come out of a mould",
        "Let them lean in by a few degrees.",
        float(len(upright)),
        letters=tuple(dict.fromkeys(one.text for one in upright if one.text)),
        remedies=(remedy,),
    )


CHECK = Check(kind="no-draft", rank=113, severity="hint", looks={"solid": _look})

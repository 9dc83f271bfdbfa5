"""What is sewn and does not go into the hoop, even split between letters."""

from __future__ import annotations

from collections.abc import Iterator

from ulvent.core.base.errors import PieceError
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.recipe.sewing import Hoop
from ulvent.core.stitches.hoops import hoopings


def _look(subject: Subject) -> Iterator[Finding]:
    recipe = subject.layout.piece.sewing
    hoop: Hoop | None = recipe.hoop if recipe else None
    if hoop is None:
        return
    try:
        every = hoopings(subject.sewn, hoop)
    except PieceError as error:
        yield CHECK.finding(
            error.problems[0].reason,
            "Take a larger hoop, turn it, or make the letters smaller.",
            1.0,
            key=CHECK.kind,
        )
        return
    if len(every) > 1:
        yield CHECK.finding(
            f"it takes {len(every)} hoopings: the cloth is laid anew by the marks",
            "Take a larger hoop to sew it in one.",
            float(len(every)),
            severity="hint",
            unit="passes",
            key="several-hoopings",
        )


CHECK = Check(
    kind="outside-hoop", rank=105, severity="fault", unit="letters", looks={"thread": _look}
)

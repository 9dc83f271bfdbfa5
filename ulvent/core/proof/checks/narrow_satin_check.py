"""Satin columns that are narrower than their cloth holds: a line of thread reads better there."""

from __future__ import annotations

from collections.abc import Iterator

from ulvent.core.base.tolerances import JOINT
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.remedy import Remedy
from ulvent.core.recipe.sewing import Sewing, SewnLetter, SewnLettering
from ulvent.core.stitches.embroidery import SewnAlone


def _look(subject: Subject) -> Iterator[Finding]:
    least = subject.sewn.cloth.narrowest
    by_lettering: dict[str, list[SewnAlone]] = {}
    for one in subject.sewn.letters:
        if one.satin is not None and one.satin < least - JOINT:
            by_lettering.setdefault(one.lettering, []).append(one)
    for lettering, thin in by_lettering.items():
        worst = min(thin, key=lambda one: one.satin or 0.0)
        yield CHECK.finding(
            f"satin is only {worst.satin:.2f} mm wide; "
            f"{subject.sewn.cloth.title.lower()} needs {least:g} mm",
            "Sew these letters as a triple line, or make them larger or bolder.",
            worst.satin or 0.0,
            limit=least,
            lettering=lettering,
            letters=tuple(dict.fromkeys(one.letter for one in thin)),
            places=tuple(one.at for one in sorted(thin, key=lambda one: one.satin or 0.0)),
            remedies=tuple(_as_lines(subject, lettering, thin)),
        )


def _as_lines(subject: Subject, lettering: str, thin: list[SewnAlone]) -> Iterator[Remedy]:
    """The same letters as lines of thread."""
    piece = subject.layout.piece
    if all(one.id != lettering for one in piece.letterings):
        return
    recipe = piece.sewing or Sewing()
    wishes = {one.of: one for one in recipe.letterings}
    wish = wishes.get(lettering, SewnLettering(of=lettering))
    places = {one.place for one in thin if one.place >= 0}
    others = [one for one in wish.letters if one.place not in places]
    lines = [SewnLetter(place=place, stitch="bean") for place in sorted(places)]
    if not lines:
        return
    wishes[lettering] = wish.model_copy(update={"letters": (*others, *lines)})
    changed = recipe.model_copy(update={"letterings": tuple(wishes.values())})
    changes = {"sewing": changed.model_dump(mode="json")}
    yield Remedy(label="sew them as a triple line", of="piece", owner="", changes=changes)


CHECK = Check(
    kind="narrow-satin", rank=101, severity="warning", unit="mm", looks={"thread": _look},
    less_is_worse=True,
)  # fmt: skip

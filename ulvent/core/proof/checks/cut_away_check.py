"""Letters and marks of which cutting back leaves nothing."""

from __future__ import annotations

from ulvent.core.base.tolerances import JOINT
from ulvent.core.prepare import Layer
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import counted, named_letters
from ulvent.core.recipe import Lettering
from ulvent.core.setting import Setting
from ulvent.core.shapes import Region

_MOST_NAMED = 12


def _look(subject: Subject) -> list[Finding]:
    found: list[Finding] = []
    for lettering in subject.layout.piece.letterings:
        layer = _layer_of(lettering, subject)
        if layer is None or layer.inverse:
            continue
        gone = [
            (line, index)
            for line in subject.layout.lines_of(lettering.id)
            if not line.face.single_stroke
            for index in range(len(line.clusters))
            if line.drawn[index] and _is_gone(line, index, layer)
        ]
        if gone:
            found.append(_finding(lettering, gone))
    return found


def _layer_of(lettering: Lettering, subject: Subject) -> Layer | None:
    """The layer that a lettering ends up in, where cutting back is one of its steps."""
    whole = subject.layout.piece.prepare
    mine = lettering.prepare
    if not (mine and mine.cut_back) and not (whole and whole.cut_back):
        return None
    return subject.ready.layer_of("" if whole is not None else lettering.id)


def _is_gone(line: Setting, index: int, layer: Layer) -> bool:
    ink = Region.of(line.placed_outline(index))
    return ink.area > JOINT and ink.meet(layer.area).area <= JOINT


def _finding(lettering: Lettering, gone: list[tuple[Setting, int]]) -> Finding:
    texts = tuple(line.clusters[index].text for line, index in gone)
    marks = sum(not text for text in texts)
    letters = len(texts) - marks
    said = [counted(letters, "letter")] if letters else []
    said += [counted(marks, "mark")] if marks else []
    middles = [line.letter_corners[index].mean(axis=0) for line, index in gone]
    return CHECK.finding(
        f"cutting back leaves nothing of {' and '.join(said)}{named_letters(texts[:_MOST_NAMED])}",
        "Move the words into the shape, or leave out the step.",
        float(len(texts)),
        lettering=lettering.id,
        letters=texts,
        places=tuple((float(x), float(y)) for x, y in middles),
    )


CHECK = Check(
    kind="cut-away",
    rank=30,
    severity="fault",
    looks={"piece": _look},
)

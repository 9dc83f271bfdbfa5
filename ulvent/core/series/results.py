"""What comes of a row: the piece with its words, the figures its fits came to, what is wrong."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Any, NamedTuple

import numpy as np

from ulvent.core.guides.kinds import kind_of
from ulvent.core.guides.scaling import real_figures
from ulvent.core.recipe import Fit, Lettering, Piece
from ulvent.core.recipe.name_list import OwnOfRow
from ulvent.core.workshop import Workpiece


class LetteringFigures(NamedTuple):
    """What a lettering came to.

    height, width
        mm, and a factor
    gap
        mm added to each gap
    room
        left over, mm; less than nothing where it does not fit
    guide
        its guide with its size, in words, where its fit is of that; else empty
    """

    lettering: str
    height: float
    width: float
    gap: float
    room: float
    guide: str


@dataclass(frozen=True)
class Result:
    """What came of a row.

    faults, warnings
        in words, those that are not accepted
    kind
        of the first fault: rows with one kind are mended alike; empty where it fits
    """

    figures: tuple[LetteringFigures, ...]
    faults: tuple[str, ...]
    warnings: tuple[str, ...]
    kind: str = ""

    @property
    def fits(self) -> bool:
        return not self.faults


def result_of(work: Workpiece) -> Result:
    """What came of a piece.

    Raises
    ------
    PieceError
        As laying it out, preparing it and its proof do.
    """
    findings = [one for one in work.proof.findings if not one.accepted]
    faults = [one for one in findings if one.severity == "fault"]
    return Result(
        tuple(_figures(work)),
        tuple(one.message for one in faults),
        tuple(one.message for one in findings if one.severity == "warning"),
        faults[0].kind if faults else "",
    )


def _figures(work: Workpiece) -> Iterable[LetteringFigures]:
    for lettering in work.solved.letterings:
        lines = work.layout.lines_of(lettering.id)
        room = min((float(line.room) for line in lines), default=0.0)
        yield LetteringFigures(
            lettering.id,
            round(lettering.height, 4),
            round(lettering.width, 4),
            round(lettering.tracking, 4),
            round(room, 4) if np.isfinite(room) else 0.0,
            _fitted_guide(work, lettering),
        )


def _fitted_guide(work: Workpiece, lettering: Lettering) -> str:
    if lettering.fit is None or lettering.fit.kind != "guide":
        return ""
    recipe = work.layout.guide(lettering.guide).recipe
    return kind_of(recipe).words(real_figures(recipe))


def one_height(
    pattern: Piece, pieces: Iterable[Piece], solved: Callable[[Piece], Piece]
) -> dict[str, float]:
    """The height with which all rows fit, of each lettering whose height is fitted: the least one.

    solved
        gives a piece with the figures that its fits come to
    """
    fitted = {one.id for one in pattern.letterings if one.fit and one.fit.kind == "height"}
    return least_heights(
        {one.id: one.height for one in solved(piece).letterings if one.id in fitted}
        for piece in (pieces if fitted else ())
    )


def least_heights(found: Iterable[Mapping[str, float]]) -> dict[str, float]:
    """The least height of each lettering in any row, mm."""
    least: dict[str, float] = {}
    for heights in found:
        for name, height in heights.items():
            least[name] = min(height, least.get(name, height))
    return least


def heights_that_fit(work: Workpiece, made: Callable[[Piece], Workpiece]) -> dict[str, float]:
    """Smaller heights with which the letterings have room that have none, mm, by their ids.

    Rounded down to hundredths. Empty where all have room, or where no height gives it.

    made
        gives the workpiece of a piece
    """
    tight = {one.lettering for one in _figures(work) if one.room < 0.0}
    letterings = tuple(
        one.model_copy(update={"fit": Fit(kind="height", most=one.height)})
        if one.id in tight
        else one
        for one in work.solved.letterings
    )
    solved = made(work.piece.model_copy(update={"letterings": letterings})).solved
    heights = {
        one.id: math.floor(100.0 * one.height) / 100.0
        for one in solved.letterings
        if one.id in tight
    }
    if not all(height > 0.0 for height in heights.values()):
        return {}
    smaller = with_own(work.piece, OwnOfRow(heights=heights))
    rooms = [one.room for one in _figures(made(smaller))]
    return heights if all(room >= 0.0 for room in rooms) else {}


def with_own(piece: Piece, own: OwnOfRow) -> Piece:
    """A piece whose letterings have what a row has for itself: heights in place of fits, and
    letters changed by hand."""

    def changed(one: Lettering) -> Lettering:
        new: dict[str, Any] = {}
        if one.id in own.heights:
            new |= {"height": own.heights[one.id], "fit": None}
        if one.id in own.hand:
            by_hand = own.hand[one.id]
            new |= {"hand": by_hand.letters, "hand_words": by_hand.words}
        return one.model_copy(update=new) if new else one

    return piece.model_copy(update={"letterings": tuple(map(changed, piece.letterings))})

"""Columns of a letter set by hand: seen as lines across them, and pulled at their ends."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal, NamedTuple

import numpy as np

from ulvent.core.base.arrays import Point
from ulvent.core.base.errors import wrong_field
from ulvent.core.layout import Layout
from ulvent.core.prepare import Group
from ulvent.core.recipe.sewing import Correction, Rung, Sewing
from ulvent.core.stitches.column import Column
from ulvent.core.stitches.corrected_column import corrected, scaled
from ulvent.core.stitches.embroidery import Letter, letters_of
from ulvent.core.stitches.letter_threads import letter_columns

_APART = 1.5
"""Widths of a column that the lines across it stand apart to begin with."""
_MOST, _LEAST = 9, 2

Does = Literal["pull", "remove line", "remove column", "as found"]
Lines = list[list[tuple[Point, Point]]]


class Corrected(NamedTuple):
    """The columns of a letter.

    columns
        lines across each, mm on the sheet
    by_hand
        whether someone has set them
    """

    face: str
    letter: str
    columns: Lines
    by_hand: bool


def columns_seen(layout: Layout, groups: Sequence[Group], lettering: str, place: int) -> Corrected:
    """The columns of a letter of a lettering, as lines across them.

    Raises
    ------
    PieceError
        Where there is no such letter, or it is not as its face has it.
    """
    one = _letter(layout, groups, lettering, place)
    known = _known(one)
    placed = [[_placed(one, rung) for rung in column] for column in known or _found(one)]
    return Corrected(one.face, one.letter, placed, bool(known))


def set_by_hand(
    layout: Layout,
    groups: Sequence[Group],
    lettering: str,
    place: int,
    does: Does,
    column: int = 0,
    line: int = 0,
    side: int = 0,
    at: Point = (0.0, 0.0),
) -> Sewing:
    """How the piece is sewn after a line across a column was pulled, or was taken away.

    Raises
    ------
    PieceError
        Where there is no such line, or what is left is no column.
    """
    one = _letter(layout, groups, lettering, place)
    columns = [list(some) for some in (_known(one) or _found(one))]
    recipe = layout.piece.sewing or Sewing()
    others = [
        known for known in recipe.corrections
        if (known.face, known.letter) != (one.face, one.letter)
    ]  # fmt: skip
    if does == "as found":
        return recipe.model_copy(update={"corrections": tuple(others)})
    _done(one, columns, does, column, line, side, at)
    if not columns:
        raise wrong_field("column", "a letter keeps at least one column")
    made = Correction(
        face=one.face, letter=one.letter, columns=tuple(tuple(some) for some in columns)
    )
    return recipe.model_copy(update={"corrections": (*others, made)})


def _done(
    one: Letter,
    columns: list[list[Rung]],
    does: Does,
    column: int,
    line: int,
    side: int,
    at: Point,
) -> None:
    """Does something to a line across a column."""
    if not 0 <= column < len(columns) or not 0 <= line < len(columns[column]):
        raise wrong_field("column", "there is no such line across a column")
    if does == "remove column":
        del columns[column]
        return
    if does == "remove line":
        del columns[column][line]
        if len(columns[column]) < _LEAST:
            raise wrong_field("line", "a column keeps at least its two ends")
    else:
        ends = [*columns[column][line]]
        ends[side] = _in_heights(one, at)
        columns[column][line] = (ends[0], ends[1])
    if not _holds(one, columns[column]):
        raise wrong_field("at", "the lines would leave the letter")


def _letter(layout: Layout, groups: Sequence[Group], lettering: str, place: int) -> Letter:
    found = next(
        (one for one in letters_of(layout, groups)
         if (one.lettering, one.item.place) == (lettering, place)), None,
    )  # fmt: skip
    if found is None:
        raise wrong_field("place", "there is no such letter")
    if not found.item.height or not found.face:
        reason = "letters that are bent, or worked on, have no columns of their own to set"
        raise wrong_field("place", reason)
    return found


def _known(one: Letter) -> list[list[Rung]]:
    """The columns as they were set, in heights of a capital."""
    return [list(scaled(column, 1.0 / one.item.height)) for column in one.how.corrected]


def _found(one: Letter) -> list[list[Rung]]:
    """The columns that were found, as few lines across each."""
    return [_few(column, one.item.height) for column in letter_columns(one.item.shape, one.how)]


def _few(column: Column, height: float) -> list[Rung]:
    along = np.hypot(*np.diff(column.middles, axis=0).T).sum()
    width = max(column.width, 1e-3)
    count = int(np.clip(round(along / (_APART * width)) + 1, _LEAST + column.closed, _MOST))
    places = np.linspace(0, len(column.axis) - 1, count).round().astype(int)
    return [
        ((float(a[0]), float(a[1])), (float(b[0]), float(b[1])))
        for a, b in zip(column.left[places] / height, column.right[places] / height, strict=True)
    ]


def _placed(one: Letter, rung: Rung) -> tuple[Point, Point]:
    matrix, height = one.item.matrix, one.item.height
    ends = (np.array(rung) * height) @ matrix[:, :2].T + matrix[:, 2]
    (x0, y0), (x1, y1) = ends.tolist()
    return (x0, y0), (x1, y1)


def _in_heights(one: Letter, at: Point) -> tuple[float, float]:
    matrix = one.item.matrix
    local = np.linalg.solve(matrix[:, :2], np.array(at) - matrix[:, 2])
    x, y = (local / one.item.height).tolist()
    return x, y


def _holds(one: Letter, rungs: Sequence[Rung]) -> bool:
    lines = scaled(rungs, one.item.height)
    return any(corrected(lines, part) is not None for part in one.item.shape.area.parts)

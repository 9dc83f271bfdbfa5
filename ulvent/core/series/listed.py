"""A piece's own list, matched to its fields: which of its rows are made, and with what."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import cached_property

from ulvent.core.recipe import Piece
from ulvent.core.recipe.name_list import NameList
from ulvent.core.series.matched import Matched, matched, matched_head
from ulvent.core.series.pattern import Pattern
from ulvent.core.series.row_making import Series


class Listed:
    """The list of a piece.

    Rows are told by their place in the recipe, from 0; their numbers are counted from 1, without
    a head that was found in the first of them: `first` is the place of number 1.

    Raises
    ------
    PieceError
        Where fields, columns or rows do not go together, or rows lie apart.
    """

    def __init__(self, piece: Piece) -> None:
        self.recipe = piece.names or NameList()
        self.all_rows = self.recipe.whole
        self.pattern = Pattern(piece.model_copy(update={"names": None}))
        table = [list(row.cells) for row in self.all_rows]
        # A head that names none of the fields any more is none: columns go by their order.
        headed = matched_head(self.recipe.head, self.pattern.fields)
        if headed:
            table.insert(0, list(self.recipe.head))
        self.list: Matched = matched(table, self.pattern.fields)
        self.first = 1 if self.list.head and not headed else 0

    def number(self, index: int) -> int:
        return index + 1 - self.first

    def index(self, number: int) -> int:
        return number - 1 + self.first

    @cached_property
    def rows(self) -> list[int]:
        """The rows that are made: those that say something and are not left out."""
        said = (self.index(number) for number, _ in self.list.rows)
        return [index for index in said if not self.all_rows[index].left_out]

    def pieces(self) -> Iterator[Piece]:
        """Those of all rows that are made, before they have one height."""
        series = Series(self.pattern, self.list.columns)
        return (series.piece(self.all_rows[index].cells) for index in self.rows)

    def series(self, index: int, heights: Mapping[str, float]) -> Series:
        """What a row is made with: heights that all rows have, and then its own."""
        return Series(self.pattern, self.list.columns, self.all_rows[index].on(heights))

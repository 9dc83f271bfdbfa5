"""The list of a piece that is made again and again: rows that fill its fields."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ulvent.core.base.fields import Identifier, Model, Size, Text

MOST_ROWS = 2000
MOST_CELLS = 20
MOST_TIMES = 1000
_Cell = Annotated[Text, Field(max_length=500)]


class NameRow(Model):
    """A row of the list.

    cells
        as they were typed
    left_out
        whether it is not made
    heights
        of letterings, in this row alone, mm, by their ids
    times
        how often it lies on sheets
    """

    cells: Annotated[tuple[_Cell, ...], Field(max_length=MOST_CELLS)]
    left_out: bool = False
    heights: dict[Identifier, Size] = Field(default_factory=dict)
    times: Annotated[int, Field(ge=1, le=MOST_TIMES)] = 1


class NameList(Model):
    """Rows that fill the fields of a piece.

    head
        names of the columns; none: they fill the fields in their order
    one_height
        whether letterings whose height is fitted have one height in all rows
    """

    head: Annotated[tuple[_Cell, ...], Field(max_length=MOST_CELLS)] = ()
    rows: Annotated[tuple[NameRow, ...], Field(max_length=MOST_ROWS)] = ()
    one_height: bool = False

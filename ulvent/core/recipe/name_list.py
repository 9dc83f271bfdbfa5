"""The list of a piece that is made again and again: rows that fill its fields.

A long list would be sent and kept anew with every change of its piece. Whoever keeps pieces lays
its rows apart, in leaves that are named by what they hold; a change of a row is one new leaf.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterator, Mapping, Sequence
from itertools import groupby
from typing import Annotated, Any

from pydantic import Discriminator, Field, Tag, TypeAdapter, model_validator

from ulvent.core.base.errors import wrong_field
from ulvent.core.base.fields import LENGTH, Identifier, Model, Size, Text, WrongRecipeError
from ulvent.core.guides.scaling import scaled_lengths
from ulvent.core.recipe.lettering import MOST_LETTERS, Nudge

MOST_ROWS = 50_000
LEAF_ROWS = 500
"""Rows of a leaf at most; a list of no more lies in its piece."""
MOST_CELLS = 20
MOST_TIMES = 1000
_Cell = Annotated[Text, Field(max_length=500)]


class Handwork(Model):
    """What was done by hand to letters of a lettering, and the words that it was done to."""

    letters: Annotated[tuple[Nudge, ...], Field(max_length=MOST_LETTERS)] = ()
    words: Annotated[Text, Field(max_length=MOST_LETTERS)] = ""


class OwnOfRow(Model):
    """What a row has for itself, whatever its piece says.

    heights
        of letterings, mm, by their ids
    hand
        what was done to letters by hand, by their letterings' ids: in place of what the piece has
    """

    heights: dict[Identifier, Size] = Field(default_factory=dict)
    hand: dict[Identifier, Handwork] = Field(default_factory=dict)

    def on(self, heights: Mapping[str, float]) -> OwnOfRow:
        """The same, and heights that all rows have, but where there is one of its own."""
        return OwnOfRow(heights={**heights, **self.heights}, hand=self.hand)


class NameRow(OwnOfRow):
    """A row of the list.

    cells
        as they were typed
    left_out
        whether it is not made
    times
        how often it lies on sheets
    """

    cells: Annotated[tuple[_Cell, ...], Field(max_length=MOST_CELLS)]
    left_out: bool = False
    times: Annotated[int, Field(ge=1, le=MOST_TIMES)] = 1


class NameLeaf(Model):
    """Rows that lie apart.

    leaf
        the SHA-256 of their text
    count
        how many they are
    unit
        mm in which the lengths of its rows are: what is scaled with its piece is not rewritten
    """

    leaf: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    count: Annotated[int, Field(ge=1, le=LEAF_ROWS)]
    unit: Annotated[float, Field(gt=0.0, le=1e6, allow_inf_nan=False), LENGTH] = 1.0


PARTS = ("rows here", "rows apart")


def _part(value: Any) -> str:
    apart = isinstance(value, NameLeaf) or (isinstance(value, Mapping) and "leaf" in value)
    return PARTS[apart]


_Part = Annotated[
    Annotated[NameRow, Tag(PARTS[0])] | Annotated[NameLeaf, Tag(PARTS[1])], Discriminator(_part)
]


class NameList(Model):
    """Rows that fill the fields of a piece.

    head
        names of the columns; none: they fill the fields in their order
    rows
        in their order, each here or in a leaf
    one_height
        whether letterings whose height is fitted have one height in all rows
    """

    head: Annotated[tuple[_Cell, ...], Field(max_length=MOST_CELLS)] = ()
    rows: Annotated[tuple[_Part, ...], Field(max_length=MOST_ROWS)] = ()
    one_height: bool = False

    @model_validator(mode="after")
    def _not_too_long(self) -> NameList:
        if self.count > MOST_ROWS:
            raise WrongRecipeError("rows", f"are {self.count}; a piece has {MOST_ROWS} at most")
        return self

    @property
    def count(self) -> int:
        return sum(one.count if isinstance(one, NameLeaf) else 1 for one in self.rows)

    @property
    def leaves(self) -> tuple[NameLeaf, ...]:
        return tuple(one for one in self.rows if isinstance(one, NameLeaf))

    @property
    def whole(self) -> tuple[NameRow, ...]:
        """All rows.

        Raises
        ------
        PieceError
            Where some of them lie apart.
        """
        here = tuple(one for one in self.rows if isinstance(one, NameRow))
        if len(here) < len(self.rows):
            raise wrong_field("names.rows", "lie apart from the piece: take its file instead")
        return here


def text_of(rows: Sequence[NameRow]) -> str:
    """Rows as a leaf holds them: the same text for the same rows."""
    plain = [one.model_dump(mode="json", exclude_defaults=True) for one in rows]
    return json.dumps(plain, ensure_ascii=False, separators=(",", ":"), sort_keys=True)


def leaf_of(text: str) -> str:
    """The name of the leaf that holds a text."""
    return hashlib.sha256(text.encode()).hexdigest()


def rows_of(leaf: NameLeaf, text: str) -> tuple[NameRow, ...]:
    """The rows of a leaf, by its text."""
    rows = _ROWS.validate_json(text)
    if leaf.unit == 1.0:
        return rows
    return tuple(scaled_lengths(row, leaf.unit) for row in rows)


def laid_apart(names: NameList) -> tuple[NameList, dict[str, str]]:
    """A list whose rows all lie apart, and the texts of the leaves that are new by their names.

    A list that is not long, and lies in its piece, is left there.
    """
    if names.count <= LEAF_ROWS and not names.leaves:
        return names, {}
    texts: dict[str, str] = {}

    def parts() -> Iterator[NameLeaf]:
        for _, some in groupby(names.rows, type):
            run = tuple(some)
            yield from (one for one in run if isinstance(one, NameLeaf))
            for rows in _shared_out([one for one in run if isinstance(one, NameRow)]):
                text = text_of(rows)
                name = leaf_of(text)
                texts[name] = text
                yield NameLeaf(leaf=name, count=len(rows))

    return names.model_copy(update={"rows": tuple(parts())}), texts


def put_together(names: NameList, texts: Mapping[str, str]) -> NameList:
    """The list with all its rows, by the texts of its leaves.

    Raises
    ------
    PieceError
        Where a leaf does not hold as many as it is said to.
    """

    def rows() -> Iterator[NameRow]:
        for one in names.rows:
            if isinstance(one, NameLeaf):
                found = rows_of(one, texts[one.leaf])
                if len(found) != one.count:
                    raise wrong_field("names.rows", f"{one.count} lie apart as {len(found)}")
                yield from found
            else:
                yield one

    return names.model_copy(update={"rows": tuple(rows())}) if names.leaves else names


def _shared_out(rows: Sequence[NameRow]) -> list[Sequence[NameRow]]:
    """Rows in leaves that are about as full as each other."""
    leaves = max(-(-len(rows) // LEAF_ROWS), 1)
    ends = [len(rows) * k // leaves for k in range(leaves + 1)]
    return [rows[begin:end] for begin, end in zip(ends, ends[1:], strict=False) if begin < end]


_ROWS = TypeAdapter(tuple[NameRow, ...])

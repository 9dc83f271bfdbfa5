"""What is computed for a batch, in a worker of the crew: one row, one nesting, one sheet."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Sequence
from dataclasses import asdict, dataclass, field
from functools import lru_cache
from typing import Any, NamedTuple

import numpy as np

from ulvent.bench import Bench
from ulvent.bench.which_program import program
from ulvent.core.recipe import parse_piece
from ulvent.core.recipe.name_list import OwnOfRow
from ulvent.core.series import Pattern, one_height
from ulvent.core.series.nested_sheets import Sheet
from ulvent.core.series.row_making import Series
from ulvent.core.shapes import Region
from ulvent.core.workshop import document_hash
from ulvent.formats.row_files import LyingRow, Wanted, nested_rows, row_file, sheet_file
from ulvent.store.batch_records import LaidSheet


def wanted_of(plain: dict[str, Any]) -> Wanted:
    """What is wanted of a batch, from plain data; `plain_wanted` is the other way."""
    sheet = plain.get("sheet")
    return Wanted(**{**plain, "sheet": Sheet(**sheet) if sheet else None})


def plain_wanted(wanted: Wanted) -> dict[str, Any]:
    return {**asdict(wanted), "sheet": wanted.sheet._asdict() if wanted.sheet else None}


@dataclass(frozen=True)
class Rows:
    """What the rows of a batch have in common, as it is handed to whoever makes one.

    document
        the pattern's, as JSON
    heights
        of letterings that have one height in all rows, mm
    """

    document: str
    columns: tuple[str, ...]
    wanted: Wanted
    heights: dict[str, float] = field(default_factory=dict)

    def series(self, own: OwnOfRow) -> Series:
        """What a row is made with that has this for itself."""
        return Series(_pattern(self.document), self.columns, own.on(self.heights))

    def key(self, cells: Sequence[str], own: OwnOfRow) -> str:
        """What a row is made from: rows with one key are alike, to the last byte.

        Raises
        ------
        PieceError
            As `Series.piece` does.
        """
        what = "outline" if self.wanted.sheet is not None else self.wanted.format
        made_from = (
            document_hash(self.series(own).piece(cells)), what, self.wanted.anyway, program()
        )  # fmt: skip
        return hashlib.sha256(repr(made_from).encode()).hexdigest()


@lru_cache(4)
def _pattern(document: str) -> Pattern:
    return Pattern(parse_piece(json.loads(document)))


class Made(NamedTuple):
    """What came of a row.

    data
        its file; where sheets are wanted its outline, as `_outline_data` writes it
    """

    title: str
    fits: bool
    reason: str
    data: bytes


def make_row(bench: Bench, rows: Rows, cells: Sequence[str], own: OwnOfRow) -> Made:
    """A row fitted, prepared, proofed and written."""
    found = row_file(rows.series(own), bench.workshop, rows.wanted, 0, cells)
    made = found.row
    data = found.data if found.outline is None else _outline_data(found.outline)
    return Made(made.title, made.fits, made.reason, data)


def measure_row(bench: Bench, rows: Rows, cells: Sequence[str]) -> dict[str, float]:
    """The heights that fit a row, of letterings whose height is fitted."""
    piece = rows.series(OwnOfRow()).piece(cells)
    solved = bench.workshop.in_passing
    return one_height(_pattern(rows.document).piece, [piece], lambda one: solved(one).solved)


def nest(
    _bench: Bench, sheet: Sheet, numbers: Sequence[int], outlines: Sequence[bytes]
) -> tuple[list[LaidSheet], dict[str, float]]:
    """Rows laid on sheets by their outlines, and what there is to say of them."""
    found = nested_rows([_region(one) for one in outlines], numbers, sheet)
    lying: list[list[Any]] = [[] for _ in found.sizes]
    for number, placed in zip(numbers, found.placed, strict=True):
        lying[placed.sheet].append([number, placed.matrix.tolist()])
    said = {"offcuts": found.offcuts, "least": found.least, "filled": found.filled}
    return [*map(LaidSheet, found.sizes, lying)], said


def write_sheet(
    bench: Bench,
    rows: Rows,
    sheet: LaidSheet,
    lines: dict[int, tuple[Sequence[str], OwnOfRow]],
) -> bytes:
    """A sheet with the rows that lie on it, by their numbers."""
    lying = [
        LyingRow(rows.series(lines[number][1]), number, lines[number][0], np.array(matrix))
        for number, matrix in sheet.lie
    ]
    return sheet_file(bench.workshop, rows.wanted, sheet.size, lying)


def _outline_data(rings: Sequence[Any]) -> bytes:
    return json.dumps([ring.tolist() for ring in rings]).encode()


def _region(data: bytes) -> Region:
    return Region.of_rings([np.array(ring) for ring in json.loads(data)])

"""A batch begun: a piece's own list, or the piece as it stands, held against what is wanted."""

from __future__ import annotations

from uuid import UUID

from ulvent.batches.row_tasks import plain_wanted
from ulvent.core.base.errors import wrong_field
from ulvent.core.recipe import Piece
from ulvent.core.series.listed import Listed
from ulvent.formats.row_files import SHEET_FORMATS, Wanted, named_alike
from ulvent.store.batch_records import Batches, Line

MOST_PARTS = 20_000
"""That are nested at once."""


def begin_batch(batches: Batches, piece_id: UUID, piece: Piece, wanted: Wanted) -> UUID:
    """Have a piece's list made.

    Raises
    ------
    PieceError
        As `Listed` does, and where what is wanted cannot be made of it.
    """
    listed = Listed(piece)
    rows = [(listed.number(index), listed.recipe.rows[index]) for index in listed.rows]
    if not rows:
        raise wrong_field("names.rows", "there is no row to make")
    if wanted.sheet is not None and wanted.format not in SHEET_FORMATS:
        raise wrong_field("format", f"sheets are written as {' or '.join(SHEET_FORMATS)}")
    if wanted.sheet is None:
        alike = named_alike(wanted, [(number, row.cells) for number, row in rows])
        if alike:
            raise wrong_field("name", alike)
    parts = sum(row.times for _, row in rows)
    if wanted.sheet is not None and parts > MOST_PARTS:
        raise wrong_field(
            "names.rows", f"come to {parts} parts on sheets; {MOST_PARTS} can be nested"
        )
    lines = [Line(number, row.cells, dict(row.heights), row.times) for number, row in rows]
    document = listed.pattern.piece.model_dump(mode="json")
    return batches.begin(
        piece_id, piece.title, document, listed.list.columns, plain_wanted(wanted), lines,
        listed.recipe.one_height,
    )  # fmt: skip


def begin_alone(batches: Batches, piece_id: UUID, piece: Piece, file: str) -> UUID:
    """Have one file of a piece made as it stands, as `every_file` has it, and with its faults: who
    takes it away is told of them."""
    document = piece.model_copy(update={"names": None}).model_dump(mode="json")
    wanted = plain_wanted(Wanted(file, "{words}", anyway=True))
    return batches.begin(piece_id, piece.title, document, (), wanted, [Line(1, (), {})], False)

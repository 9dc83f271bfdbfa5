"""What a batch is begun with: a piece's own list, or the piece as it stands, held against what is
wanted."""

from __future__ import annotations

from ulvent.batches.row_tasks import plain_wanted
from ulvent.core.base.errors import wrong_field
from ulvent.core.recipe import Piece
from ulvent.core.recipe.name_list import OwnOfRow
from ulvent.core.series.listed import Listed
from ulvent.formats.row_files import Wanted, refuse_unmakeable
from ulvent.store.batch_records import Line, Order, lines_text


def order_of(piece: Piece, wanted: Wanted) -> Order:
    """A piece's list, to be made.

    Raises
    ------
    PieceError
        As `Listed` does, and where what is wanted cannot be made of it.
    """
    listed = Listed(piece)
    rows = [(listed.number(index), listed.all_rows[index]) for index in listed.rows]
    if not rows:
        raise wrong_field("names.rows", "there is no row to make")
    said = [(number, row.cells) for number, row in rows]
    refuse_unmakeable(wanted, said, sum(row.times for _, row in rows))
    lines = [Line(number, row.cells, row, row.times) for number, row in rows]
    return Order(
        piece.title,
        listed.pattern.piece.model_dump(mode="json"),
        listed.list.columns,
        plain_wanted(wanted),
        lines_text(lines),
        listed.recipe.one_height,
    )


def order_alone(piece: Piece, file: str) -> Order:
    """One file of a piece as it stands, as `every_file` has it, and with its faults: who takes it
    away is told of them."""
    document = piece.model_copy(update={"names": None}).model_dump(mode="json")
    wanted = plain_wanted(Wanted(file, "{words}", anyway=True))
    return Order(piece.title, document, (), wanted, lines_text([Line(1, (), OwnOfRow())]), False)

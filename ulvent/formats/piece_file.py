"""The piece file, `NAME.ulvent.json`: UTF-8 JSON of one piece."""

from __future__ import annotations

import json

from ulvent.core.recipe import Piece, parse_piece
from ulvent.formats.json_file import read_json

ENDING = ".ulvent.json"


def read_piece(data: bytes) -> Piece:
    """The piece in a file's bytes.

    Raises
    ------
    PieceError
        Naming the place in the text that is not JSON, or every field that is wrong.
    """
    return parse_piece(read_json(data))


def write_piece(piece: Piece) -> bytes:
    """A piece as the bytes of its file: every field, in the models' order.

    Rows of its list are a line each, and say only what is not as usual: there may be 50,000.
    """
    names = piece.names
    rows = names.whole if names else ()
    if names:
        piece = piece.model_copy(update={"names": names.model_copy(update={"rows": ()})})
    document = piece.model_dump(mode="json", exclude_none=True)
    if rows:
        document["names"]["rows"] = [_ROWS]
    text = json.dumps(document, indent=2, ensure_ascii=False)
    lines = ",\n      ".join(
        json.dumps(row.model_dump(mode="json", exclude_defaults=True), ensure_ascii=False)
        for row in rows
    )
    return (text.replace(json.dumps(_ROWS), lines) + "\n").encode("utf-8")


_ROWS = "\0rows"
"""Stands for the rows of a list until they are written: no text of a piece holds a NUL."""

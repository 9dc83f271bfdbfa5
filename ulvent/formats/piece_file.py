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
    """A piece as the bytes of its file: every field, in the models' order."""
    document = piece.model_dump(mode="json", exclude_none=True)
    return (json.dumps(document, indent=2, ensure_ascii=False) + "\n").encode("utf-8")

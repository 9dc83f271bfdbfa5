"""The piece file, `NAME.ulvent.json`: UTF-8 JSON of one piece."""

from __future__ import annotations

import json
from typing import Any

from ulvent.core.errors import FieldProblem, PieceError
from ulvent.core.piece import Piece, parse_piece

ENDING = ".ulvent.json"
LARGEST = 4_000_000
"""Bytes of the largest piece file that is read."""


def read_piece(data: bytes) -> Piece:
    """The piece in a file's bytes.

    Raises
    ------
    PieceError
        Naming the place in the text that is not JSON, or every field that is wrong.
    """
    if len(data) > LARGEST:
        raise PieceError([FieldProblem("", f"the file is larger than {LARGEST} bytes")])
    try:
        document = json.loads(data.decode("utf-8-sig"), parse_constant=_refuse_constant)
    except UnicodeDecodeError as error:
        raise PieceError([FieldProblem("", f"not UTF-8 text at byte {error.start + 1}")]) from error
    except json.JSONDecodeError as error:
        where = f"line {error.lineno}, column {error.colno}"
        raise PieceError([FieldProblem("", f"not JSON at {where}: {error.msg}")]) from error
    except RecursionError as error:
        raise PieceError([FieldProblem("", "nested too deeply")]) from error
    except ValueError as error:
        raise PieceError([FieldProblem("", str(error))]) from error
    return parse_piece(document)


def write_piece(piece: Piece) -> bytes:
    """A piece as the bytes of its file: every field, in the models' order."""
    document = piece.model_dump(mode="json", exclude_none=True)
    return (json.dumps(document, indent=2, ensure_ascii=False) + "\n").encode("utf-8")


def _refuse_constant(name: str) -> Any:
    raise ValueError(f"{name} is not a number in JSON")

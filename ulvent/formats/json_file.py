"""JSON from a file that is not trusted: what is wrong is said with its place."""

from __future__ import annotations

import json
from typing import Any

from ulvent.core.base.errors import FieldProblem, PieceError

LARGEST = 10_000_000
"""Bytes of the largest file that is read: a piece with any list that is read from a table."""


def read_json(data: bytes) -> Any:
    """The JSON in a file's bytes.

    Raises
    ------
    PieceError
        Naming the place in the text that is not JSON.
    """
    if len(data) > LARGEST:
        raise PieceError([FieldProblem("", f"the file is larger than {LARGEST} bytes")])
    try:
        return json.loads(data.decode("utf-8-sig"), parse_constant=_refuse_constant)
    except UnicodeDecodeError as error:
        raise PieceError([FieldProblem("", f"not UTF-8 text at byte {error.start + 1}")]) from error
    except json.JSONDecodeError as error:
        where = f"line {error.lineno}, column {error.colno}"
        raise PieceError([FieldProblem("", f"not JSON at {where}: {error.msg}")]) from error
    except RecursionError as error:
        raise PieceError([FieldProblem("", "nested too deeply")]) from error
    except ValueError as error:
        raise PieceError([FieldProblem("", str(error))]) from error


def _refuse_constant(name: str) -> Any:
    raise ValueError(f"{name} is not a number in JSON")

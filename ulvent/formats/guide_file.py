"""A guide as a file, `NAME.ulvent-guide.json`: its name and its recipe, UTF-8 JSON."""

from __future__ import annotations

import json

from ulvent.core.base.errors import FieldProblem, PieceError
from ulvent.core.guides.kinds import AnyGuide
from ulvent.core.recipe import VERSION, parse_guide
from ulvent.formats.json_file import read_json

ENDING = ".ulvent-guide.json"


def read_guide(data: bytes) -> tuple[str, AnyGuide]:
    """The name and the recipe in a guide file's bytes.

    Raises
    ------
    PieceError
        Naming the place in the text that is not JSON, or every field that is wrong.
    """
    document = read_json(data)
    if not isinstance(document, dict) or document.get("ulvent-guide") != VERSION:
        raise PieceError(
            [FieldProblem("ulvent-guide", f"must be {VERSION}: is this a guide file?")]
        )
    name = document.get("name")
    if not isinstance(name, str) or not name.strip():
        raise PieceError([FieldProblem("name", "is missing")])
    return name, parse_guide(document.get("guide"))


def write_guide(name: str, guide: AnyGuide) -> bytes:
    """A guide as the bytes of its file."""
    document = {
        "ulvent-guide": VERSION,
        "name": name,
        "guide": guide.model_dump(mode="json", exclude_none=True),
    }
    return (json.dumps(document, indent=2, ensure_ascii=False) + "\n").encode("utf-8")

"""A pasted table of a dial's labels: one a line, the place first and then the words.

    0      N
    22.5°  NNE
    45     NE

Place and words stand apart by a tab, a semicolon, or spaces; a line of words alone has
no place, and then none may have one.
"""

from __future__ import annotations

import re

from ulvent.core.base.errors import wrong_field
from ulvent.core.recipe import LONGEST_LABEL, MOST_LABELS, Dial, Lettering, Names

_LINE = re.compile(r"^\s*([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+))\s*(°|mm)?(?:\s*[\t;]\s*|\s+|$)(.*)$")


def pasted_labels(lettering: Lettering, table: str) -> Lettering:
    """The lettering with its dial's labels and places from a table.

    Raises
    ------
    PieceError
        Naming the line that cannot be read.
    """
    dial = lettering.dial
    if dial is None:
        raise wrong_field("dial", "is missing: this lettering is no dial")
    lines = [line for line in table.splitlines() if line.strip()]
    if not lines:
        raise wrong_field("table", "is empty")
    if len(lines) > MOST_LABELS:
        raise wrong_field("table", f"has {len(lines)} lines; at most {MOST_LABELS}")
    rows = [_LINE.match(line) for line in lines]
    placed = [row is not None for row in rows]
    if not any(placed):
        return _with(lettering, dial, tuple(line.strip() for line in lines), (), "degrees")
    places: list[float] = []
    words: list[str] = []
    units: set[str] = set()
    for number, row in enumerate(rows, start=1):
        if row is None:
            raise wrong_field(f"table line {number}", "has no place before its words")
        figure, unit, text = row.groups()
        places.append(float(figure.replace(",", ".")))
        words.append(text.strip() or figure)
        units.add(unit or "")
    if {"°", "mm"} <= units:
        raise wrong_field("table", "has places in degrees and in mm")
    return _with(lettering, dial, tuple(words), tuple(places), "mm" if "mm" in units else "degrees")


def _with(
    lettering: Lettering, dial: Dial, words: tuple[str, ...], places: tuple[float, ...], unit: str
) -> Lettering:
    for number, text in enumerate(words, start=1):
        if len(text) > LONGEST_LABEL:
            raise wrong_field(f"table line {number}", f"has more than {LONGEST_LABEL} characters")
    changed = dial.model_copy(
        update={
            "labels": Names(kind="list", words=words),
            "places": places,
            "places_in": unit,
            "divisions": None if places else len(words),
            "changes": (),
        }
    )
    return lettering.model_copy(update={"dial": changed})

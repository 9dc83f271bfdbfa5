"""A pasted table of a dial's labels: one a line, the place first and then the words.

    0°: N
    22.5°: NNE
    45°: NE

A place is an angle or a station with its unit and a colon, or a figure and a tab, as sheets
have it: what words are like is never taken for one, as “12 V”. A line of words alone has no
place, and then none may have one.
"""

from __future__ import annotations

import re

from ulvent.core.base.errors import wrong_field
from ulvent.core.recipe import LONGEST_LABEL, MOST_LABELS, Dial, Lettering, Names

_FIGURE = r"^\s*([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+))"
_LINE = re.compile(_FIGURE + r"[^\S\t]*(?:(°|mm)\s*:|(?:(°|mm)[^\S\t]*)?\t)\s*(.*)$")


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
    lines = table.rstrip().splitlines()
    if not lines:
        raise wrong_field("table", "is empty")
    if len(lines) > MOST_LABELS:
        raise wrong_field("table", f"has {len(lines)} lines; at most {MOST_LABELS}")
    rows = [_LINE.match(line) for line in lines]
    placed = [row is not None for row in rows]
    # Without places an empty line is a place that stays empty.
    if not any(placed):
        return _with(lettering, dial, tuple(line.strip() for line in lines), (), "degrees")
    places: list[float] = []
    words: list[str] = []
    units: set[str] = set()
    for number, (line, row) in enumerate(zip(lines, rows, strict=True), start=1):
        if not line.strip():
            continue
        if row is None:
            raise wrong_field(f"table line {number}", "has no place before its words")
        figure, before_colon, before_tab, text = row.groups()
        unit = before_colon or before_tab
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
            "divisions": None,
            "pitch": None,
            "on": None,
            "changes": (),
        }
    )
    return lettering.model_copy(update={"dial": changed})

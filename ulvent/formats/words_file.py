"""Words from a table: CSV or TSV, as RFC 4180 and common sheets have them.

The encoding is found: UTF-8 or UTF-16 by its mark, UTF-8 where it is that, else by its letters. The
separator is the one of comma, semicolon and tab that stands most often outside quotes.
"""

from __future__ import annotations

import codecs
import csv
import io
import re
from collections import Counter
from typing import NamedTuple

from ulvent.core.base.errors import wrong_field
from ulvent.core.base.fields import plain_text
from ulvent.core.recipe.name_list import MOST_ROWS

MOST_BYTES = 5_000_000
_MARKS = {
    codecs.BOM_UTF8: "utf-8-sig",
    codecs.BOM_UTF16_LE: "utf-16",
    codecs.BOM_UTF16_BE: "utf-16",
}
_SEPARATORS = ",;\t"
_SURE = 0.3
"""From which share of common letters on a guessed encoding counts for more than Windows-1252."""


class Table(NamedTuple):
    """A table as it was typed, and how it was read.

    encoding, separator
        as they were found
    """

    rows: list[list[str]]
    encoding: str
    separator: str


def read_words(data: bytes) -> list[list[str]]:
    """The rows of a table, cell by cell, without space round them; empty rows are left out.

    Raises
    ------
    PieceError
        Naming `file`, and the row.
    """
    rows = [[cell.strip() for cell in row] for row in read_table(data).rows]
    return [row for row in rows if any(row)]


def read_table(data: bytes) -> Table:
    """The rows of a table, cell by cell, as they were typed, from the first that says something to
    the last: empty ones between them count.

    Raises
    ------
    PieceError
        Naming `file`, and the row.
    """
    if len(data) > MOST_BYTES:
        raise wrong_field("file", f"has {len(data)} bytes; at most {MOST_BYTES} are read")
    text, encoding = _decoded(data)
    if "\0" in text:
        raise wrong_field("file", "is no table of words")
    rows: list[list[str]] = []
    separator = _separator(text)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=separator, strict=True)
    try:
        for row in reader:
            rows.append([plain_text(cell.replace("\r\n", "\n")) for cell in row])
            if len(rows) > MOST_ROWS + 1:
                raise wrong_field("file", f"has more than {MOST_ROWS} rows")
    except (csv.Error, ValueError) as error:
        raise wrong_field("file", f"line {reader.line_num}: {error}") from error
    said = [place for place, row in enumerate(rows) if any(cell.strip() for cell in row)]
    rows = rows[said[0] : said[-1] + 1] if said else []
    return Table(rows, encoding, separator)


def counted_rows(asked: str) -> Table | None:
    """Rows that count, as `001-250` asks, with as many digits; none where it asks for nothing so.

    Raises
    ------
    PieceError
        Where there are too many.
    """
    found = re.fullmatch(r"(\d+)-(\d+)", asked)
    if found is None:
        return None
    first, last, digits = int(found[1]), int(found[2]), len(found[1])
    if not 0 <= last - first < MOST_ROWS:
        raise wrong_field("list", f"counts {last - first + 1} rows; 1 to {MOST_ROWS} are taken")
    rows = [[f"{number:0{digits}d}"] for number in range(first, last + 1)]
    return Table(rows, "utf-8", ",")


def _decoded(data: bytes) -> tuple[str, str]:
    for mark, encoding in _MARKS.items():
        if data.startswith(mark):
            return data.decode(encoding, "replace"), encoding
    try:
        return data.decode(), "utf-8"
    except UnicodeDecodeError:
        pass
    # Imported when it is needed: few lists are in anything else.
    from charset_normalizer import from_bytes

    found = from_bytes(data).best()
    if found is not None and found.encoding != "cp1252" and found.coherence > _SURE:
        return str(found), found.encoding
    return data.decode("cp1252", "replace"), "cp1252"


def _separator(text: str) -> str:
    """The separator that stands most often outside quotes."""
    counts: Counter[str] = Counter()
    for place, part in enumerate(text[:20_000].split('"')):
        if place % 2 == 0:
            counts.update(sign for sign in part if sign in _SEPARATORS)
    return max(_SEPARATORS, key=lambda sign: counts[sign])

"""Words from a table: CSV or TSV, as RFC 4180 and common sheets have them.

The encoding is found: UTF-8 or UTF-16 by its mark, UTF-8 where it is that, else Windows-1252. The
separator is the one of comma, semicolon and tab that stands most often outside quotes.
"""

from __future__ import annotations

import codecs
import csv
import io
from collections import Counter

from ulvent.core.base.errors import wrong_field
from ulvent.core.base.fields import plain_text

MOST_BYTES = 5_000_000
MOST_ROWS = 50_000
_MARKS = {
    codecs.BOM_UTF8: "utf-8-sig",
    codecs.BOM_UTF16_LE: "utf-16",
    codecs.BOM_UTF16_BE: "utf-16",
}
_SEPARATORS = ",;\t"


def read_words(data: bytes) -> list[list[str]]:
    """The rows of a table, cell by cell; rows without anything are left out.

    Raises
    ------
    PieceError
        Naming `file`, and the row.
    """
    if len(data) > MOST_BYTES:
        raise wrong_field("file", f"has {len(data)} bytes; at most {MOST_BYTES} are read")
    text = _decoded(data)
    if "\0" in text:
        raise wrong_field("file", "is no table of words")
    rows: list[list[str]] = []
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=_separator(text), strict=True)
    try:
        for row in reader:
            cells = [plain_text(cell.replace("\r\n", "\n").strip()) for cell in row]
            if any(cells):
                rows.append(cells)
            if len(rows) > MOST_ROWS:
                raise wrong_field("file", f"has more than {MOST_ROWS} rows")
    except (csv.Error, ValueError) as error:
        raise wrong_field("file", f"line {reader.line_num}: {error}") from error
    return rows


def _decoded(data: bytes) -> str:
    for mark, encoding in _MARKS.items():
        if data.startswith(mark):
            return data.decode(encoding, "replace")
    try:
        return data.decode()
    except UnicodeDecodeError:
        return data.decode("cp1252", "replace")


def _separator(text: str) -> str:
    """The separator that stands most often outside quotes."""
    counts: Counter[str] = Counter()
    for place, part in enumerate(text[:20_000].split('"')):
        if place % 2 == 0:
            counts.update(sign for sign in part if sign in _SEPARATORS)
    return max(_SEPARATORS, key=lambda sign: counts[sign])

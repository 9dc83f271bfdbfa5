"""Reading single-stroke faces from Hershey's vertex files (`.jhf`).

A line a glyph: five columns of number, three of vertex count, then pairs of
characters whose distance from `R` is a coordinate. The first pair holds the left
and right sides; the pair ` R` lifts the pen. Vertex y runs down, capitals stand
from 9 (baseline) to −12. Glyphs follow the printable ASCII characters in order.
"""

from __future__ import annotations

from ulvent.core.base.errors import FaceError
from ulvent.core.faces import Metrics, StrokeFace, StrokeGlyph

_FIRST = 32
_BASELINE = 9
_METRICS = Metrics(
    units_per_em=32.0,
    cap_height=21.0,
    x_height=14.0,
    ascender=21.0,
    descender=-7.0,
    sources=dict.fromkeys(
        ("cap_height", "x_height", "ascender", "descender"), "fixed by the vertex file's design"
    ),
)


def read_jhf(data: bytes, name: str) -> StrokeFace:
    """A stroke face from the bytes of a vertex file.

    Raises
    ------
    FaceError
        With the line that could not be read.
    """
    try:
        text = data.decode("ascii")
    except UnicodeDecodeError as error:
        raise FaceError("a vertex file holds plain ASCII only") from error
    glyphs: dict[str, StrokeGlyph] = {}
    for number, line in enumerate(_records(text), start=1):
        glyphs[chr(_FIRST + number - 1)] = _glyph(line, number)
    return StrokeFace(name, glyphs, _METRICS)


def _records(text: str) -> list[str]:
    """One record a glyph; long ones continue on lines that do not start with a number."""
    records: list[str] = []
    for line in text.splitlines():
        if records and not _complete(records[-1]):
            records[-1] += line
        elif line.strip() and not line.startswith("#"):
            records.append(line)
    return records


def _complete(record: str) -> bool:
    count = record[5:8].strip()
    return not count.isdigit() or len(record) >= 8 + 2 * int(count)


def _glyph(record: str, number: int) -> StrokeGlyph:
    count, pairs = record[5:8].strip(), record[8:]
    if not count.isdigit() or int(count) < 1 or len(pairs) < 2 * int(count):
        raise FaceError(f"vertex file, glyph {number}: its vertices do not match their count")
    values = [ord(character) - ord("R") for character in pairs[: 2 * int(count)]]
    left, right = values[0], values[1]
    strokes: list[list[tuple[float, float]]] = [[]]
    for at in range(2, len(values), 2):
        if pairs[at : at + 2] == " R":
            strokes.append([])
        else:
            strokes[-1].append((float(values[at] - left), float(_BASELINE - values[at + 1])))
    return StrokeGlyph.of_lines(strokes, float(right - left))

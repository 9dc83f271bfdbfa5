"""A small number beside each part on a sheet: that of its row, as the cutting list has it.

It lies below the part in what is left over, with room of its own while parts are nested.
"""

from __future__ import annotations

from ulvent.core.base.arrays import Floats, Matrices, Millimetres
from ulvent.core.recipe import Piece, parse_piece
from ulvent.core.shapes import Region

_CLEAR = 1.0
"""mm between a part and its number."""
_DIGIT = 0.9
"""How wide a digit is with the gap after it, of its height: a single-stroke face's zero."""


def with_room(part: Region, height: Millimetres, digits: int) -> Region:
    """A part as it is nested with a number of so many digits below it; one without it, for 0."""
    if height == 0.0:
        return part
    x0, y0, x1, y1 = part.bounds
    half, middle = 0.5 * _DIGIT * digits * height, 0.5 * (x0 + x1)
    # It reaches up into the part, so that both are one outline.
    tab = (middle - half, y0 - _CLEAR - height, middle + half, 0.5 * (y0 + y1))
    return Region.joined([part, Region.box(tab)])


def mark_lies(part: Region, matrix: Matrices) -> Floats:
    """Where the number of a part lies on a sheet: the map (2, 3) of the middle of its head.

    matrix
        that of the part, (2, 3)
    """
    x0, y0, x1, _ = part.bounds
    lies: Floats = matrix.copy()
    lies[:, 2] += matrix[:, :2] @ (0.5 * (x0 + x1), y0 - _CLEAR)
    return lies


def mark_piece(number: int, height: Millimetres) -> Piece:
    """A number by itself, in single strokes: the middle of its head lies at the origin."""
    line = {"id": "line", "kind": "line", "length": 1.0, "centre": (0.0, -height)}
    words = {
        "id": "number", "guide": "line", "text": str(number), "face": "hershey-sans",
        "height": height, "at": 0.5, "at_in": "share", "align": "centre", "output": "draw",
    }  # fmt: skip
    return parse_piece({"ulvent": 1, "title": "", "guides": [line], "letterings": [words]})

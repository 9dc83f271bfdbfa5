"""Ring sizes on the common scales, from the inner diameter and back.

ISO 8653 counts the inner circumference in mm. The others are from memory: British letters begin
with A at 37.8 mm of circumference and go up by 1.25 mm; American numbers begin with 0 at a
diameter of 0.458 inch and go up by 0.032 inch.
"""

from __future__ import annotations

import math
import re
from typing import Literal, NamedTuple

from ulvent.core.base.errors import wrong_field

_BRITISH_FIRST, _BRITISH_STEP = 37.8, 1.25
_AMERICAN_FIRST, _AMERICAN_STEP = 11.63, 0.8128
_LAST_LETTER = 25


Scale = Literal["iso", "british", "american"]
_BRITISH = re.compile(r"([A-Z])\s*(½|1/2|\.5)?", re.IGNORECASE)


class RingSizes(NamedTuple):
    """One inner diameter, said on each scale.

    iso
        inner circumference, mm
    british
        letter and half; empty where there is none
    american
        in quarters
    """

    iso: float
    british: str
    american: float


def ring_sizes(inner: float) -> RingSizes:
    """The sizes nearest to an inner diameter, mm."""
    girth = math.pi * inner
    halves = round((girth - _BRITISH_FIRST) / _BRITISH_STEP * 2.0)
    letter = ""
    if 0 <= halves // 2 <= _LAST_LETTER:
        letter = chr(ord("A") + halves // 2) + ("½" if halves % 2 else "")
    american = round((inner - _AMERICAN_FIRST) / _AMERICAN_STEP * 4.0) / 4.0
    return RingSizes(girth, letter, american)


def inner_of(scale: Scale, size: str) -> float:
    """The inner diameter of a size, mm.

    Raises
    ------
    PieceError
        Naming `size`, where the scale has no such one.
    """
    said = size.strip().replace(",", ".")
    if scale == "british":
        letter = _BRITISH.fullmatch(said)
        if letter is None:
            raise wrong_field(
                "size", f"“{size}” is none; British sizes are A to Z, and their halves"
            )
        steps = ord(letter[1].upper()) - ord("A") + (0.5 if letter[2] else 0.0)
        return (_BRITISH_FIRST + steps * _BRITISH_STEP) / math.pi
    try:
        figure = float(said)
    except ValueError:
        raise wrong_field("size", f"“{size}” is no figure") from None
    low, high = (10.0, 1000.0) if scale == "iso" else (0.0, 16.0)
    if not low <= figure <= high:
        raise wrong_field("size", f"must be from {low:g} to {high:g}")
    if scale == "iso":
        return figure / math.pi
    return _AMERICAN_FIRST + figure * _AMERICAN_STEP

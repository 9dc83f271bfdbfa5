"""Ring sizes on the common scales, from the inner diameter.

ISO 8653 counts the inner circumference in mm. The others are from memory: British letters begin
with A at 37.8 mm of circumference and go up by 1.25 mm; American numbers begin with 0 at a
diameter of 0.458 inch and go up by 0.032 inch.
"""

from __future__ import annotations

import math
from typing import NamedTuple

_BRITISH_FIRST, _BRITISH_STEP = 37.8, 1.25
_AMERICAN_FIRST, _AMERICAN_STEP = 11.63, 0.8128
_LAST_LETTER = 25


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

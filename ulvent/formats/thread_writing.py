"""Stitch files, by pyembroidery: thread in tenths of a mm, y down, from the piece's own origin."""

from __future__ import annotations

import math
from io import BytesIO
from typing import Any

import pyembroidery

from ulvent.core.base.arrays import Points
from ulvent.core.stitches import Embroidery

_UNITS_A_MM = 10.0
_LONGEST = 121.0
"""Units: of one move, across or up. DST has no longer ones."""
_WRITERS = {
    "dst": pyembroidery.DstWriter,
    "exp": pyembroidery.ExpWriter,
    "pes": pyembroidery.PesWriter,
    "jef": pyembroidery.JefWriter,
    "vp3": pyembroidery.Vp3Writer,
}
_SETTINGS = {
    "max_stitch": _LONGEST,
    "max_jump": _LONGEST,
    "long_stitch_contingency": pyembroidery.CONTINGENCY_LONG_STITCH_SEW_TO,
    # JEF holds when it was written: a fixed moment, so that the same stitches are the same bytes.
    "date": "20000101000000",
}


def write_thread(embroidery: Embroidery, format: str) -> bytes:
    """A stitch file, always the same bytes for the same embroidery."""
    target = BytesIO()
    pyembroidery.write_embroidery(_WRITERS[format], _pattern(embroidery), target, _SETTINGS)
    return target.getvalue()


def _pattern(embroidery: Embroidery) -> Any:
    """The stitches as pyembroidery has them: a jump from thread to thread, cut where it is long."""
    pattern = pyembroidery.EmbPattern()
    at: tuple[float, float] | None = None
    for number, colour in enumerate(embroidery.colours):
        pattern.add_thread({"hex": colour.colour, "name": f"Thread {number + 1}"})
        if number:
            pattern.add_command(pyembroidery.COLOR_BREAK)
        for one in colour.sewn:
            points = _units(one.points)
            if at is not None and math.dist(at, points[0]) > embroidery.cloth.trim * _UNITS_A_MM:
                pattern.trim()
            pattern.add_stitch_absolute(pyembroidery.JUMP, *points[0])
            for x, y in points:
                pattern.add_stitch_absolute(pyembroidery.STITCH, x, y)
            at = points[-1]
    pattern.end()
    return pattern


def _units(points: Points) -> list[tuple[float, float]]:
    """Needle points in units, none twice in a row."""
    found: list[tuple[float, float]] = []
    for x, y in (points * (_UNITS_A_MM, -_UNITS_A_MM)).round().tolist():
        if not found or found[-1] != (x, y):
            found.append((x, y))
    return found

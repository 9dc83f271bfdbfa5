"""Thread as G-code."""

from __future__ import annotations

from ulvent.core.stitches import Embroidery
from ulvent.formats.format import ThreadFormat


def _write(embroidery: Embroidery) -> bytes:
    from ulvent.formats.thread_lines import thread_gcode

    return thread_gcode(embroidery)


FORMAT = ThreadFormat(
    "thread.gcode", "For a sewing frame, G-code", "text/plain; charset=us-ascii", 80, _write
)

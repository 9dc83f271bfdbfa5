"""Thread as DXF."""

from __future__ import annotations

from ulvent.core.stitches import Embroidery
from ulvent.formats.format import ThreadFormat


def _write(embroidery: Embroidery) -> bytes:
    from ulvent.formats.thread_lines import thread_dxf

    return thread_dxf(embroidery)


FORMAT = ThreadFormat("thread.dxf", "Thread as lines, DXF", "image/vnd.dxf", 70, _write)

"""Thread as SVG."""

from __future__ import annotations

from ulvent.core.stitches import Embroidery
from ulvent.formats.format import ThreadFormat


def _write(embroidery: Embroidery) -> bytes:
    from ulvent.formats.thread_lines import thread_svg

    return thread_svg(embroidery)


FORMAT = ThreadFormat("thread.svg", "Thread as lines, SVG", "image/svg+xml", 60, _write)

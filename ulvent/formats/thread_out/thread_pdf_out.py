"""Thread as PDF."""

from __future__ import annotations

from ulvent.core.stitches import Embroidery
from ulvent.formats.format import ThreadFormat


def _write(embroidery: Embroidery) -> bytes:
    from ulvent.formats.thread_lines import thread_pdf

    return thread_pdf(embroidery)


FORMAT = ThreadFormat("thread.pdf", "Template at true size, PDF", "application/pdf", 90, _write)

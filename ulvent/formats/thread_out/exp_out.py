"""Stitch files of the kind .exp."""

from __future__ import annotations

from ulvent.core.stitches import Embroidery
from ulvent.formats.format import ThreadFormat


def _write(embroidery: Embroidery) -> bytes:
    from ulvent.formats.thread_writing import write_thread

    return write_thread(embroidery, "exp")


FORMAT = ThreadFormat("exp", "Stitches, EXP", "application/octet-stream", 20, _write)

"""Stitch files of the kind .jef."""

from __future__ import annotations

from ulvent.core.stitches import Embroidery
from ulvent.formats.format import ThreadFormat


def _write(embroidery: Embroidery) -> bytes:
    from ulvent.formats.thread_writing import write_thread

    return write_thread(embroidery, "jef")


FORMAT = ThreadFormat("jef", "Stitches, JEF", "application/octet-stream", 40, _write)

"""Stitch files of the kind .vp3."""

from __future__ import annotations

from ulvent.core.stitches import Embroidery
from ulvent.formats.format import ThreadFormat


def _write(embroidery: Embroidery) -> bytes:
    from ulvent.formats.thread_writing import write_thread

    return write_thread(embroidery, "vp3")


FORMAT = ThreadFormat("vp3", "Stitches, VP3", "application/octet-stream", 50, _write)

"""Stitch files of the kind .dst."""

from __future__ import annotations

from ulvent.core.stitches import Embroidery
from ulvent.formats.format import ThreadFormat


def _write(embroidery: Embroidery) -> bytes:
    from ulvent.formats.thread_writing import write_thread

    return write_thread(embroidery, "dst")


FORMAT = ThreadFormat("dst", "Stitches, DST", "application/octet-stream", 10, _write)

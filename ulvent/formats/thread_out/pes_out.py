"""Stitch files of the kind .pes."""

from __future__ import annotations

from ulvent.core.stitches import Embroidery
from ulvent.formats.format import ThreadFormat


def _write(embroidery: Embroidery) -> bytes:
    from ulvent.formats.thread_writing import write_thread

    return write_thread(embroidery, "pes")


FORMAT = ThreadFormat("pes", "Stitches, PES", "application/octet-stream", 30, _write)

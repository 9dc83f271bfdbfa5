"""What formats of thread have in common: pyembroidery writes them all."""

from __future__ import annotations

from ulvent.core.stitches import Embroidery
from ulvent.formats.format import ThreadFormat


def stitch_format(name: str, rank: float) -> ThreadFormat:
    """The format of stitch files with an ending."""

    def write(embroidery: Embroidery) -> bytes:
        from ulvent.formats.thread_writing import write_thread

        return write_thread(embroidery, name)

    title = f"Stitches, {name.upper()}"
    return ThreadFormat(name, title, "application/octet-stream", rank, write)

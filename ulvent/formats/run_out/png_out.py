"""A picture of what a run leaves."""

from __future__ import annotations

from ulvent.core.runs import Run
from ulvent.formats.format import RunFormat


def _write(run: Run) -> bytes:
    from ulvent.formats.png_writing import write_png

    return write_png(run)


FORMAT = RunFormat("png", "PNG", "image/png", 40, _write)

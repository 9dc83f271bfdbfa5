"""G-code (RS274/NGC) for beams and routers."""

from __future__ import annotations

from collections.abc import Iterator

from ulvent.core.runs import Run
from ulvent.formats.format import RunFormat
from ulvent.formats.program import Block, written


def _blocks(run: Run) -> Iterator[Block]:
    from ulvent.formats.gcode_writing import gcode_blocks

    return gcode_blocks(run)


def _write(run: Run) -> bytes:
    return written(_blocks(run))


FORMAT = RunFormat("gcode", "G-code", "text/x-gcode", 20, _write, _blocks)

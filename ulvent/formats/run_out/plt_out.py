"""HP-GL for plotters with pens and blades."""

from __future__ import annotations

from collections.abc import Iterator

from ulvent.core.runs import Run
from ulvent.formats.format import RunFormat
from ulvent.formats.program import Block, written


def _blocks(run: Run) -> Iterator[Block]:
    from ulvent.formats.hpgl_writing import hpgl_blocks

    return hpgl_blocks(run)


def _write(run: Run) -> bytes:
    return written(_blocks(run))


FORMAT = RunFormat("plt", "HP-GL", "application/vnd.hp-hpgl", 10, _write, _blocks)

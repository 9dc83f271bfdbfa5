"""HP-GL for plotters with pens and blades."""

from __future__ import annotations

from ulvent.core.runs import Run
from ulvent.formats.format import RunFormat


def _write(run: Run) -> bytes:
    from ulvent.formats.hpgl_writing import write_hpgl

    return write_hpgl(run)


FORMAT = RunFormat("plt", "HP-GL", "application/vnd.hp-hpgl", 10, _write)

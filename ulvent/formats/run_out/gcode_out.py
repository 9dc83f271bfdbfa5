"""G-code (RS274/NGC) for beams and routers."""

from __future__ import annotations

from ulvent.core.runs import Run
from ulvent.formats.format import RunFormat


def _write(run: Run) -> bytes:
    from ulvent.formats.gcode_writing import write_gcode

    return write_gcode(run)


FORMAT = RunFormat("gcode", "G-code", "text/x-gcode", 20, _write)

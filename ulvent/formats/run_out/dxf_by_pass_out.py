"""DXF by pass."""

from __future__ import annotations

from ulvent.core.runs import Run
from ulvent.formats.format import RunFormat


def _write(run: Run) -> bytes:
    from ulvent.formats.dxf_by_pass import write_dxf_by_pass

    return write_dxf_by_pass(run)


FORMAT = RunFormat("dxf", "DXF", "image/vnd.dxf", 60, _write)

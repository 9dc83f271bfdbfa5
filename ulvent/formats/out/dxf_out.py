"""DXF R2010 in millimetres."""

from __future__ import annotations

from ulvent.core.workshop import Workpiece
from ulvent.formats.format import Format


def _write(work: Workpiece, guides: bool) -> bytes:
    from ulvent.formats.dxf_writing import write_dxf

    return write_dxf(work, guides)


FORMAT = Format("dxf", "DXF", "image/vnd.dxf", 20, _write)

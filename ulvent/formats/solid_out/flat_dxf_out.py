"""The face of a part laid flat, at true size, as DXF."""

from __future__ import annotations

from ulvent.core.workshop import Workpiece
from ulvent.formats.format import SolidFormat


def _write(work: Workpiece) -> bytes:
    from ulvent.formats.laid_flat import laid_flat

    return laid_flat(work, "dxf")


FORMAT = SolidFormat("flat.dxf", "Laid flat at true size, DXF", "image/vnd.dxf", 70, _write)

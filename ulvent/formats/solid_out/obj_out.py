"""Parts as OBJ."""

from __future__ import annotations

from ulvent.core.workshop import Workpiece
from ulvent.formats.format import SolidFormat


def _write(work: Workpiece) -> bytes:
    from ulvent.formats.mesh_writing import obj

    return obj(work.solid)


FORMAT = SolidFormat("obj", "OBJ", "model/obj", 30, _write)

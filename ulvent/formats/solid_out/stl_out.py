"""Parts as STL."""

from __future__ import annotations

from ulvent.core.workshop import Workpiece
from ulvent.formats.format import SolidFormat


def _write(work: Workpiece) -> bytes:
    from ulvent.formats.mesh_writing import stl

    return stl(work.solid)


FORMAT = SolidFormat("stl", "STL, binary", "model/stl", 10, _write)

"""Parts as 3MF."""

from __future__ import annotations

from ulvent.core.workshop import Workpiece
from ulvent.formats.format import SolidFormat


def _write(work: Workpiece) -> bytes:
    from ulvent.formats.threemf_writing import PlatePart, threemf

    meshes = work.solid.meshes
    return threemf(meshes[0].name, [PlatePart(meshes)])


FORMAT = SolidFormat("3mf", "3MF, for printing", "model/3mf", 20, _write)

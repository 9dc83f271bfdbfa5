"""Parts as GLB."""

from __future__ import annotations

from ulvent.core.workshop import Workpiece
from ulvent.formats.format import SolidFormat


def _write(work: Workpiece) -> bytes:
    from ulvent.formats.glb_writing import glb

    return glb(work.solid.meshes)


FORMAT = SolidFormat("glb", "GLB, to be shown", "model/gltf-binary", 40, _write)

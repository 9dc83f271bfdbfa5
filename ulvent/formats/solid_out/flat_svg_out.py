"""The face of a part laid flat, at true size, as SVG."""

from __future__ import annotations

from ulvent.core.workshop import Workpiece
from ulvent.formats.format import SolidFormat


def _write(work: Workpiece) -> bytes:
    from ulvent.formats.laid_flat import laid_flat

    return laid_flat(work, "svg")


FORMAT = SolidFormat("flat.svg", "Laid flat at true size, SVG", "image/svg+xml", 60, _write)

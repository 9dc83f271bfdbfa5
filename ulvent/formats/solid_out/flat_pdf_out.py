"""The face of a part laid flat, at true size, as PDF."""

from __future__ import annotations

from ulvent.core.workshop import Workpiece
from ulvent.formats.format import SolidFormat


def _write(work: Workpiece) -> bytes:
    from ulvent.formats.laid_flat import laid_flat

    return laid_flat(work, "pdf")


FORMAT = SolidFormat("flat.pdf", "Laid flat at true size, PDF", "application/pdf", 80, _write)

"""The face of a part laid flat at true size, to be checked on paper wrapped round it."""

from __future__ import annotations

from ulvent.core.workshop import Workpiece
from ulvent.formats.out import FORMATS
from ulvent.formats.run_out import RUN_FORMATS


def laid_flat(work: Workpiece, kind: str) -> bytes:
    """What is set on the part, with the edge of its face drawn, as SVG, DXF or PDF."""
    plain = work.piece.model_copy(update={"edge": "draw", "run": None})
    flat = work.like(plain)
    if kind in RUN_FORMATS:
        return RUN_FORMATS[kind].write(flat.run)
    return FORMATS[kind].write(flat, True)

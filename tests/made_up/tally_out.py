"""A made-up format out: how many outlines each layer has."""

from __future__ import annotations

from ulvent.core.workshop import Workpiece
from ulvent.formats.format import Format


def _write(work: Workpiece, guides: bool) -> bytes:
    lines = [f"{layer.id} {len(layer.outlines)}" for layer in work.ready.layers]
    return "\n".join([*lines, f"guides {int(guides)}"]).encode()


FORMAT = Format("tally", "Tally", "text/plain", 90, _write)

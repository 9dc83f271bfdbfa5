"""SVG 2 in true millimetres."""

from __future__ import annotations

from ulvent.core.workshop import Workpiece
from ulvent.formats.format import Format


def _write(work: Workpiece, guides: bool) -> bytes:
    from ulvent.formats.svg_writing import write_svg

    return write_svg(work, guides)


FORMAT = Format("svg", "SVG", "image/svg+xml", 10, _write)

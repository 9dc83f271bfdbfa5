"""SVG by pass."""

from __future__ import annotations

from ulvent.core.runs import Run
from ulvent.formats.format import RunFormat


def _write(run: Run) -> bytes:
    from ulvent.formats.svg_by_pass import write_svg_by_pass

    return write_svg_by_pass(run)


FORMAT = RunFormat("svg", "SVG", "image/svg+xml", 50, _write)

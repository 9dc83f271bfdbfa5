"""Outlines of SVG files."""

from __future__ import annotations

from ulvent.core.outlines import FileOutline
from ulvent.formats.format import FileUnit, Reader


def _read(data: bytes, unit: FileUnit) -> list[FileOutline]:
    from ulvent.formats.svg_reading import read_svg

    return read_svg(data, unit)


READER = Reader("svg", "SVG", 10, _read)

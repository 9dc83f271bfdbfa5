"""Outlines of DXF files."""

from __future__ import annotations

from ulvent.core.outlines import FileOutline
from ulvent.formats.format import FileUnit, Reader


def _read(data: bytes, unit: FileUnit) -> list[FileOutline]:
    from ulvent.formats.dxf_reading import read_dxf

    return read_dxf(data, unit)


READER = Reader("dxf", "DXF", 20, _read)

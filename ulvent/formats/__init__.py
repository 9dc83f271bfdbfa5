"""Open formats, one module each."""

from __future__ import annotations

from collections.abc import Callable

from ulvent.core.layout import Layout
from ulvent.formats.dxf import write_dxf
from ulvent.formats.svg import write_svg

Writer = Callable[[Layout, bool], bytes]

WRITERS: dict[str, Writer] = {"svg": write_svg, "dxf": write_dxf}
"""Writers of cut files by the ending of their names."""

MEDIA_TYPES = {"svg": "image/svg+xml", "dxf": "image/vnd.dxf"}

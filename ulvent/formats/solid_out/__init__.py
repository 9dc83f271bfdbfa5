"""Formats that carry parts: one a module.

A new format is a new module here, with its `SolidFormat`; what writes it is imported when a file
is written.
"""

from __future__ import annotations

from ulvent.core.base.register import found_records
from ulvent.formats.format import SolidFormat

SOLID_FORMATS: dict[str, SolidFormat] = {
    one.name: one for one in found_records(__name__, SolidFormat)
}
"""All formats of parts by their names, in the order in which they are offered."""

"""Formats of cut files, one a module.

A new format is a new module here, with its `Format`. What writes it is imported when a file is
written: the libraries of formats take long to start.
"""

from __future__ import annotations

from ulvent.core.base.register import found_records
from ulvent.formats.format import Format

FORMATS: dict[str, Format] = {one.name: one for one in found_records(__name__, Format)}
"""All formats by their names, in the order in which they are offered."""

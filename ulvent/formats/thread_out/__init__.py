"""Formats that carry thread: one a module.

A new format is a new module here, with its `ThreadFormat`; what writes it is imported when a file
is written.
"""

from __future__ import annotations

from ulvent.core.base.register import found_records
from ulvent.formats.format import ThreadFormat

THREAD_FORMATS: dict[str, ThreadFormat] = {
    one.name: one for one in found_records(__name__, ThreadFormat)
}
"""All formats of thread by their names, in the order in which they are offered."""

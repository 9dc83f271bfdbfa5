"""Formats from which outlines are taken, one a module.

A new one is a new module here, with its `Reader`. What reads it is imported when a file is read.
"""

from __future__ import annotations

from ulvent.core.base.register import found_records
from ulvent.formats.format import Reader

READERS: dict[str, Reader] = {one.name: one for one in found_records(__name__, Reader)}
"""All readers by their names, in the order in which they are offered."""

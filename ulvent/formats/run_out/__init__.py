"""Formats that carry a run: what each pass does, in order. One a module.

A new format is a new module here, with its `RunFormat`. What writes it is imported when a file
is written: the libraries of formats take long to start.
"""

from __future__ import annotations

from ulvent.core.base.register import found_records
from ulvent.formats.format import RunFormat

RUN_FORMATS: dict[str, RunFormat] = {one.name: one for one in found_records(__name__, RunFormat)}
"""All formats of runs by their names, in the order in which they are offered."""

"""Stitch files of the kind .exp."""

from __future__ import annotations

from ulvent.formats.thread_file import stitch_format

FORMAT = stitch_format("exp", 20)

"""Stitch files of the kind .pes."""

from __future__ import annotations

from ulvent.formats.thread_file import stitch_format

FORMAT = stitch_format("pes", 30)

"""Stitch files of the kind .vp3."""

from __future__ import annotations

from ulvent.formats.thread_file import stitch_format

FORMAT = stitch_format("vp3", 50)

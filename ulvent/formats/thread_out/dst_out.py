"""Stitch files of the kind .dst."""

from __future__ import annotations

from ulvent.formats.thread_file import stitch_format

FORMAT = stitch_format("dst", 10)

"""What the readers of outlines share: their error, and how much they take."""

from __future__ import annotations

import math
from collections.abc import Iterable

from ulvent.core.base.errors import UlventError
from ulvent.core.base.fields import FARTHEST
from ulvent.core.curves import ArcSegment, Segment

LARGEST_FILE = 4_000_000
"""Bytes of the largest file that is read."""
MOST_ELEMENTS = 20_000
"""Elements or entities that a file may come to when all it uses is put in."""
MOST_SEGMENTS = 40_000


class OutlineFileError(UlventError):
    """A file from which no outlines can be read; says why."""


def refuse_unreadable_size(data: bytes) -> None:
    """Refuse a file that is empty or too large, before anything is read."""
    if not data.strip():
        raise OutlineFileError("the file is empty")
    if len(data) > LARGEST_FILE:
        raise OutlineFileError(f"the file is larger than {LARGEST_FILE // 1_000_000} MB")


class Counted:
    """Counts the segments of a file, and refuses too many and those too far out."""

    def __init__(self) -> None:
        self._count = 0

    def add(self, segments: Iterable[Segment]) -> None:
        for segment in segments:
            self._count += 1
            if self._count > MOST_SEGMENTS:
                raise OutlineFileError(f"the file has more than {MOST_SEGMENTS} lines and curves")
            if isinstance(segment, ArcSegment):
                figures = [*segment.centre, segment.radius, segment.begin, segment.sweep]
            else:
                figures = [value for point in segment for value in point]
            if not all(math.isfinite(value) and abs(value) <= FARTHEST for value in figures):
                raise OutlineFileError(f"a point lies farther out than {FARTHEST:g} mm")

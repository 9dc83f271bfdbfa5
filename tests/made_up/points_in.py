"""A made-up format in: one line through points, a pair of numbers each."""

from __future__ import annotations

from itertools import pairwise

from ulvent.core.curves.segments import LineSegment
from ulvent.core.outlines import FileOutline
from ulvent.formats.format import FileUnit, Reader


def _read(data: bytes, _: FileUnit) -> list[FileOutline]:
    points = [tuple(float(n) for n in line.split()) for line in data.decode().splitlines()]
    ends = pairwise([(x, y) for x, y in points])
    return [FileOutline(tuple(LineSegment(a, b) for a, b in ends), closed=False)]


READER = Reader("points", "Points", 90, _read)

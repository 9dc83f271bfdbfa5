"""A letter in thread, made in its own upright frame, and once for each way of sewing it."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator, Sequence
from itertools import islice
from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.base.packed_arrays import packed, unpacked
from ulvent.core.base.remembered import kept_elsewhere, remembered
from ulvent.core.outlines import Polyline
from ulvent.core.recipe.sewing import StitchType, Underlay
from ulvent.core.shapes import Region
from ulvent.core.stitches.applique import edge_lines
from ulvent.core.stitches.cloths import Cloth
from ulvent.core.stitches.column import Column
from ulvent.core.stitches.columns import columns_of
from ulvent.core.stitches.corrected_column import corrected
from ulvent.core.stitches.thread import Thread, What
from ulvent.core.stitches.threads import bean, cleared, filled, row_sections, running
from ulvent.core.stitches.walk import THIN, Walk

_LEFT_OPEN = 0.02
"""mm²: what columns leave open, and is less, is no hole that is seen."""
_GROWN = 0.35
_REMEMBERED = 1024

Rungs = tuple[tuple[tuple[float, float], tuple[float, float]], ...]


class Making(NamedTuple):
    """How a letter is sewn.

    corrected
        its columns as someone set them, each a row of lines across it, mm; none: found
    """

    cloth: Cloth
    stitch: StitchType = "auto"
    angle: float = 45.0
    width: float | None = None
    underlay: Underlay = "auto"
    corrected: tuple[Rungs, ...] = ()


class LetterShape:
    """A letter's area and single lines in its own frame, mm; equal where these are."""

    def __init__(self, area: Region, lines: Sequence[Polyline] = ()) -> None:
        self.area, self.lines = area, tuple(lines)
        found = hashlib.sha256()
        for ring in area.rings:
            found.update(b"ring" + ring.round(4).tobytes())
        for line in lines:
            found.update(b"line" + bytes([line.closed]) + line.points.round(4).tobytes())
        self.digest = found.digest()

    def __hash__(self) -> int:
        return hash(self.digest)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, LetterShape) and other.digest == self.digest


@remembered(_REMEMBERED)
def letter_threads(shape: LetterShape, how: Making) -> tuple[Thread, ...]:
    """The threads of a letter, from its lower left to its lower right.

    One for each shape of it; more only where a shape has parts that a needle does not get to
    without leaving it.
    """
    return kept_elsewhere(
        "threads",
        shape.digest + repr(how).encode(),
        lambda: tuple(_letter(shape, how)),
        lambda threads: packed([array for one in threads for array in (one.points, one.what)]),
        _unpacked_threads,
    )


def _unpacked_threads(data: bytes) -> tuple[Thread, ...]:
    arrays = unpacked(data)
    return tuple(map(Thread, arrays[::2], arrays[1::2]))


def letter_columns(shape: LetterShape, how: Making) -> list[Column]:
    """The columns of a letter, as they are found or as someone set them."""
    return [column for some in _columns(shape, how.corrected) for column in some]


@remembered(_REMEMBERED)
def narrowest_satin(shape: LetterShape, how: Making) -> float | None:
    """Width of the narrowest column of a letter that is sewn in satin, mm; none: it has none."""
    if how.stitch not in ("auto", "satin"):
        return None
    least: list[float] = []
    for columns in _columns(shape, how.corrected):
        if _stitch_of(columns, how) != "satin":
            continue
        widths = [float(np.median(one.widths)) for one in columns]
        thin = THIN * how.cloth.narrowest if how.stitch == "auto" else 0.0
        least += [width for width in widths if width >= thin]
    return min(least, default=None)


def _letter(shape: LetterShape, how: Making) -> Iterator[Thread]:
    if not shape.lines and shape.area.is_empty:
        return
    corners = [*shape.area.rings, *(line.points for line in shape.lines)]
    low, high = (
        pick([pick(some, axis=0) for some in corners], axis=0) for pick in (np.min, np.max)
    )
    base = min(max(0.0, float(low[1])), float(high[1]))
    at, out = np.array([low[0], base]), np.array([high[0], base])
    for line in shape.lines:
        yield from _line(line, how)
    needs_columns = how.stitch not in ("edge", "rows")
    every = _columns(shape, how.corrected) if needs_columns else ((),) * len(shape.area.parts)
    parts = [*zip(shape.area.parts, every, strict=True)]
    while parts:
        near = min(parts, key=lambda one: _away(one[0], at))
        parts.remove(near)
        part, columns = near
        goal = out if not parts else _nearest(min((one for one, _ in parts),
                                                  key=lambda one: _away(one, out)), at)  # fmt: skip
        for thread in _shape(part, columns, how, at, goal):
            if len(thread) > 1:
                yield thread
                at = thread.points[-1]


def _away(part: Region, at: Points) -> float:
    return float(np.hypot(*(_nearest(part, at) - at)))


def _nearest(part: Region, at: Points) -> Points:
    points = np.concatenate(part.rings)
    found: Points = points[int(np.argmin(np.hypot(*(points - at).T)))]
    return found


def _line(line: Polyline, how: Making) -> Iterator[Thread]:
    """A single line in thread: of a width, where one is given, or as it is."""
    points = line.ends_met
    if how.width is not None and how.stitch in ("auto", "satin"):
        column = Column.along(points, how.width)
        yield from _walked([column], [], how, column.middles[0], column.middles[-1])
        return
    stitches = running(points, how.cloth.run)
    yield Thread.of(bean(stitches) if how.stitch == "bean" else stitches, What.RUN)


@remembered(_REMEMBERED)
def _columns(shape: LetterShape, set_by_hand: tuple[Rungs, ...]) -> tuple[tuple[Column, ...], ...]:
    """The columns of each part of a letter, as they are found or as someone set them."""
    if not set_by_hand:
        return kept_elsewhere(
            "columns",
            shape.digest,
            lambda: tuple(tuple(columns_of(part)) for part in shape.area.parts),
            _packed_columns,
            _unpacked_columns,
        )
    return tuple(
        tuple(one for rungs in set_by_hand if (one := corrected(rungs, part)) is not None)
        for part in shape.area.parts
    )


def _packed_columns(columns: tuple[tuple[Column, ...], ...]) -> bytes:
    every = [column for some in columns for column in some]
    return packed([
        np.array([len(some) for some in columns], dtype=np.int64),
        np.array([column.closed for column in every], dtype=np.bool_),
        *(line for column in every for line in (column.axis, column.left, column.right)),
    ])  # fmt: skip


def _unpacked_columns(data: bytes) -> tuple[tuple[Column, ...], ...]:
    counts, closed, *lines = unpacked(data)
    every = map(Column, lines[::3], lines[1::3], lines[2::3], closed.tolist())
    return tuple(tuple(islice(every, int(count))) for count in counts)


def _shape(
    part: Region, columns: Sequence[Column], how: Making, at: Points, out: Points
) -> Iterator[Thread]:
    """The threads of one connected shape."""
    if how.stitch == "edge":
        yield from edge_lines(part, how.cloth)
        return
    stitch = _stitch_of(columns, how)
    if stitch == "rows":
        yield from _filled(part, how, at, out)
    elif stitch in ("run", "bean", "quilted"):
        yield from _runs(columns, how, stitch == "bean", at)
    else:
        yield from _walked(columns, _patches(part, columns, how), how, at, out)


def _stitch_of(columns: Sequence[Column], how: Making) -> StitchType:
    """What a shape of these columns is made with, by their widths where nothing is said."""
    if not columns:
        return "rows"
    if how.stitch != "auto":
        return how.stitch
    width = float(np.median(np.concatenate([one.widths for one in columns])))
    if width > how.cloth.widest:
        return "rows"
    return "bean" if width < how.cloth.narrowest else "satin"


def _walked(
    columns: Sequence[Column], patches: Sequence[Points], how: Making, at: Points, out: Points
) -> Iterator[Thread]:
    walk = Walk(columns, how.cloth, how.underlay, thin_as_runs=how.stitch == "auto")
    for threads in walk.threads(patches, at, out):
        yield cleared(Thread.joined(threads))


def _patches(part: Region, columns: Sequence[Column], how: Making) -> list[Points]:
    """Rows where columns leave cloth open."""
    swept = Region.joined(one.swept for one in columns)
    # Thread covers half its own width beside a column.
    rest = part.minus(swept.offset(how.cloth.thread / 2.0))
    found: list[Points] = []
    for one in rest.parts:
        if one.area > _LEFT_OPEN:
            grown = one.offset(_GROWN).meet(part)
            found += [
                filled(rows, how.cloth) for rows in row_sections(grown, how.cloth, _across(one))
            ]
    return found


def _across(part: Region) -> float:
    """The direction across the longest way of a shape, degrees: its rows are short then."""
    ring = max(part.rings, key=len)
    way = np.linalg.eigh(np.cov((ring - ring.mean(axis=0)).T))[1][:, -1]
    return float(np.degrees(np.arctan2(way[0], -way[1])))


def _filled(part: Region, how: Making, at: Points, out: Points) -> Iterator[Thread]:
    """Rows: ways from one stretch of them to the next lie under what is sewn later."""
    sections = row_sections(part, how.cloth, how.angle)
    if not sections:
        return
    walk = Walk(sections, how.cloth, "rows")
    for threads in walk.threads([], at, out):
        yield cleared(Thread.joined(threads))


def _runs(columns: Sequence[Column], how: Making, triple: bool, at: Points) -> Iterator[Thread]:
    """Lines along the middles of columns."""
    for points in _nearest_first([one.middles for one in columns], at):
        line = running(points, how.cloth.run)
        yield Thread.of(bean(line) if triple else line, What.RUN)


def _nearest_first(stretches: Sequence[Points], at: Points) -> Iterator[Points]:
    left = list(stretches)
    while left:
        off = [[float(np.hypot(*(at - one[end]))) for end in (0, -1)] for one in left]
        best = min(range(len(left)), key=lambda index: min(off[index]))
        points = left.pop(best)
        if off[best][1] < off[best][0]:
            points = points[::-1]
        yield points
        at = points[-1]

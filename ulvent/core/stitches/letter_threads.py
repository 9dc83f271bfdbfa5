"""A letter in thread, made in its own upright frame, and once for each way of sewing it."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator, Sequence
from itertools import islice
from typing import Literal, NamedTuple

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
from ulvent.core.stitches.patches import Patch, patches
from ulvent.core.stitches.thread import Thread, What
from ulvent.core.stitches.threads import bean, cleared, row_sections, running
from ulvent.core.stitches.walk import THIN, Walk

_THICK = 0.8
"""Of the rungs of a shape so many are narrower than its thick strokes: those are alike in all
letters of a face, so that a word is not half satin and half lines."""
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
        widths = [one.width for one in columns]
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
        walk = _in_satin(column.swept, [column], how)
        yield from _along(walk, [], column.middles[0], column.middles[-1])
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
        # A letter alone is no line through others.
        look: Literal["run", "bean"] = "bean" if stitch == "bean" else "run"
        yield from _along(Walk(part, columns, how.cloth, look), [], at, out)
    else:
        loose = patches(part, columns, how.cloth)
        yield from _along(_in_satin(part, columns, how), loose, at, out)


def _stitch_of(columns: Sequence[Column], how: Making) -> StitchType:
    """What a shape of these columns is made with, by their widths where nothing is said."""
    if not columns:
        return "rows"
    if how.stitch != "auto":
        return how.stitch
    width = float(np.quantile(np.concatenate([one.widths for one in columns]), _THICK))
    if width > how.cloth.widest:
        return "rows"
    return "bean" if width < how.cloth.narrowest else "satin"


def _in_satin(part: Region, columns: Sequence[Column], how: Making) -> Walk:
    return Walk(part, columns, how.cloth, how.underlay, thin_as_runs=how.stitch == "auto")


def _along(walk: Walk, loose: Sequence[Patch], at: Points, out: Points) -> Iterator[Thread]:
    for threads in walk.threads(loose, at, out):
        yield cleared(Thread.joined(threads))


def _filled(part: Region, how: Making, at: Points, out: Points) -> Iterator[Thread]:
    """Rows: ways from one stretch of them to the next lie under what is sewn later."""
    sections = row_sections(part, how.cloth, how.angle)
    yield from _along(Walk(part, sections, how.cloth, "rows"), [], at, out)

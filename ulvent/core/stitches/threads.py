"""Lines of thread: running stitches, satin between rails, underlay and rows; mm."""

from __future__ import annotations

import math

import numpy as np

from ulvent.core.base.arrays import Floats, Points, counted_up, wrapped
from ulvent.core.base.tolerances import JOINT
from ulvent.core.outlines import Polyline
from ulvent.core.recipe.run_sheet import Filling
from ulvent.core.runs.raster_rows import filling_lines
from ulvent.core.shapes import Region
from ulvent.core.stitches.cloths import Cloth
from ulvent.core.stitches.column import Column
from ulvent.core.stitches.thread import Thread

_CORNER = math.radians(35.0)
_SHORTEST = 0.3
"""mm: what would be shorter is left out."""
_PHASES = (0.0, 0.5, 0.25, 0.75)
"""Of stitches in rows, in shares of their length, row by row: none lies beside its neighbour."""
_CROWDED = 0.48
"""Where one rail goes on by less than this share of the spacing, needle points would crowd."""
_DRAWN_IN = 0.3
_STAGGER = 0.12
_SHARED, _ALIKE, _NEAR_ENDS = 0.5, 0.5, 8.0
"""Rows go on as one another where they have so much in common, and are not of too unlike lengths:
by the share of the longer one, or by so many rows."""


def running(points: Points, length: float) -> Points:
    """(k, 2) a line in stitches of about one length, a needle point at each corner."""
    return without_short(even_places(points, length))


def even_places(points: Points, length: float) -> Points:
    """(k, 2) places on a line about one length apart, and at each corner, short ones too."""
    marks = [0, *_corners(points), len(points) - 1]
    found = [points[:1]]
    for begin, end in zip(marks[:-1], marks[1:], strict=True):
        walk = Polyline(points[begin : end + 1], False).walk()
        count = max(1, round(walk.length / length))
        found.append(walk.at(np.linspace(0.0, walk.length, count + 1)[1:]))
    return np.concatenate(found)


def _corners(points: Points) -> list[int]:
    """Where a line turns so much that a stitch must end there."""
    chords = np.diff(points, axis=0)
    turns = np.abs(wrapped(np.diff(np.arctan2(chords[:, 1], chords[:, 0]))))
    return [int(one) + 1 for one in np.flatnonzero(turns > _CORNER)]


def bean(points: Points) -> Points:
    """Each stitch three times: there, back, and there again."""
    found = [points[:1]]
    for begin, end in zip(points[:-1], points[1:], strict=True):
        found.append(np.array([end, begin, end]))
    return np.concatenate(found)


def satin(column: Column, cloth: Cloth) -> Points:
    """(k, 2) thread to and fro between the rails, made wider by what it will draw together.

    Stitches of one side are `spacing` apart on the longer of the two rails. On the inside of a
    bend, where they would crowd, every second one ends a little before the edge.
    """
    left, right = _widened(column, cloth.pull)
    points = _zigzag(left, right, cloth.spacing)
    return without_short(_split(_drawn_in(points, cloth.spacing), cloth.split))


def zigzag(column: Column, spacing: float, share: float) -> Points:
    """(k, 2) wide underlay, over a share of the column's width."""
    middle = column.middles
    return without_short(
        _zigzag(
            middle + share * (column.left - middle),
            middle + share * (column.right - middle),
            2.0 * spacing,
        )
    )


def _widened(column: Column, pull: float) -> tuple[Points, Points]:
    way = column.left - column.right
    out = pull * way / np.maximum(np.hypot(*way.T), JOINT)[:, None]
    return column.left + out, column.right - out


def _zigzag(left: Points, right: Points, spacing: float) -> Points:
    steps = np.maximum(np.hypot(*np.diff(left, axis=0).T), np.hypot(*np.diff(right, axis=0).T))
    along = np.concatenate([[0.0], np.cumsum(steps)])
    count = max(2, math.ceil(along[-1] / (spacing / 2.0)))
    places = np.linspace(0.0, along[-1], count + 1)
    one, two = (
        np.stack([np.interp(places, along, rail[:, axis]) for axis in (0, 1)], axis=1)
        for rail in (left, right)
    )
    points: Points = np.where((np.arange(count + 1) % 2 == 0)[:, None], one, two)
    return points


def _drawn_in(points: Points, spacing: float) -> Points:
    """Every second needle point of the inside of a bend nearer to the middle of its stitch."""
    found = points.copy()
    for side in (0, 1):
        mine = np.arange(side, len(points), 2)
        if len(mine) < 3:
            continue
        step = np.hypot(*np.diff(points[mine], axis=0).T)
        near = np.concatenate([[False], step < _CROWDED * spacing])
        second = mine[near & (np.arange(len(mine)) % 2 == 1)]
        second = second[(second > 0) & (second < len(points) - 1)]
        across = (points[second - 1] + points[second + 1]) / 2.0
        found[second] += _DRAWN_IN * (across - points[second])
    return found


def _split(points: Points, longest: float) -> Points:
    """Stitches that are too long in equal parts, which do not lie side by side."""
    found = [points[:1]]
    for index, (begin, end) in enumerate(zip(points[:-1], points[1:], strict=True)):
        parts = math.ceil(math.dist(begin, end) / longest)
        shares = np.arange(1, parts) / parts
        shares = shares + (_STAGGER if index % 2 else -_STAGGER) / max(parts, 1)
        found.append(begin + shares[:, None] * (end - begin))
        found.append(end[None])
    return np.concatenate(found)


def split_long(thread: Thread, longest: float) -> Thread:
    """Stitches that are longer than a machine sews in equal parts."""
    lengths = np.hypot(*np.diff(thread.points, axis=0).T)
    parts = np.maximum(1, np.ceil(lengths / longest)).astype(int)
    if (parts == 1).all():
        return thread
    begins, times = counted_up(parts)
    share: Floats = ((times + 1) / parts[begins])[:, None]
    points = thread.points[begins] + share * (thread.points[begins + 1] - thread.points[begins])
    return Thread(
        np.concatenate([thread.points[:1], points]),
        np.concatenate([thread.what[:1], thread.what[begins + 1]]),
    )


def row_sections(area: Region, cloth: Cloth, angle: float) -> list[Column]:
    """Stretches of rows that fill an area at an angle, degrees: a row from each rail to the other.

    Where a row has several lines each goes on in a stretch of its own.
    """
    lines = filling_lines(area, Filling(pitch=cloth.spacing, angle=angle, overscan=0.0))
    along = np.array([math.cos(math.radians(angle)), math.sin(math.radians(angle))])
    stretches: list[list[Points]] = []
    for line in lines:
        points = line.points if (line.points[1] - line.points[0]) @ along > 0 else line.points[::-1]
        before = [one for one in stretches if _follows(one[-1], points, cloth.spacing)]
        if len(before) == 1:
            before[0].append(points)
        else:
            stretches.append([points])
    found = []
    for some in stretches:
        left, right = np.array(some).transpose(1, 0, 2)
        found.append(Column((left + right) / 2.0, left, right))
    return found


def _follows(before: Points, line: Points, pitch: float) -> bool:
    """Whether a line of a row lies right over the last one, and begins and ends near it."""
    way = before[1] - before[0]
    length = max(float(np.hypot(*way)), JOINT)
    along = way / length
    across = abs(float((line[0] - before[0]) @ np.array([-along[1], along[0]])))
    begin, end = sorted(((line - before[0]) @ along).tolist())
    shared = min(end, length) - max(begin, 0.0)
    shorter = min(end - begin, length)
    longer = max(end - begin, length)
    return (
        0.5 * pitch < across < 1.5 * pitch
        and shared > _SHARED * shorter
        and (shorter > _ALIKE * longer or longer - shorter < _NEAR_ENDS * pitch)
    )


def filled(section: Column, cloth: Cloth) -> Points:
    """(k, 2) thread to and fro over the rows of a section."""
    found: list[Points] = []
    for index, ends in enumerate(zip(section.left, section.right, strict=True)):
        begin, end = ends if index % 2 == 0 else ends[::-1]
        length = math.dist(begin, end)
        first = cloth.row * (_PHASES[index % 4] or 1.0)
        stations = np.arange(first, length - 0.8, cloth.row)
        stations = stations[stations > 0.8] / max(length, JOINT)
        found += [begin[None], begin + stations[:, None] * (end - begin), end[None]]
    return without_short(np.concatenate(found))


def long_enough(points: Points) -> list[int]:
    """Which needle points are far enough from the one before to be sewn; the last one always is."""
    kept = [0]
    for index in range(1, len(points)):
        if math.dist(points[index], points[kept[-1]]) >= _SHORTEST:
            kept.append(index)
    if len(kept) > 1:
        kept[-1] = len(points) - 1
    return kept


def without_short(points: Points) -> Points:
    """Without stitches that are too short to be sewn; the last one stays where it is."""
    return points[long_enough(points)]


def cleared(thread: Thread) -> Thread:
    """Thread without stitches that are too short; its first and last points stay."""
    kept = long_enough(thread.points)
    return Thread(thread.points[kept], thread.what[kept])

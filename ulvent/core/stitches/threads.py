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
from ulvent.core.stitches.thread import Thread, What

_CORNER = math.radians(35.0)
_SHORTEST = 0.3
"""mm: what would be shorter is left out."""
_SATIN_SHORTEST = 0.5
"""mm: where satin is narrower than that, thread along it covers it."""
_HIDDEN, _HIDDEN_OFF = (What.WAY, What.UNDER), 0.5
"""Needle points that are sewn over are no nearer to what is seen, mm."""
_PHASES = (0.0, 0.5, 0.25, 0.75)
"""Of stitches in rows, in shares of their length, row by row: none lies beside its neighbour."""
_CROWDED = 0.48
"""Where one rail goes on by less than this share of the spacing before and after a needle point, on
average, it is crowded: without it its neighbours are still no farther apart than elsewhere."""
_ROUNDED_UP = 0.6
"""A stretch of 1.4 lengths is one too long stitch, or two too short ones: by as much, as shares
that are missed by a fifth go."""
_STRAIGHT_FROM = 4.0
"""mm: satin that is wider has its first and last stitch straight across."""
_DRAWN_IN = 0.3
_STAGGER = 0.12
_INSET = 0.03
"""mm from the edge of an area that a row stands which is meant to be on it."""
_SHARED, _ALIKE, _NEAR_ENDS = 0.5, 0.5, 8.0
"""Rows go on as one another where they have so much in common, and are not of too unlike lengths:
by the share of the longer one, or by so many rows."""


def running(points: Points, length: float) -> Points:
    """(k, 2) a line in stitches of about one length, a needle point at each corner that is not
    nearer than the shortest to another."""
    return without_short(even_places(points, length))


def even_places(points: Points, length: float) -> Points:
    """(k, 2) places on a line about one length apart, and at each corner, short ones too."""
    marks = [0, *_corners(points), len(points) - 1]
    found = [points[:1]]
    for begin, end in zip(marks[:-1], marks[1:], strict=True):
        walk = Polyline(points[begin : end + 1], False).walk()
        count = max(1, math.floor(walk.length / length + _ROUNDED_UP))
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


def satin(
    column: Column, cloth: Cloth, out: Points | None = None, straight_from: float = _STRAIGHT_FROM
) -> Points:
    """(k, 2) thread to and fro between the rails, made wider by what it will draw together, and
    left on the side that is nearer to a point. What is wider than `straight_from`, mm, begins and
    ends straight across: a stitch aslant would leave a strip open there.

    Stitches of one side are `spacing` apart on the longer of the two rails. On the inside of a
    bend, where they would crowd, every second one ends a little before the edge.
    """
    left, right = _widened(column, cloth.pull)
    last = 0
    if out is not None:
        last = int(np.argmin(np.hypot(*(np.array([left[-1], right[-1]]) - out).T)))
    points = _zigzag(left, right, cloth.spacing, last, straight=column.width > straight_from)
    return _split(without_short(_drawn_in(points, cloth.spacing), _SATIN_SHORTEST), cloth.split)


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


def _zigzag(
    left: Points, right: Points, spacing: float, last: int = 0, straight: bool = False
) -> Points:
    """To and fro, and to its end on the left (0) or the right (1).

    straight
        whether the first and the last stitch are straight across
    """
    steps = np.maximum(np.hypot(*np.diff(left, axis=0).T), np.hypot(*np.diff(right, axis=0).T))
    along = np.concatenate([[0.0], np.cumsum(steps)])
    count = max(2, math.ceil(along[-1] / (spacing / 2.0)))
    places = np.pad(np.linspace(0.0, along[-1], count + 1), int(straight), mode="edge")
    one, two = (
        np.stack([np.interp(places, along, rail[:, axis]) for axis in (0, 1)], axis=1)
        for rail in (left, right)
    )
    sides = np.arange(len(places))[::-1] % 2 == last
    points: Points = np.where(sides[:, None], one, two)
    return points


def _drawn_in(points: Points, spacing: float) -> Points:
    """Every second needle point of the inside of a bend nearer to the middle of its stitch."""
    found = points.copy()
    for side in (0, 1):
        mine = np.arange(side, len(points), 2)
        if len(mine) < 3:
            continue
        step = np.hypot(*np.diff(points[mine], axis=0).T)
        crowded = step[:-1] + step[1:] < 2.0 * _CROWDED * spacing
        second = mine[1:-1][crowded & (np.arange(len(crowded)) % 2 == 0)]
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


def row_sections(area: Region, cloth: Cloth, angle: float, to_edges: bool = False) -> list[Column]:
    """Stretches of rows that fill an area at an angle, degrees: a row from each rail to the other.

    Rows are as far apart as the spacing or a little nearer, so that the first and the last are half
    of that from the edge; for satin, which goes from row to row, right at the edge. Where a row has
    several lines each goes on in a stretch of its own.
    """
    if area.is_empty:
        return []
    turn = math.radians(angle)
    along = np.array([math.cos(turn), math.sin(turn)])
    upright = np.array([[along[0], along[1], 0.0], [-along[1], along[0], 0.0]])
    lying = area.transformed(upright)
    _, low, _, high = lying.bounds
    inset = min(_INSET, (high - low) / 10.0) if to_edges else 0.0
    deep = high - low - 2.0 * inset
    pitch = deep / math.ceil(deep / cloth.spacing)
    # The filling stands half a pitch up.
    down = low + inset - (pitch / 2.0 if to_edges else 0.0)
    rows = filling_lines(
        lying.transformed(np.array([[1.0, 0.0, 0.0], [0.0, 1.0, -down]])),
        Filling(pitch=pitch, overscan=0.0),
    )
    stretches: list[list[Points]] = []
    for row in rows:
        line = row.points if row.points[0, 0] < row.points[1, 0] else row.points[::-1]
        points: Points = (line + (0.0, down)) @ upright[:, :2]
        before = [one for one in stretches if _follows(one[-1], points, pitch)]
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


def filled(section: Column, cloth: Cloth, out: Points) -> Points:
    """(k, 2) thread to and fro over the rows of a section, left at the end nearer to a point."""
    off = np.hypot(*(np.array([section.left[-1], section.right[-1]]) - out).T)
    first = (len(section.axis) + int(np.argmin(off))) % 2
    found: list[Points] = []
    for index, ends in enumerate(zip(section.left, section.right, strict=True)):
        begin, end = ends if (index + first) % 2 == 0 else ends[::-1]
        length = math.dist(begin, end)
        phase = cloth.row * (_PHASES[index % 4] or 1.0)
        stations = np.arange(phase, length - 0.8, cloth.row)
        stations = stations[stations > 0.8] / max(length, JOINT)
        found += [begin[None], begin + stations[:, None] * (end - begin), end[None]]
    return without_short(np.concatenate(found))


def long_enough(points: Points, shortest: float = _SHORTEST) -> list[int]:
    """Which needle points are far enough from the one before to be sewn; the last one always is."""
    kept = [0] if len(points) else []
    for index in range(1, len(points)):
        if math.dist(points[index], points[kept[-1]]) >= shortest:
            kept.append(index)
    if len(kept) > 1:
        kept[-1] = len(points) - 1
    return kept


def without_short(points: Points, shortest: float = _SHORTEST) -> Points:
    """Without stitches that are too short to be sewn; the last one stays where it is."""
    return points[long_enough(points, shortest)]


def cleared(thread: Thread) -> Thread:
    """Thread without stitches that are too short; its first and last points stay.

    What is sewn over has no needle point near one that is seen, unless nothing of it would be left.
    """
    is_hidden = np.isin(thread.what, _HIDDEN)
    hidden = is_hidden.tolist()
    goes_on_hidden = (is_hidden & np.append(is_hidden[1:], False)).tolist()
    kept: list[int] = []
    for index in range(len(thread)):
        if not hidden[index]:
            while (
                len(kept) > 1
                and hidden[kept[-1]]
                and hidden[kept[-2]]
                and _apart(thread, kept, index) < _HIDDEN_OFF
            ):
                kept.pop()
        after_seen = bool(kept) and not hidden[kept[-1]] and goes_on_hidden[index]
        if not kept or _apart(thread, kept, index) >= (_HIDDEN_OFF if after_seen else _SHORTEST):
            kept.append(index)
    if len(kept) > 1:
        kept[-1] = len(thread) - 1
    return Thread(thread.points[kept], thread.what[kept])


def _apart(thread: Thread, kept: list[int], index: int) -> float:
    return math.dist(thread.points[kept[-1]], thread.points[index])

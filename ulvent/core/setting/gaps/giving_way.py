"""Letters of an evenly spaced row give way to letters of other turns and laps.

Nothing parts whole turns but the guide and the letters' height. A single letter whose tail
would touch a hat on the next turn needs little, though: it is moved along by as little as keeps
the floor, and by a quarter of the white between stems at most. What needs more stays where it
is, and the proof says so.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import Floats, Lengths, Stations
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves import Curve, Frames
from ulvent.core.setting.gaps.clearance import Clearance, least_distance
from ulvent.core.setting.gaps.neighbours import Turns

MOST_GIVEN = 0.25
"""A letter gives way by this share of the white between stems at most."""
_STEPS = 4
_HALVINGS = 5
_MOST_CROWDED = 12
"""Where more letters than this are too near, the turns are: giving way is no help."""


class Row(NamedTuple):
    """Rigid letters, and the frames in which they stand."""

    clearance: Clearance
    frames: Frames


def give_way(
    row: Row,
    middles: Stations,
    baseline: Curve,
    floors: Lengths,
    stems: Lengths,
    laps: Sequence[Row],
) -> Floats:
    """(n,) by how much letters of `row` move along so as to keep clear of other turns, mm.

    The first and the last one stay: fits and joints are held by them.

    Parameters
    ----------
    middles
        (n,) their stations on the baseline
    floors, stems
        (n − 1,) least white between neighbours, and the face's white between stems, mm
    laps
        rows that stand already
    """
    given = np.zeros(len(middles))
    rows = [row, *laps]
    turns = Turns.of([each.frames for each in rows], [baseline.closed] * len(rows))
    if not turns.several:
        return given
    crowded = _crowded(rows, turns, float(floors.max()))
    if len(crowded) > _MOST_CROWDED:
        return given
    for index, others in crowded.items():
        if index in (0, len(middles) - 1):
            continue
        given[index] = _least_way(row, index, others, float(middles[index]), baseline,
                                  floors, stems)  # fmt: skip
    return given


def _crowded(rows: list[Row], turns: Turns, floor: float) -> dict[int, list[tuple[Row, int]]]:
    """Letters of the first row that may be too near to some that stand before them."""
    polygons = np.concatenate([each.clearance.polygons(each.frames) for each in rows])
    owners = [(each, index) for each in rows for index in range(len(each.frames.points))]
    centres = polygons.mean(axis=1)
    radii = np.hypot(*(polygons - centres[:, None]).transpose(2, 0, 1)).max(axis=1)
    ones, twos = turns.pairs(centres, 2.0 * float(radii.max()) + floor)
    # Of two letters of one row the later one gives way.
    both = turns.rows[twos] == 0
    mine, theirs = np.where(both, twos, ones), np.where(both, ones, twos)
    ways = centres[theirs] - centres[mine]
    ways = ways / np.maximum(np.hypot(*ways.T), JOINT)[:, None]
    own = np.einsum("nki,ni->nk", polygons[mine], ways).max(axis=1)
    far = np.einsum("nki,ni->nk", polygons[theirs], ways).min(axis=1)
    near = (far - own < floor) & (turns.rows[mine] == 0)
    found: dict[int, list[tuple[Row, int]]] = {}
    for index, other in zip(mine[near].tolist(), theirs[near].tolist(), strict=True):
        found.setdefault(index, []).append(owners[other])
    return found


def _least_way(
    row: Row,
    index: int,
    others: list[tuple[Row, int]],
    middle: float,
    baseline: Curve,
    floors: Lengths,
    stems: Lengths,
) -> float:
    """The least way along, either way, on which a letter is clear of the `others`; 0 for none."""
    beside = [index - 1, index]
    floor, most = float(floors[beside].min()), MOST_GIVEN * float(stems[beside].min())
    # Between the points that stand for outlines these may be a little nearer.
    floor = float(np.hypot(floor, row.clearance.points_apart(index)))
    outlines = [each.clearance.outline(other, each.frames) for each, other in others]
    neighbours = [row.clearance.outline(near, row.frames) for near in (index - 1, index + 1)]

    def clear(way: float) -> bool:
        mine = row.clearance.outline(index, baseline.frames(middle + way), place=0)
        if any(least_distance(mine, outline) < floor for outline in outlines):
            return False
        return way == 0.0 or all(least_distance(mine, near) >= floor for near in neighbours)

    if clear(0.0):
        return 0.0
    for step in np.arange(1, _STEPS + 1) / _STEPS * most:
        for way in (step, -step):
            if clear(way):
                return _nearest_clear(clear, way - np.copysign(most / _STEPS, way), way)
    return 0.0


def _nearest_clear(clear: Callable[[float], bool], low: float, high: float) -> float:
    """Between a way on which it is not clear and one on which it is."""
    for _ in range(_HALVINGS):
        middle = (low + high) / 2.0
        low, high = (low, middle) if clear(middle) else (middle, high)
    return float(high)

"""Letters of an evenly spaced row give way to letters of other turns and laps.

Nothing parts whole turns but the guide and the letters' height. A single letter whose tail
would touch a hat on the next turn needs little, though: it is moved along by as little as keeps
the floor, and by a quarter of the white between stems at most. What needs more stays where it
is, and the proof says so.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ulvent.core.curves import Curve, Frames
from ulvent.core.faces import Cluster, Face, PlacedGlyph
from ulvent.core.setting.clearance import (
    POINTS_APART,
    least_distance,
    outline_points,
    polygon_round,
)
from ulvent.core.tolerances import JOINT

Floats = NDArray[np.float64]
Glyphs = tuple[PlacedGlyph, ...]

MOST_GIVEN = 0.25
"""A letter gives way by this share of the white between stems at most."""
_HALF_TURN = np.pi
"""Letters of an open row stand on different turns when the guide turns by more between them."""
_STEPS = 4
_HALVINGS = 5
_MOST_CROWDED = 12
"""Where more letters than this are too near, the turns are: giving way is no help."""


@dataclass(frozen=True, eq=False)
class Row:
    """Rigid letters on their baseline. Arrays run over them.

    scales
        (n,) mm per font unit
    frames
        of the baseline at the middles of their advances
    """

    face: Face
    clusters: tuple[Cluster, ...]
    scales: Floats
    frames: Frames

    def polygons(self) -> Floats:
        """(n, corners, 2) polygons round the letters as they stand, mm."""
        found = [self._own(index, polygon_round) for index in range(len(self.clusters))]
        return _placed(np.stack(found), self.frames)

    def outline(self, index: int, frames: Frames | None = None) -> Floats:
        """(m, 2) points along a letter as it stands, mm, or as it would at one place's `frames`."""
        at = frames or _one(self.frames, index)
        points: Floats
        (points,) = _placed(self._own(index, outline_points)[None], at)
        return points

    def _own(self, index: int, points_of: Callable[[Face, Glyphs], Floats]) -> Floats:
        """Points of a letter from the middle of its advance, mm."""
        cluster = self.clusters[index]
        points = points_of(self.face, cluster.glyphs) - (cluster.advance / 2.0, 0.0)
        own: Floats = points * self.scales[index]
        return own


def give_way(
    row: Row, middles: Floats, baseline: Curve, floors: Floats, stems: Floats, laps: Sequence[Row]
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
    if not laps and (baseline.closed or np.ptp(row.frames.turnings) <= _HALF_TURN):
        return given
    crowded = _crowded(row, baseline.closed, float(floors.max()), laps)
    if len(crowded) > _MOST_CROWDED:
        return given
    for index, others in crowded.items():
        if index in (0, len(middles) - 1):
            continue
        given[index] = _least_way(row, index, others, float(middles[index]), baseline,
                                  floors, stems)  # fmt: skip
    return given


def _crowded(
    row: Row, closed: bool, floor: float, laps: Sequence[Row]
) -> dict[int, list[tuple[Row, int]]]:
    """Letters of a row that may be too near to some that stand before them on other turns."""
    from scipy.spatial import cKDTree

    rows = [row, *laps]
    polygons = np.concatenate([each.polygons() for each in rows])
    owners = [(each, index) for each in rows for index in range(len(each.clusters))]
    centres = polygons.mean(axis=1)
    radii = np.hypot(*(polygons - centres[:, None]).transpose(2, 0, 1)).max(axis=1)
    pairs = cKDTree(centres).query_pairs(2.0 * float(radii.max()) + floor, output_type="ndarray")
    count = len(row.clusters)
    ones, twos = pairs.min(axis=1), pairs.max(axis=1)
    turnings = row.frames.turnings
    inside = twos < count
    turned = np.abs(turnings[np.minimum(twos, count - 1)] - turnings[np.minimum(ones, count - 1)])
    on_turns = inside & (turned > _HALF_TURN) & (not closed)
    wanted = (ones < count) & (~inside | on_turns)
    # Of two letters of one row the later one gives way.
    mine, theirs = np.where(inside, twos, ones)[wanted], np.where(inside, ones, twos)[wanted]
    ways = centres[theirs] - centres[mine]
    ways = ways / np.maximum(np.hypot(*ways.T), JOINT)[:, None]
    own = np.einsum("nki,ni->nk", polygons[mine], ways).max(axis=1)
    far = np.einsum("nki,ni->nk", polygons[theirs], ways).min(axis=1)
    found: dict[int, list[tuple[Row, int]]] = {}
    for index, other in zip(mine[far - own < floor], theirs[far - own < floor], strict=True):
        found.setdefault(int(index), []).append(owners[other])
    return dict(sorted(found.items()))


def _least_way(
    row: Row,
    index: int,
    others: list[tuple[Row, int]],
    middle: float,
    baseline: Curve,
    floors: Floats,
    stems: Floats,
) -> float:
    """The least way along, either way, on which a letter is clear of the `others`; 0 for none."""
    beside = [pair for pair in (index - 1, index) if 0 <= pair < len(floors)]
    floor, most = float(floors[beside].min()), MOST_GIVEN * float(stems[beside].min())
    # Between the points that stand for outlines these may be a little nearer.
    floor = float(np.hypot(floor, POINTS_APART * row.face.metrics.cap_height * row.scales[index]))
    outlines = [each.outline(other) for each, other in others]
    neighbours = [
        row.outline(near) for near in (index - 1, index + 1) if 0 <= near < len(row.clusters)
    ]

    def clear(way: float) -> bool:
        mine = row.outline(index, baseline.frames(middle + way))
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


def _one(frames: Frames, index: int) -> Frames:
    which = slice(index, index + 1)
    return Frames(frames.points[which], frames.tangents[which], frames.curvatures[which],
                  frames.turnings[which])  # fmt: skip


def _placed(own: Floats, frames: Frames) -> Floats:
    """(n, m, 2) points of n letters where their frames are."""
    across = own[..., :1] * frames.tangents[:, None] + own[..., 1:] * frames.normals[:, None]
    placed: Floats = frames.points[:, None] + across
    return placed

"""Letters of one line that lie on each other where they stand, their whole outlines looked at."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.base.tolerances import NIL
from ulvent.core.base.trees import point_tree
from ulvent.core.setting import Setting
from ulvent.core.setting.gaps.clearance import polygon_about, polygon_round
from ulvent.core.setting.letters.words import join_each_other
from ulvent.core.shapes import Region

_SLIVER = 1e-4
"""An area in common is none up to this share of a capital's height squared."""

Crossing = tuple[int, int, float]
"""Two letters of a line, and the area that they have in common, mm²."""


def crossing_letters(line: Setting, most: int | None = None) -> tuple[list[Crossing], bool]:
    """The pairs that have an area in common though it is not by design, the largest first.

    Letters that are not drawn are left out, and those that overlap where their designer put
    them, or since they join. Of very many pairs that may cross, the `most` that look deepest
    are measured; whether any was not is said too.
    """
    by_design = line.face.single_stroke or line.lettering.spacing == "overlap"
    if by_design or len(line.clusters) < 2:
        return [], False
    areas: dict[int, Region] = {}

    def area(index: int) -> Region:
        if index not in areas:
            areas[index] = (
                Region.of(line.placed_outline(index))
                if line.bent
                else Region.of(line.outline(index), line.matrices[index])
            )
        return areas[index]

    least = _SLIVER * line.capital**2
    found: list[Crossing] = []
    pairs = [
        pair
        for pair in _near_pairs(_polygons(line))
        if line.drawn[list(pair)].all() and not _by_design(line, *pair)
    ]
    for one, two in pairs[:most]:
        common = area(one).meet(area(two)).area
        if common > least:
            found.append((one, two, common))
    return sorted(found, key=lambda each: -each[2]), most is not None and len(pairs) > most


def _polygons(line: Setting) -> Points:
    """(n, corners, 2) polygons round the letters where they stand, mm."""
    if line.bent:
        count = range(len(line.clusters))
        return np.array([polygon_about(line.placed_outline(index).points) for index in count])
    own = [polygon_round(line.face, cluster.glyphs) for cluster in line.clusters]
    placed: Points = np.einsum("nij,nkj->nki", line.matrices[:, :, :2], np.array(own))
    return placed + line.matrices[:, None, :, 2]


def _near_pairs(polygons: Points) -> list[tuple[int, int]]:
    """Pairs that no line square to that between their middles parts, the deepest first."""
    lows, highs = polygons.min(axis=1), polygons.max(axis=1)
    middles = (lows + highs) / 2.0
    reach = float(np.hypot(*(highs - lows).T).max())
    pairs = point_tree(middles).query_pairs(reach, output_type="ndarray")
    one, two = pairs.T
    ways = middles[two] - middles[one]
    ends = np.einsum("nki,ni->nk", polygons[one], ways).max(axis=1)
    begins = np.einsum("nki,ni->nk", polygons[two], ways).min(axis=1)
    deep = (ends - begins) / np.maximum(np.hypot(*ways.T), NIL)
    order = np.argsort(-deep, kind="stable")
    near = pairs[order[deep[order] >= 0.0]]
    return [(min(pair), max(pair)) for pair in near.tolist()]


def _by_design(line: Setting, one: int, two: int) -> bool:
    if two != one + 1 or line.runs[one] != line.runs[two]:
        return False
    first, second = line.clusters[one], line.clusters[two]
    return join_each_other(line.face, first, second) or line.face.touching(first, second)

"""How letters stand: on the baseline, stacked, upright, or reading away from the guide."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ulvent.core.base.arrays import Floats, rotated
from ulvent.core.curves import Frames
from ulvent.core.faces import Cluster, Face
from ulvent.core.stances.stacking import stacked_span


@dataclass(frozen=True, eq=False)
class Stances:
    """Of n letters: the middles of their feet, and unit vectors to the right and up, (n, 2).

    on_baseline
        whether they stand on it as letters do on a line, so that gaps can be measured
    """

    feet: Floats
    rights: Floats
    ups: Floats
    on_baseline: bool = True


def on_baseline(frames: Frames) -> Stances:
    """Letters on the baseline, turned to its tangent."""
    return Stances(frames.points, frames.tangents, frames.normals)


def stacked(
    frames: Frames, face: Face, clusters: tuple[Cluster, ...], scales: Floats, upright: bool
) -> Stances:
    """Letters with their middles on the guide, heads toward its start, or upright to the page."""
    spans = np.array([stacked_span(face, cluster) for cluster in clusters]).reshape(-1, 2)
    middles = spans.sum(axis=1) / 2.0 * scales
    rights, ups = frames.normals, -frames.tangents
    if upright:
        rights = np.tile([1.0, 0.0], (len(clusters), 1))
        ups = np.tile([0.0, 1.0], (len(clusters), 1))
    return Stances(frames.points - ups * middles[:, None], rights, ups, on_baseline=False)


def straight(frames: Frames, which: NDArray[np.int_], offsets: Floats, how: str, lift: Floats,
             reach: Floats) -> Stances:  # fmt: skip
    """Letters of labels that are straight.

    Parameters
    ----------
    frames
        of the baseline at the labels' middles
    which, offsets
        (n,) the label of each letter, and its middle's distance from the label's middle, mm
    how
        `tangent`, `upright`, `away` or `toward`
    lift
        (labels,) half the height of a capital, mm
    reach
        (labels,) half the label's length, mm
    """
    points, tangents, normals = frames.points, frames.tangents, frames.normals
    if how == "tangent":
        rights, ups, middles = tangents, normals, points + normals * lift[:, None]
    elif how == "upright":
        rights = np.tile([1.0, 0.0], (len(points), 1))
        ups = np.tile([0.0, 1.0], (len(points), 1))
        middles = points + normals * lift[:, None]
    else:
        way = 1.0 if how == "away" else -1.0
        rights, ups = way * normals, -way * tangents
        middles = points + normals * reach[:, None]
    feet = middles - ups * lift[:, None]
    rights, ups = rights[which], ups[which]
    return Stances(feet[which] + rights * offsets[:, None], rights, ups, on_baseline=False)


def turned_by_hand(stances: Stances, across: Floats, turns: Floats, lift: Floats) -> Stances:
    """Letters moved toward their heads, and turned about a point `lift` mm above their feet."""
    feet = stances.feet + stances.ups * across[:, None]
    if not turns.any():
        return Stances(feet, stances.rights, stances.ups, stances.on_baseline)
    pivots = feet + stances.ups * lift[:, None]
    rights, ups = rotated(stances.rights, turns), rotated(stances.ups, turns)
    return Stances(pivots - ups * lift[:, None], rights, ups, stances.on_baseline)


def turned_about(stances: Stances, which: NDArray[np.int_], pivots: Floats, turns: Floats,
                 moved: Floats) -> Stances:  # fmt: skip
    """Whole labels turned about `pivots` (labels, 2) by `turns` and moved by `moved`."""
    angles = turns[which]
    feet = pivots[which] + rotated(stances.feet - pivots[which], angles) + moved[which]
    return Stances(
        feet, rotated(stances.rights, angles), rotated(stances.ups, angles), stances.on_baseline
    )

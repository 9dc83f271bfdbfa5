"""Where letters stand and how each is turned, whatever the stance."""

from __future__ import annotations

from dataclasses import dataclass

from ulvent.core.base.arrays import Floats, Integers, Points, rotated
from ulvent.core.curves import Frames


@dataclass(frozen=True, eq=False)
class Poses:
    """Of n letters: the middles of their feet, and unit vectors to the right and up, (n, 2).

    on_baseline
        whether they stand on it as letters do on a line, so that gaps can be measured
    """

    feet: Floats
    rights: Floats
    ups: Floats
    on_baseline: bool = True


def on_baseline(frames: Frames) -> Poses:
    """Letters on the baseline, turned to its tangent."""
    return Poses(frames.points, frames.tangents, frames.normals)


def turned_by_hand(poses: Poses, across: Floats, turns: Floats, lift: Floats) -> Poses:
    """Letters moved toward their heads, and turned about a point `lift` mm above their feet."""
    feet = poses.feet + poses.ups * across[:, None]
    if not turns.any():
        return Poses(feet, poses.rights, poses.ups, poses.on_baseline)
    pivots = feet + poses.ups * lift[:, None]
    rights, ups = rotated(poses.rights, turns), rotated(poses.ups, turns)
    return Poses(pivots - ups * lift[:, None], rights, ups, poses.on_baseline)


def turned_about(poses: Poses, which: Integers, pivots: Points, turns: Floats,
                 moved: Floats) -> Poses:  # fmt: skip
    """Whole labels turned about `pivots` (labels, 2) by `turns` and moved by `moved`."""
    angles = turns[which]
    feet = pivots[which] + rotated(poses.feet - pivots[which], angles) + moved[which]
    return Poses(feet, rotated(poses.rights, angles), rotated(poses.ups, angles), poses.on_baseline)

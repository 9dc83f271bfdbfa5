"""How straight labels stand: along the guide, upright to the page, away from it or toward it."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Floats
from ulvent.core.curves import Frames
from ulvent.core.stances.poses import Poses
from ulvent.core.stances.stance import LabelStance

Posed = tuple[Floats, Floats, Floats]


def _along(frames: Frames, lift: Floats, _: Floats) -> Posed:
    return frames.tangents, frames.normals, frames.points + frames.normals * lift[:, None]


def _upright(frames: Frames, lift: Floats, _: Floats) -> Posed:
    rights, ups = (np.tile(way, (len(lift), 1)) for way in ([1.0, 0.0], [0.0, 1.0]))
    return rights, ups, frames.points + frames.normals * lift[:, None]


def _away(frames: Frames, _: Floats, reach: Floats) -> Posed:
    middles = frames.points + frames.normals * reach[:, None]
    return frames.normals, -frames.tangents, middles


def _toward(frames: Frames, _: Floats, reach: Floats) -> Posed:
    middles = frames.points + frames.normals * reach[:, None]
    return -frames.normals, frames.tangents, middles


ALL = (
    LabelStance("on-guide", "on it", 10, _along, on_line=True),
    LabelStance("upright", "upright", 20, _upright),
    LabelStance("away", "outward", 30, _away),
    LabelStance("toward", "inward", 40, _toward),
)


def straight(stance: LabelStance, frames: Frames, which: np.ndarray, offsets: Floats,
             lift: Floats, reach: Floats) -> Poses:  # fmt: skip
    """Letters of labels that are straight.

    Parameters
    ----------
    frames
        of the baseline at the labels' middles
    which, offsets
        (n,) the label of each letter, and its middle's distance from the label's middle, mm
    lift
        (labels,) half the height of a capital, mm
    reach
        (labels,) half the label's length, mm
    """
    rights, ups, middles = stance.posing(frames, lift, reach)
    feet = middles - ups * lift[:, None]
    rights, ups = rights[which], ups[which]
    return Poses(feet[which] + rights * offsets[:, None], rights, ups, on_baseline=False)

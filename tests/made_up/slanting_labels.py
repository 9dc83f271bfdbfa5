"""A made-up stance of straight labels: all of them rise to the right."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Floats
from ulvent.core.curves import Frames
from ulvent.core.stances.stance import LabelStance


def _slanting(frames: Frames, lift: Floats, _: Floats) -> tuple[Floats, Floats, Floats]:
    rights, ups = (np.tile(way, (len(lift), 1)) for way in ([0.8, 0.6], [-0.6, 0.8]))
    return rights, ups, frames.points


STANCE = LabelStance("slanting", "slanting", 50, _slanting)

"""A made-up stance: letters that lean back by as much everywhere."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Floats, rotated
from ulvent.core.curves import Frames
from ulvent.core.faces import Cluster, Face
from ulvent.core.stances.poses import Poses
from ulvent.core.stances.stance import Stance

LEAN = 20.0
"""Degrees."""


def _posing(frames: Frames, _face: Face, clusters: tuple[Cluster, ...], _scales: Floats) -> Poses:
    lean = np.full(len(clusters), np.radians(LEAN))
    return Poses(frames.points, rotated(frames.tangents, lean), rotated(frames.normals, lean))


STANCE = Stance("leaning", "leaning", 25, posing=_posing)

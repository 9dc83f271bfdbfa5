"""Letters stacked down the guide, upright to the page."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Scales
from ulvent.core.curves import Frames
from ulvent.core.faces import Cluster, Face
from ulvent.core.stances.poses import Poses
from ulvent.core.stances.stacking import stacked_extents, stacked_poses
from ulvent.core.stances.stance import Stance


def _posing(frames: Frames, face: Face, clusters: tuple[Cluster, ...], scales: Scales) -> Poses:
    rights, ups = (np.tile(way, (len(clusters), 1)) for way in ([1.0, 0.0], [0.0, 1.0]))
    return stacked_poses(frames, rights, ups, face, clusters, scales)


STANCE = Stance(
    "stacked-upright", "stacked, upright", 40, side_by_side=False, extents=stacked_extents,
    posing=_posing,
)  # fmt: skip

"""Letters stacked down the guide, their heads toward its start."""

from __future__ import annotations

from ulvent.core.base.arrays import Scales
from ulvent.core.curves import Frames
from ulvent.core.faces import Cluster, Face
from ulvent.core.stances.poses import Poses
from ulvent.core.stances.stacking import stacked_extents, stacked_poses
from ulvent.core.stances.stance import Stance


def _posing(frames: Frames, face: Face, clusters: tuple[Cluster, ...], scales: Scales) -> Poses:
    return stacked_poses(frames, frames.normals, -frames.tangents, face, clusters, scales)


STANCE = Stance(
    "stacked", "stacked", 30, side_by_side=False, extents=stacked_extents, posing=_posing
)

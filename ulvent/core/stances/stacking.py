"""Letters stacked down a guide: how much of it each takes up.

Letters stand head up, one below the other. Flat and round letters of one kind take the
same extent, so that round ones overshoot as they do on a line.
"""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Floats, Scales
from ulvent.core.curves import Frames
from ulvent.core.faces import Cluster, Face
from ulvent.core.faces.sides import stem_white
from ulvent.core.stances.poses import Poses

_SPACE_SHARE = 0.6
"""What a space takes up, in capitals' heights."""
_OVERSHOOT = 0.06
"""By how much of the capitals' height round letters may miss a line and still be on it."""


def stacked_extents(face: Face, clusters: tuple[Cluster, ...]) -> Floats:
    """(n,) font units of the guide that each letter takes up, its white included."""
    white = stem_white(face, "capital")
    space = _SPACE_SHARE * face.metrics.cap_height
    spans = (stacked_span(face, cluster) for cluster in clusters)
    return np.array([high - low + white if high > low else space for low, high in spans])


def stacked_span(face: Face, cluster: Cluster) -> tuple[float, float]:
    """Foot and head of a letter, font units, on the face's own lines where it nearly is."""
    outline = face.cluster_outline(cluster.glyphs)
    if not outline:
        return 0.0, 0.0
    metrics = face.metrics
    _, low, _, high = outline.bounds()
    near = _OVERSHOOT * metrics.cap_height
    low = 0.0 if abs(low) <= near else low
    for line in (metrics.cap_height, metrics.x_height):
        high = line if abs(high - line) <= near else high
    return low, high


def stacked_poses(
    frames: Frames, rights: Floats, ups: Floats, face: Face, clusters: tuple[Cluster, ...],
    scales: Scales,
) -> Poses:  # fmt: skip
    """Letters with their middles on the guide."""
    spans = np.array([stacked_span(face, cluster) for cluster in clusters]).reshape(-1, 2)
    middles = spans.sum(axis=1) / 2.0 * scales
    return Poses(frames.points - ups * middles[:, None], rights, ups, on_baseline=False)

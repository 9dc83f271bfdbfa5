"""How near neighbouring letters come to each other, their whole outlines looked at."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ulvent.core.curves import Frames
from ulvent.core.faces import Cluster, Face, PlacedGlyph

Floats = NDArray[np.float64]

FAR = 0.1
ROW_SHARE = 0.02
"""Rows in which the distance of whole outlines is looked at, of the capitals' height."""
_STRAIGHT = 1e-12


class Clearance:
    """Of one row of letters, wherever on a curve they are put."""

    def __init__(
        self, face: Face, clusters: tuple[Cluster, ...], scales: Floats, bent: bool
    ) -> None:
        self._face, self._clusters, self._scales, self._bent = face, clusters, scales, bent
        self._halves = np.array([cluster.advance for cluster in clusters]) * scales / 2.0

    def on_curve(self, frames: Frames, which: NDArray[np.int_]) -> Floats:
        """(k,) least distance between the whole outlines of the pairs `which`, mm.

        Of outlines that cross, by how much they overlap in a row across the line midway
        between the two letters, less than none. What is farther apart than `FAR` of a
        capital's height may be said to be somewhat farther.
        """
        return np.array([self._clear(int(pair), frames) for pair in which])

    def _clear(self, pair: int, frames: Frames) -> float:
        one, two = (self._standing(index, frames) for index in (pair, pair + 1))
        along = frames.tangents[pair] + frames.tangents[pair + 1]
        along = along / max(float(np.hypot(*along)), _STRAIGHT)
        axes = np.stack([along, [-along[1], along[0]]], axis=1)
        first, second = one @ axes, two @ axes
        step = ROW_SHARE * self._face.metrics.cap_height * float(self._scales[pair])
        low = min(first[:, 1].min(), second[:, 1].min())
        rows = int((max(first[:, 1].max(), second[:, 1].max()) - low) / step) + 1
        right, left = np.full(rows, -np.inf), np.full(rows, np.inf)
        np.maximum.at(right, ((first[:, 1] - low) / step).astype(int), first[:, 0])
        np.minimum.at(left, ((second[:, 1] - low) / step).astype(int), second[:, 0])
        # A row and the two beside it: what is near across rows is near as well.
        wide = np.maximum(right, np.maximum(np.append(right[1:], -np.inf),
                                            np.append(-np.inf, right[:-1])))  # fmt: skip
        in_rows = float((left - wide).min())
        if in_rows > FAR * step / ROW_SHARE:
            return in_rows
        from scipy.spatial import cKDTree

        apart = float(cKDTree(one).query(two)[0].min())
        return apart if apart > step / 2.0 else min(in_rows, apart)

    def _standing(self, index: int, frames: Frames) -> Floats:
        """Points along a letter's outline where it stands, (m, 2), mm."""
        points = _outline_points(self._face, self._clusters[index].glyphs) * self._scales[index]
        across = points[:, :1] - self._halves[index]
        if self._bent:
            # Under one letter the curve is taken for its circle of curvature. There
            # sin(t)/κ and (1 − cos t)/κ are x·sinc(t) and x·sin(t/2)·sinc(t/2), also at κ = 0.
            turned = across * frames.curvatures[index]
            chord = across * np.sinc(turned / (2.0 * np.pi))
            feet = np.hstack([chord * np.cos(turned / 2.0), chord * np.sin(turned / 2.0)])
            points = feet + np.hstack([-np.sin(turned), np.cos(turned)]) * points[:, 1:]
        else:
            points = np.hstack([across, points[:, 1:]])
        axes = np.stack([frames.tangents[index], frames.normals[index]])
        standing: Floats = frames.points[index] + points @ axes
        return standing


def straight_clearance(
    face: Face, clusters: tuple[Cluster, ...], scales: Floats, starts: Floats
) -> Floats:
    """(n − 1,) `Clearance` of rigid letters that begin at `starts` on a straight line, mm.

    Remembered: it stays what it is while a row is pulled along its guide.
    """
    return _straight_clearance(face, clusters, scales.tobytes(), starts.tobytes())


@lru_cache(256)
def _straight_clearance(
    face: Face, clusters: tuple[Cluster, ...], scale_bytes: bytes, start_bytes: bytes
) -> Floats:
    scales, starts = np.frombuffer(scale_bytes), np.frombuffer(start_bytes)
    halves = np.array([cluster.advance for cluster in clusters]) * scales / 2.0
    level = np.tile([1.0, 0.0], (len(starts), 1))
    zeros = np.zeros(len(starts))
    frames = Frames(np.stack([starts + halves, zeros], axis=1), level, zeros, zeros)
    clearance = Clearance(face, clusters, scales, bent=False)
    return clearance.on_curve(frames, np.arange(len(clusters) - 1))


@lru_cache(2048)
def _outline_points(face: Face, glyphs: tuple[PlacedGlyph, ...]) -> Floats:
    """Points along an outline, (m, 2), less than half a row of `clearance` apart, font units."""
    step = 0.45 * ROW_SHARE * face.metrics.cap_height
    found: list[Floats] = []
    for points, closed in face.cluster_outline(glyphs).polylines:
        starts = points if closed else points[:-1]
        ends = np.roll(points, -1, axis=0) if closed else points[1:]
        counts = np.maximum(np.ceil(np.hypot(*(ends - starts).T) / step), 1.0).astype(int)
        which = np.repeat(np.arange(len(starts)), counts)
        shares = np.concatenate([np.arange(count) / count for count in counts])[:, None]
        found.append(starts[which] + shares * (ends - starts)[which])
    return np.concatenate(found)

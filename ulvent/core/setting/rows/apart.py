"""Stacked and upright letters apart by the white that is really between them.

Letters that do not stand side by side on the baseline have no gap that a designer made. Even
gaps are then one distance from ink to ink, measured as the letters stand.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from ulvent.core.base.arrays import Floats, Lengths, Points, Stations
from ulvent.core.curves import Frames, Parallel
from ulvent.core.faces import Cluster, Face
from ulvent.core.outlines import Outline
from ulvent.core.setting.rows.inked import InkedLetters
from ulvent.core.stances.poses import Poses

PosesAt = Callable[[Frames, tuple[Cluster, ...], Floats], Poses]
"""How letters stand, given the frames at their middles, the letters, and mm per font unit."""

_FLAT = 6
"""Pieces that a curve of an outline is looked at in."""
_MOST_POINTS = 160
_HALVINGS = 22
_ROUNDS = 3
_NEAREST, _FARTHEST = 0.2, 6.0
"""How near and how far a letter is looked for from the one before it, in heights of letters."""


class Apart:
    """Letters of a row that are set apart by one distance."""

    def __init__(
        self, face: Face, letters: InkedLetters, baseline: Parallel, stand: PosesAt
    ) -> None:
        self._letters, self._baseline, self._stand = letters, baseline, stand
        outlines = [face.cluster_outline(cluster.glyphs) for cluster in letters.clusters]
        halves = [cluster.advance / 2.0 for cluster in letters.clusters]
        self._ink = [
            (_points(outline) - np.array([half, 0.0])) * scale
            for outline, half, scale in zip(outlines, halves, letters.scales, strict=True)
        ]
        self._height = float(letters.scales.max()) * face.metrics.cap_height

    def placed(self, middles: Stations, share: float) -> Stations:
        """Middles with which all letters of a word are as far apart as they are on average.

        `share` of what the row becomes longer is added before its anchor.
        """
        extra = self._extra()
        wanted = float(np.mean(self._distances(middles) - extra)) + extra
        first, last = middles[0], middles[-1]
        found = self._marched(first, wanted)
        for _ in range(_ROUNDS if share else 0):
            grown = (found[-1] - found[0]) - (last - first)
            found = self._marched(first - share * grown, wanted)
        return found

    def _extra(self) -> Lengths:
        """(n − 1,) what spaces between words add, mm."""
        letters = self._letters
        ends = letters.starts[:-1] + letters.extents[:-1]
        usual = np.median(letters.starts[1:] - ends) if len(ends) else 0.0
        extra: Lengths = np.maximum(letters.starts[1:] - ends - usual, 0.0)
        return extra

    def _marched(self, first: float, wanted: Lengths) -> Stations:
        """Each letter put where it is as far from the one before as is wanted."""
        found = [float(first)]
        for index, distance in enumerate(wanted.tolist()):
            here = self._at(index, found[-1])
            low = found[-1] + _NEAREST * self._height
            high = low + _FARTHEST * self._height + distance
            for _ in range(_HALVINGS):
                middle = (low + high) / 2.0
                if _distance(here, self._at(index + 1, middle)) < distance:
                    low = middle
                else:
                    high = middle
            found.append(high)
        return np.array(found)

    def _distances(self, middles: Stations) -> Lengths:
        there = [self._at(index, float(at)) for index, at in enumerate(middles)]
        return np.array([_distance(a, b) for a, b in zip(there[:-1], there[1:], strict=True)])

    def _at(self, index: int, middle: float) -> Points:
        """The ink of a letter where it stands, mm."""
        frames = self._baseline.frames(np.array([middle]))
        scales = self._letters.scales[index : index + 1]
        poses = self._stand(frames, self._letters.clusters[index : index + 1], scales)
        x, y = self._ink[index].T
        points: Points = poses.feet[0] + x[:, None] * poses.rights[0] + y[:, None] * poses.ups[0]
        return points


def _points(outline: Outline) -> Points:
    """Points all along an outline, font units."""
    rings = [line.ends_met for line in outline.flattened(_FLAT)]
    dense = [_dense(ring) for ring in rings]
    points = np.concatenate(dense)
    step = max(1, len(points) // _MOST_POINTS)
    return points[::step]


def _dense(ring: Points) -> Points:
    """A ring with points on its long sides too."""
    sides = np.hypot(*np.diff(ring, axis=0).T)
    along = np.concatenate([[0.0], np.cumsum(sides)])
    count = max(len(ring), _MOST_POINTS)
    at = np.union1d(along, np.linspace(0.0, along[-1], count))
    return np.stack([np.interp(at, along, ring[:, axis]) for axis in (0, 1)], axis=1)


def _distance(one: Points, two: Points) -> float:
    """From ink to ink, mm; nothing where one lies in the other's reach is not looked for."""
    off = one[:, None] - two[None]
    return float(np.sqrt((off * off).sum(axis=2).min()))

"""Outlines as cubic pieces, sampled: what distances are looked for on.

Whole outlines come near to one another or to an edge at some point of some piece. Samples that
can be near that are found with a tree; then a window of parameters round the best sample is
sampled anew and narrowed, until what is left no longer matters.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import Controls, Floats, Integers, Lengths, Points
from ulvent.core.curves.cubics import points_at
from ulvent.core.setting import Setting

WINDOW = 9
"""Samples across a window of parameters."""
NARROWER = 0.3
"""By what a window is narrowed each round; more than the step from sample to sample in it."""
ROUNDS = 12
_STEP = 0.05
"""From sample to sample along outlines, in the height of the largest letter."""
_SAMPLES = (4, 200)
"""Of each cubic, at least and at most."""


class Cubics(NamedTuple):
    """Cubic pieces of outlines, (k, 4, 2), mm, and the letter each belongs to, (k,)."""

    controls: Controls
    letters: Integers

    def points(self, which: Integers, t: Floats) -> Floats:
        """(n, 2) points of pieces `which` at parameters `t`."""
        return points_at(self.controls[which], t)

    def samples(self) -> Samples:
        """Samples along all pieces, ends included."""
        lengths = np.hypot(*np.diff(self.controls, axis=1).transpose(2, 0, 1)).sum(axis=1)
        _, firsts = np.unique(self.letters, return_index=True)
        heights = self.controls[:, :, 1]
        tops = np.maximum.reduceat(heights.max(axis=1), firsts)
        tall = float((tops - np.minimum.reduceat(heights.min(axis=1), firsts)).max())
        step = _STEP * max(tall, float(lengths.max()) / _SAMPLES[1])
        counts = np.clip(np.ceil(lengths / step).astype(int) + 1, *_SAMPLES)
        which = np.repeat(np.arange(len(counts)), counts)
        widths = 1.0 / (counts - 1.0)
        firsts = np.cumsum(counts) - counts
        t = (np.arange(len(which)) - firsts[which]) * widths[which]
        points = self.points(which, t)
        chords = np.hypot(*np.diff(points, axis=0).T)[np.diff(which) == 0]
        widest = float(chords.max(initial=0.0))
        return Samples(which, t, points, self.letters[which], widths, widest)


class Samples(NamedTuple):
    """Samples of cubics: pieces, parameters, points, letters.

    widths
        (k,) from sample to sample of each piece, in its parameter
    step
        from sample to sample at most, mm
    """

    which: Integers
    t: Floats
    points: Points
    letters: Integers
    widths: Lengths
    step: float


def cubics_of(lines: Iterable[Setting]) -> Cubics:
    """All letters of some lines where they stand; letters are counted through."""
    controls: list[Floats] = []
    letters: list[Integers] = []
    count = 0
    for line in lines:
        for index in range(len(line.clusters)):
            if line.bent:
                mine = line.placed_outline(index).cubics
            else:
                matrix = line.matrices[index]
                mine = line.outline(index).cubics @ matrix[:, :2].T + matrix[:, 2]
            controls.append(mine)
            letters.append(np.full(len(mine), count))
            count += 1
    if not controls:
        return Cubics(np.empty((0, 4, 2)), np.empty(0, dtype=np.intp))
    return Cubics(np.concatenate(controls), np.concatenate(letters))

"""Thread: needle points one after the other, and what the stitch to each of them is."""

from __future__ import annotations

from collections.abc import Iterable
from enum import IntEnum

import numpy as np

from ulvent.core.base.arrays import Integers, Matrices, Points


class What(IntEnum):
    """What a stitch is for."""

    TIE = 0
    """there and back, so that thread holds"""
    WAY = 1
    """on the way to the next place, under what is sewn later"""
    UNDER = 2
    """underlay: it carries what is sewn over it"""
    SATIN = 3
    ROWS = 4
    RUN = 5
    MARK = 6
    """a line that shows where something is laid, or that is taken out again"""


class Thread:
    """Thread that is neither cut nor lifted.

    points
        (k, 2) needle points, mm, y up
    what
        (k,) `What` the stitch that ends at each of them is; of the first, what it begins
    """

    __slots__ = ("points", "what")

    def __init__(self, points: Points, what: Integers) -> None:
        self.points, self.what = points, what

    @classmethod
    def of(cls, points: Points, what: What) -> Thread:
        """All of one kind."""
        return cls(points, np.full(len(points), what, dtype=np.int8))

    @classmethod
    def joined(cls, threads: Iterable[Thread]) -> Thread:
        """One after the other."""
        every = [one for one in threads if len(one.points)]
        if not every:
            return cls(np.empty((0, 2)), np.empty(0, dtype=np.int8))
        return cls(
            np.concatenate([one.points for one in every]),
            np.concatenate([one.what for one in every]),
        )

    @property
    def seen(self) -> What:
        """What it mostly is to the eye."""
        counts = np.bincount(self.what, minlength=len(What))
        counts[[What.TIE, What.WAY, What.UNDER]] = 0
        return What(int(counts.argmax())) if counts.any() else What.RUN

    def placed(self, matrix: Matrices) -> Thread:
        """Moved by a matrix (2, 3)."""
        return Thread(self.points @ matrix[:, :2].T + matrix[:, 2], self.what)

    def __len__(self) -> int:
        return len(self.points)

"""Anderson's acceleration of an iteration that converges step by step.

From the last few steps, which came of the last few places, it takes the combination whose
step is least (D. G. Anderson, Iterative procedures for nonlinear integral equations,
Journal of the ACM 12, 1965). What converged by a third a round so does in a few rounds.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

_REMEMBERED = 4
_WORSE = 2.0
"""Where the miss grows by this factor, what is remembered is of no use."""


class Acceleration:
    """Of one iteration, from its first place on."""

    def __init__(self) -> None:
        self._places: list[Floats] = []
        self._steps: list[Floats] = []
        self._miss = np.inf

    def next(self, place: Floats, step: Floats, miss: float) -> Floats:
        """Where to go from a place whose own step, and what is missed there, are given."""
        if miss > _WORSE * self._miss:
            self._places, self._steps = [], []
        self._miss = miss
        self._places = [*self._places[-_REMEMBERED:], place]
        self._steps = [*self._steps[-_REMEMBERED:], step]
        if len(self._steps) < 2:
            return place + step
        steps = np.diff(np.stack(self._steps), axis=0)
        moves = np.diff(np.stack(self._places), axis=0)
        shares = np.linalg.lstsq(steps.T, step, rcond=1e-12)[0]
        onward: Floats = place + step - shares @ (moves + steps)
        return onward

"""A smooth curve through placed points: curvature goes through every point unbroken.

Each stretch is a cubic whose handles follow from the directions at its two ends by
Hobby's rule (J. D. Hobby, "Smooth, easy to compute interpolating splines", Discrete &
Computational Geometry 1, 1986). His linear equations give the first directions; Newton
steps then make the true curvatures on both sides of every point equal.
"""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Complexes, Floats, Integers, wrapped
from ulvent.core.base.remembered import remembered
from ulvent.core.base.tolerances import NIL

_ROUNDS = 12
_NUDGE = 1e-6
_SETTLED = 1e-9
_NEARLY = 3e-5
"""What misses by no more than this, one more of Newton's steps squares away."""
_LARGEST_STEP = 0.5
_SHORTEST, _LONGEST = 0.05, 6.0
"""Handles are held between these, in thirds of the chord, and the divisor of ρ above the next."""
_LEAST_BELOW = 0.2


def smooth_handles(
    points: Complexes,
    closed: bool,
    first: complex | None = None,
    last: complex | None = None,
) -> tuple[Complexes, Complexes]:
    """Handles of the stretches through `points`.

    Parameters
    ----------
    points
        (n,) in order, neighbours apart; a closed curve goes on from the last to the first
    first, last
        directions at the ends of an open curve; where there is none, the end stretch bends
        evenly

    Returns
    -------
    after, before
        (stretches,) the handle with which each stretch leaves its first point, and the
        one with which it reaches its last, relative to them
    """
    chords = np.diff(np.append(points, points[0]) if closed else points)
    if len(chords) == 1 and first is None and last is None:
        thirds = np.asarray(chords / 3.0, dtype=complex)
        return thirds, -thirds
    solver = _Solver(chords, closed, first, last)
    return solver.handles(solver.solved())


class _Solver:
    """Directions at the points, as angles; unknown where they are not given."""

    def __init__(
        self, chords: Complexes, closed: bool, first: complex | None, last: complex | None
    ) -> None:
        self._chords = chords
        self._closed = closed
        self._lengths = np.abs(chords)
        self._angles = np.angle(chords)
        self._first, self._last = first, last

    def solved(self) -> Floats:
        """Directions, radians, by Newton steps from Hobby's."""
        directions = self._by_hobby()
        best, best_miss = directions, np.inf
        for _ in range(_ROUNDS):
            miss, slopes = self._linearised(directions)
            size = float(np.abs(miss).max())
            if size < best_miss:
                best, best_miss = directions, size
            if size <= _SETTLED:
                break
            try:
                step = np.linalg.solve(slopes, miss)
            except np.linalg.LinAlgError:
                break
            directions = directions - np.clip(step, -_LARGEST_STEP, _LARGEST_STEP)
            if size <= _NEARLY:
                best = directions
                break
        return best

    def _linearised(self, directions: Floats) -> tuple[Floats, Floats]:
        """Misses and their Jacobian; each miss depends on three neighbouring directions.

        Every third direction is nudged at once, since no two of them share a miss; the
        nudged rows and the plain one are worked out together.
        """
        count = len(directions)
        colours = 3 if not self._closed or count % 3 == 0 else count
        rows = np.tile(directions, (colours + 1, 1))
        for colour in range(colours):
            rows[colour + 1, colour::colours] += _NUDGE
        misses = self._misses(rows)
        changes = (misses[1:] - misses[0]) / _NUDGE
        slopes = np.zeros((count, count))
        touched, by = _neighbours(count, self._closed)
        slopes[touched, by] = changes[by % colours, touched]
        return misses[0], slopes

    def handles(self, directions: Floats) -> tuple[Complexes, Complexes]:
        """By Hobby's rule for how long a handle is, ρ, in thirds of the chord."""
        leaving, reaching = self._turns(directions)
        out, into = np.exp(1j * leaving), np.exp(1j * reaching)
        (st, ct), (sp, cp) = (out.imag, out.real), (into.imag, into.real)
        alpha = np.sqrt(2.0) * (st - sp / 16.0) * (sp - st / 16.0) * (ct - cp)
        near, far = 0.5 * (np.sqrt(5.0) - 1.0), 0.5 * (3.0 - np.sqrt(5.0))
        first = (2.0 + alpha) / np.maximum(1.0 + near * ct + far * cp, _LEAST_BELOW)
        last = (2.0 - alpha) / np.maximum(1.0 + near * cp + far * ct, _LEAST_BELOW)
        thirds = self._chords / 3.0
        after = thirds * out * np.minimum(np.maximum(first, _SHORTEST), _LONGEST)
        before = -thirds * np.conj(into) * np.minimum(np.maximum(last, _SHORTEST), _LONGEST)
        return after, before

    def _turns(self, directions: Floats) -> tuple[Floats, Floats]:
        """From the chord to the direction at its start, and from that at its end to the chord."""
        ends = np.roll(directions, -1, axis=-1) if self._closed else directions[..., 1:]
        starts = directions if self._closed else directions[..., :-1]
        return starts - self._angles, self._angles - ends

    def _misses(self, directions: Floats) -> Floats:
        """By how much the curvature jumps at each point, for every row of directions (k, n)."""
        after, before = self.handles(directions)
        chords = self._chords
        leaving = _end_curvature(after, chords + before)
        reaching = -_end_curvature(before, after - chords)
        if self._closed:
            jumps: Floats = (leaving - np.roll(reaching, 1, axis=-1)) * np.mean(self._lengths)
            return jumps
        misses = np.zeros(directions.shape)
        misses[..., 1:-1] = leaving[..., 1:] - reaching[..., :-1]
        misses[..., 0] = leaving[..., 0] - reaching[..., 0]
        misses[..., -1] = leaving[..., -1] - reaching[..., -1]
        misses *= np.mean(self._lengths)
        if self._first is not None:
            misses[..., 0] = wrapped(directions[..., 0] - np.angle(self._first))
        if self._last is not None:
            misses[..., -1] = wrapped(directions[..., -1] - np.angle(self._last))
        return misses

    def _by_hobby(self) -> Floats:
        """The linear equations for turns θ at the starts, tension 1 and curl 1."""
        lengths, angles = self._lengths, self._angles
        count = len(lengths) if self._closed else len(lengths) + 1
        matrix, right = np.zeros((count, count)), np.zeros(count)
        bends = wrapped(angles - np.roll(angles, 1))
        here = np.arange(count) if self._closed else np.arange(1, count - 1)
        before, after = (here - 1) % count, (here + 1) % count
        d0, d1 = lengths[here - 1], lengths[here % len(lengths)]
        # Added up, since with two points on a ring the one before is the one after.
        np.add.at(matrix, (here, before), d1)
        np.add.at(matrix, (here, here), 2.0 * (d0 + d1))
        np.add.at(matrix, (here, after), d0)
        next_bends = bends[after % len(bends)]
        if not self._closed:
            next_bends = np.where(after < count - 1, next_bends, 0.0)
        right[here] = -2.0 * d1 * bends[here] - d0 * next_bends
        if not self._closed:
            matrix[0, 0] = matrix[0, 1] = 1.0
            right[0] = -bends[1] if count > 2 else 0.0
            matrix[-1, -1] = matrix[-1, -2] = 1.0
            if self._first is not None:
                matrix[0] = 0.0
                matrix[0, 0] = 1.0
                right[0] = wrapped(np.array([np.angle(self._first) - angles[0]]))[0]
            if self._last is not None:
                matrix[-1] = 0.0
                matrix[-1, -1] = 1.0
                right[-1] = wrapped(np.array([np.angle(self._last) - angles[-1]]))[0]
        turns = np.linalg.solve(matrix, right)
        bases = angles if self._closed else np.append(angles, angles[-1])
        directions: Floats = bases + turns
        return directions


@remembered(64)
def _neighbours(count: int, closed: bool) -> tuple[Integers, Integers]:
    """Every point with itself and its neighbours, in pairs."""
    points = np.arange(count)
    touched, by = np.concatenate([points - 1, points, points + 1]), np.tile(points, 3)
    inside = closed | ((touched >= 0) & (touched < count))
    return touched[inside] % count, by[inside]


def _end_curvature(handle: Complexes, other: Complexes) -> Floats:
    """Curvature where a cubic leaves a point with `handle`; `other` is its second control point."""
    size = np.maximum(np.abs(handle), NIL)
    curvature: Floats = (2.0 / 3.0) * (np.conj(handle) * (other - handle)).imag / size**3
    return curvature

"""A smooth curve through placed points: curvature goes through every point unbroken.

Each stretch is a cubic whose handles follow from the directions at its two ends by
Hobby's rule (J. D. Hobby, "Smooth, easy to compute interpolating splines", Discrete &
Computational Geometry 1, 1986). His linear equations give the first directions; Newton
steps then make the true curvatures on both sides of every point equal.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Complexes = NDArray[np.complex128]

_ROUNDS = 12
_NUDGE = 1e-6
_SETTLED = 1e-9
_LARGEST_STEP = 0.5


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
        columns = np.arange(count)
        for shift in (-1, 0, 1):
            touched = columns + shift
            inside = np.full(count, True) if self._closed else (touched >= 0) & (touched < count)
            mine = columns[inside]
            slopes[touched[inside] % count, mine] = changes[mine % colours, touched[inside] % count]
        return misses[0], slopes

    def handles(self, directions: Floats) -> tuple[Complexes, Complexes]:
        leaving, reaching = self._turns(directions)
        after = self._chords * np.exp(1j * leaving) * _velocity(leaving, reaching) / 3.0
        before = -self._chords * np.exp(-1j * reaching) * _velocity(reaching, leaving) / 3.0
        return after, before

    def _turns(self, directions: Floats) -> tuple[Floats, Floats]:
        """From the chord to the direction at its start, and from that at its end to the chord."""
        ends = np.roll(directions, -1, axis=-1) if self._closed else directions[..., 1:]
        starts = directions if self._closed else directions[..., :-1]
        return _wrapped(starts - self._angles), _wrapped(self._angles - ends)

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
            misses[..., 0] = _wrapped(directions[..., 0] - np.angle(self._first))
        if self._last is not None:
            misses[..., -1] = _wrapped(directions[..., -1] - np.angle(self._last))
        return misses

    def _by_hobby(self) -> Floats:
        """The linear equations for turns θ at the starts, tension 1 and curl 1."""
        lengths, angles = self._lengths, self._angles
        count = len(lengths) if self._closed else len(lengths) + 1
        matrix, right = np.zeros((count, count)), np.zeros(count)
        bends = _wrapped(angles - np.roll(angles, 1))
        inner = range(count) if self._closed else range(1, count - 1)
        for index in inner:
            before, here, after = (index - 1) % count, index, (index + 1) % count
            d0, d1 = lengths[(index - 1) % len(lengths)], lengths[index % len(lengths)]
            matrix[here, before] += d1
            matrix[here, here] += 2.0 * (d0 + d1)
            matrix[here, after] += d0
            next_bend = bends[after % len(bends)] if self._closed or after < count - 1 else 0.0
            right[here] = -2.0 * d1 * bends[index] - d0 * next_bend
        if not self._closed:
            matrix[0, 0] = matrix[0, 1] = 1.0
            right[0] = -bends[1] if count > 2 else 0.0
            matrix[-1, -1] = matrix[-1, -2] = 1.0
            if self._first is not None:
                matrix[0] = 0.0
                matrix[0, 0] = 1.0
                right[0] = _wrapped(np.array([np.angle(self._first) - angles[0]]))[0]
            if self._last is not None:
                matrix[-1] = 0.0
                matrix[-1, -1] = 1.0
                right[-1] = _wrapped(np.array([np.angle(self._last) - angles[-1]]))[0]
        turns = np.linalg.solve(matrix, right)
        bases = angles if self._closed else np.append(angles, angles[-1])
        directions: Floats = bases + turns
        return directions


def _velocity(theta: Floats, phi: Floats) -> Floats:
    """Hobby's ρ: how long a handle is, in thirds of the chord."""
    st, ct, sp, cp = np.sin(theta), np.cos(theta), np.sin(phi), np.cos(phi)
    alpha = np.sqrt(2.0) * (st - sp / 16.0) * (sp - st / 16.0) * (ct - cp)
    below = 1.0 + 0.5 * (np.sqrt(5.0) - 1.0) * ct + 0.5 * (3.0 - np.sqrt(5.0)) * cp
    velocity: Floats = np.clip((2.0 + alpha) / np.maximum(below, 0.2), 0.05, 6.0)
    return velocity


def _end_curvature(handle: Complexes, other: Complexes) -> Floats:
    """Curvature where a cubic leaves a point with `handle`; `other` is its second control point."""
    size = np.maximum(np.abs(handle), 1e-12)
    curvature: Floats = (2.0 / 3.0) * (np.conj(handle) * (other - handle)).imag / size**3
    return curvature


def _wrapped(angles: Floats) -> Floats:
    """Angles in [−π, π)."""
    wrapped: Floats = (angles + np.pi) % (2.0 * np.pi) - np.pi
    return wrapped

"""Curves given by a parameter, asked by exact arc length.

A curve here is one or more *segments*, each a smooth function of t in [0, 1].
Its kind says where a segment is and how it moves; everything else, which is the
arithmetic of arc length, is the same for all kinds and stands here once.

Arc length has no closed form that all kinds share. The parameter range of each
segment is split into *panels* until 12-point Gauss-Legendre over a panel equals
the sum over its halves; splitting goes on at cusps until the rest no longer
matters. The inverse is Halley's method inside a bracket, for all stations at once.

Points are complex numbers inside this module: a product with a conjugate then
gives dot and cross product together.
"""

from __future__ import annotations

from abc import abstractmethod
from functools import cached_property
from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import (
    Booleans,
    Complexes,
    Floats,
    Integers,
    Lengths,
    Stations,
    counted_up,
)
from ulvent.core.base.tolerances import CORNER, QUADRATURE
from ulvent.core.curves.curve import Corners, Curve, Frames
from ulvent.core.curves.fitted import fitted_segments
from ulvent.core.curves.segments import Segment

Motion = tuple[Complexes, Complexes]
"""First and second derivatives by the parameter."""

NODES, WEIGHTS = np.polynomial.legendre.leggauss(12)
NODES = (NODES + 1.0) / 2.0
WEIGHTS = WEIGHTS / 2.0

_BEND_SAMPLES = 17
_FIRST_PARTS = 4
_MOST_HALVINGS = 48
_MOST_ROUNDS = 64
_PANEL_TURN = 1.0
"""A panel turns by at most this many radians a half, so that turnings add up."""
_LAST = 1.0 - 1e-6
"""From this parameter on, a direction that is a limit is taken from before, not from after."""
_NEAR = 3e-4
"""A miss of this share of a panel is cubed away by one more step."""
_STEADY = 1e-2
"""Speed, of a panel's mean, above which that holds."""
_SLOWEST = 1e-90
"""Speeds are held above this where they divide; its cube is still a number."""
_STILL = 1e-9
"""Speed, relative to a segment's size, below which its direction is a limit."""


class _Panels(NamedTuple):
    """Parameter ranges `begin`..`end` of segments `which`, each with its length."""

    which: Integers
    begin: Floats
    end: Floats
    lengths: Lengths


class Parametric(Curve):
    """Segments by a parameter, joined end to end. A kind sets `_scale` and `_closed` first.

    _scale
        (segments,) the size of each segment, mm, against which a speed counts as nil
    """

    _scale: Floats
    _closed: bool

    @property
    def _steady(self) -> Booleans:
        """(segments,) which are straight and run through evenly: one panel does for each."""
        return np.zeros(len(self._scale), dtype=bool)

    # ------------------------------------------------------- what a kind must say

    @abstractmethod
    def _positions(self, which: Integers, t: Floats) -> Complexes:
        """Points of segments `which` at parameters `t`."""

    @abstractmethod
    def _motion(self, which: Integers, t: Floats) -> Motion:
        """First and second derivatives by the parameter."""

    def _velocity(self, which: Integers, t: Floats) -> Complexes:
        """First derivative alone; kinds for which that is quicker say so."""
        velocity, _ = self._motion(which, t)
        return velocity

    def _last_motion(self, which: Integers) -> Complexes:
        """A direction where first and second derivatives are nil; kinds that can stop say it."""
        return np.ones(len(which), dtype=complex)

    def _integral(self, which: Integers, begin: Floats, end: Floats) -> Floats:
        """Length of each segment `which` from parameter `begin` to `end`."""
        span = end - begin
        t = begin[:, None] + span[:, None] * NODES
        speeds = np.abs(self._velocity(np.repeat(which, len(NODES)), t.ravel()))
        lengths: Lengths = span * (speeds.reshape(t.shape) @ WEIGHTS)
        return lengths

    # ------------------------------------------------------------ the protocol

    @property
    def length(self) -> float:
        return float(self._ends[-1])

    @property
    def closed(self) -> bool:
        return self._closed

    def segments(self) -> tuple[Segment, ...]:
        return fitted_segments(self)

    @property
    def corners(self) -> Corners:
        sharp = np.abs(self._jumps) > CORNER
        return Corners(self._ends[:-1][sharp], self._jumps[sharp])

    def _frames(self, stations: Stations) -> Frames:
        panel, t = self._parameters(stations)
        which = self._panels.which[panel]
        points, motion = self._positions(which, t), self._motion(which, t)
        tangents = self._direction(which, motion, forward=t < _LAST)
        since = np.angle(tangents * np.conj(self._start_directions[panel]))
        return Frames(
            points=as_pairs(points),
            tangents=as_pairs(tangents),
            curvatures=self._curvature(which, t, motion),
            turnings=self._start_turnings[panel] + since,
        )

    # -------------------------------------------------------------- evaluation

    def _direction(self, which: Integers, motion: Motion, forward: Booleans) -> Complexes:
        """Unit tangents; where the speed is nil, the limit from the side of travel."""
        velocity, second = motion
        speed = np.abs(velocity)
        still = speed <= _STILL * self._scale[which]
        if still.any():
            limit = np.where(forward, second, -second)
            second_still = np.abs(second) <= _STILL * self._scale[which]
            limit = np.where(second_still, self._last_motion(which), limit)
            velocity = np.where(still, limit, velocity)
            speed = np.abs(velocity)
        return velocity / speed

    def _direction_at(self, which: Integers, t: Floats, forward: bool) -> Complexes:
        """The same at parameters, all from one side."""
        return self._direction(which, self._motion(which, t), np.full(len(t), forward))

    def _curvature(self, which: Integers, t: Floats, motion: Motion) -> Floats:
        velocity, second = motion
        speed = np.abs(velocity)
        still = speed <= _STILL * self._scale[which]
        if still.any():
            # At a cusp or a zero handle the quotient is 0/0: look just beside it.
            beside = np.where(still, t + np.where(t < 0.5, 1e-5, -1e-5), t)
            velocity, second = self._motion(which, beside)
            speed = np.maximum(np.abs(velocity), _SLOWEST)
        curvature: Floats = (np.conj(velocity) * second).imag / speed**3
        return curvature

    # ------------------------------------------------------------------ tables

    @cached_property
    def samples(self) -> tuple[Floats, Floats]:
        which, t, stations = self._along_panels
        return stations, as_pairs(self._positions(which, t))

    @cached_property
    def bends(self) -> tuple[Floats, Floats]:
        which, t, stations = self._along_panels
        return stations, self._curvature(which, t, self._motion(which, t))

    @cached_property
    def _along_panels(self) -> tuple[Integers, Floats, Floats]:
        """Segments, parameters and rough stations along every panel, its ends included."""
        panels = self._panels
        counts = np.where(self._steady[panels.which], 2, _BEND_SAMPLES)
        panel, sample = counted_up(counts)
        shares = sample / (counts - 1)[panel]
        t = panels.begin[panel] + (panels.end - panels.begin)[panel] * shares
        stations = self._starts[panel] + panels.lengths[panel] * shares
        return panels.which[panel], t, stations

    @cached_property
    def _panels(self) -> _Panels:
        (steady,), (others,) = np.nonzero(self._steady), np.nonzero(~self._steady)
        none, all_of = np.zeros(len(steady)), np.ones(len(steady))
        parts = [_Panels(steady, none, all_of, self._integral(steady, none, all_of))]
        parts += self._halved(others) if len(others) else []
        which, begin, end, lengths = (
            np.concatenate([getattr(part, name) for part in parts]) for name in _Panels._fields
        )
        order = np.lexsort((begin, which))
        return _Panels(which[order], begin[order], end[order], lengths[order])

    def _halved(self, segments: Integers) -> list[_Panels]:
        """Panels of segments, halved until each is short enough."""
        count = len(segments)
        # Panels of an eighth at most let the inverse start so close that one step does.
        which = np.repeat(segments, _FIRST_PARTS)
        shares = np.arange(_FIRST_PARTS + 1) / _FIRST_PARTS
        begin, end = np.tile(shares[:-1], count), np.tile(shares[1:], count)
        whole = self._integral(which, begin, end)
        target = QUADRATURE * float(whole.sum()) / count
        parts: list[_Panels] = []
        for halving in range(_MOST_HALVINGS + 1):
            middle = (begin + end) / 2.0
            left = self._integral(which, begin, middle)
            right = self._integral(which, middle, end)
            good = np.abs(left + right - whole) <= target
            good &= self._turns_little(which, begin, middle, end) | (left + right <= target)
            if halving == _MOST_HALVINGS:
                good[:] = True
            # The halves are what is kept: their lengths are known already.
            parts.append(_Panels(which[good], begin[good], middle[good], left[good]))
            parts.append(_Panels(which[good], middle[good], end[good], right[good]))
            bad = ~good
            if not bad.any():
                break
            which = np.repeat(which[bad], 2)
            whole = np.stack([left[bad], right[bad]], axis=1).ravel()
            begin, end = (
                np.stack([begin[bad], middle[bad]], axis=1).ravel(),
                np.stack([middle[bad], end[bad]], axis=1).ravel(),
            )
        return parts

    def _turns_little(
        self, which: Integers, begin: Floats, middle: Floats, end: Floats
    ) -> Booleans:
        start = self._direction_at(which, begin, forward=True)
        halfway = self._direction_at(which, middle, forward=True)
        finish = self._direction_at(which, end, forward=False)
        first = np.abs(np.angle(halfway * np.conj(start)))
        second = np.abs(np.angle(finish * np.conj(halfway)))
        little: Booleans = np.maximum(first, second) <= _PANEL_TURN
        return little

    @cached_property
    def _ends(self) -> Floats:
        """Stations at which the panels end, (panels,)."""
        return np.cumsum(self._panels.lengths)

    @cached_property
    def _starts(self) -> Floats:
        return np.concatenate([[0.0], self._ends[:-1]])

    @cached_property
    def _start_directions(self) -> Complexes:
        panels = self._panels
        return self._direction_at(panels.which, panels.begin, forward=True)

    @cached_property
    def _end_directions(self) -> Complexes:
        panels = self._panels
        return self._direction_at(panels.which, panels.end, forward=False)

    @cached_property
    def _jumps(self) -> Floats:
        """Radians by which the tangent jumps at the end of each panel but the last."""
        jumps: Floats = np.angle(self._start_directions[1:] * np.conj(self._end_directions[:-1]))
        return jumps

    @cached_property
    def _start_turnings(self) -> Floats:
        inside = np.angle(self._end_directions * np.conj(self._start_directions))
        return np.concatenate([[0.0], np.cumsum(inside[:-1] + self._jumps)])

    # ----------------------------------------------------------------- inverse

    def _parameters(self, stations: Stations) -> tuple[Integers, Floats]:
        """The panel and the parameter of each station."""
        panels = self._panels
        panel = np.searchsorted(self._ends[:-1], stations, side="right")
        which, begin, lengths = panels.which[panel], panels.begin[panel], panels.lengths[panel]
        low, high = begin, panels.end[panel]
        wanted = np.minimum(np.maximum(stations - self._starts[panel], 0.0), lengths)
        goal = QUADRATURE * self.length
        t = self._first_guess(panel, wanted)
        for _ in range(_MOST_ROUNDS):
            miss = self._integral(which, begin, t) - wanted
            off = np.abs(miss)
            if (off <= goal).all():
                break
            low = np.where(miss < 0.0, t, low)
            high = np.where(miss >= 0.0, t, high)
            velocity, second = self._motion(which, t)
            speed = np.maximum(np.abs(velocity), _SLOWEST)
            # Halley's method: Newton's step, bent by how the speed changes along it.
            bend = miss * (np.conj(velocity) * second).real / (2.0 * speed**3)
            step = t - miss / (speed * np.where(np.abs(bend) < 0.5, 1.0 - bend, 1.0))
            inside = (step > low) & (step < high)
            moved = np.where(inside, step, (low + high) / 2.0)
            t = np.where(off <= goal, t, moved)
            steady = inside & (speed >= _STEADY * self._mean_speeds[panel])
            if ((off <= goal) | (steady & (off <= _NEAR * lengths))).all():
                break
        return panel, t

    def _first_guess(self, panel: Integers, wanted: Floats) -> Floats:
        """Cubic Hermite interpolation of the parameter over arc length, kept monotone."""
        panels = self._panels
        begin, span = panels.begin[panel], panels.end[panel] - panels.begin[panel]
        x = wanted / panels.lengths[panel]
        rise, fall = self._end_slopes[0][panel], self._end_slopes[1][panel]
        share = x * (rise + x * ((3.0 - 2.0 * rise - fall) + x * (rise + fall - 2.0)))
        return begin + span * np.minimum(np.maximum(share, 0.0), 1.0)

    @cached_property
    def _mean_speeds(self) -> Floats:
        panels = self._panels
        return panels.lengths / (panels.end - panels.begin)

    @cached_property
    def _end_slopes(self) -> tuple[Floats, Floats]:
        """Slopes of parameter over length at both ends of each panel, both scaled to 1."""
        panels, mean = self._panels, self._mean_speeds
        speeds = (np.abs(self._motion(panels.which, t)[0]) for t in (panels.begin, panels.end))
        first, last = (np.minimum(mean / np.maximum(s, mean / 3.0), 3.0) for s in speeds)
        return first, last


def as_pairs(points: Complexes) -> Floats:
    """Complex numbers as rows of x and y, without copying."""
    return np.ascontiguousarray(points).view(np.float64).reshape(-1, 2)

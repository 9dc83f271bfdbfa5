"""Curves with a formula: ellipse, wave, spirals, superellipse. Never stood in for by Beziers.

Each is a formula over a parameter u and the values of u between which it runs;
reversed, it runs through them backwards.
"""

from __future__ import annotations

import copy
import math
from abc import abstractmethod
from functools import cached_property
from typing import Self

import numpy as np

from ulvent.core.base.arrays import Complexes, Floats, Integers, Point
from ulvent.core.base.errors import CurveError
from ulvent.core.curves.parametric import Motion, Parametric

_TURN = 2.0 * math.pi


class Analytic(Parametric):
    """A formula over u, run through the values `bounds`, smooth between each two of them."""

    def __init__(self, bounds: list[float], closed: bool) -> None:
        if not all(math.isfinite(bound) for bound in bounds):
            raise CurveError("a curve needs finite figures")
        self._run_through(np.array(bounds))
        self._closed = closed

    def _run_through(self, bounds: Floats) -> None:
        self._bounds = bounds
        self._begins, self._spans = bounds[:-1], np.diff(bounds)
        middles = self._begins + self._spans / 2.0
        self._scale = np.abs(self._rates(middles)[0] * self._spans)
        if not (self._scale > 0.0).all():
            raise CurveError("the curve has no length")

    @abstractmethod
    def _point(self, u: Floats) -> Complexes:
        """Points at `u`."""

    @abstractmethod
    def _rates(self, u: Floats) -> Motion:
        """First and second derivatives by u."""

    def _rate(self, u: Floats) -> Complexes:
        """First derivative by u; kinds for which it alone is quicker say so."""
        first, _ = self._rates(u)
        return first

    def _velocity(self, which: Integers, t: Floats) -> Complexes:
        spans = self._spans[which]
        return self._rate(self._begins[which] + t * spans) * spans

    def _positions(self, which: Integers, t: Floats) -> Complexes:
        return self._point(self._begins[which] + t * self._spans[which])

    def _motion(self, which: Integers, t: Floats) -> Motion:
        spans = self._spans[which]
        first, second = self._rates(self._begins[which] + t * spans)
        return first * spans, second * spans**2

    def _reversed(self) -> Self:
        backwards = copy.copy(self)
        # The tables, remembered as cached properties, belong to the way that was asked for.
        for name in [*backwards.__dict__]:
            if isinstance(getattr(type(self), name, None), cached_property):
                del backwards.__dict__[name]
        backwards._run_through(self._bounds[::-1])
        return backwards


class EllipseArc(Analytic):
    """An arc of the ellipse with half axes `rx`, `ry`, from `begin` through `sweep` degrees.

    The angles are eccentric: the point at angle u is (rx cos u, ry sin u). A sweep of
    ±360° is the closed ellipse. Axes lie along x and y.
    """

    def __init__(self, centre: Point, rx: float, ry: float, begin: float, sweep: float) -> None:
        if not 0.0 < abs(sweep) <= 360.0:
            raise CurveError("the sweep of an arc must be more than 0 and at most 360 degrees")
        self._centre = complex(*centre)
        self._rx, self._ry = rx, ry
        first = math.radians(begin)
        super().__init__([first, first + math.radians(sweep)], closed=abs(sweep) == 360.0)

    def _point(self, u: Floats) -> Complexes:
        return self._centre + self._rx * np.cos(u) + 1j * self._ry * np.sin(u)

    def _rates(self, u: Floats) -> Motion:
        cos, sin = np.cos(u), np.sin(u)
        return -self._rx * sin + 1j * self._ry * cos, -self._rx * cos - 1j * self._ry * sin


class SineWave(Analytic):
    """A sine wave along x about the origin: y = `amplitude` · sin(2π x' / `wavelength` + phase).

    It is `waves` wavelengths long, with its middle at x = 0; x' runs from its start.
    `phase` in degrees.
    """

    def __init__(self, wavelength: float, amplitude: float, waves: float, phase: float) -> None:
        self._angle = _TURN / wavelength
        self._amplitude, self._steepest = amplitude, amplitude * self._angle
        self._phase = math.radians(phase)
        self._half = wavelength * waves / 2.0
        count = max(1, math.ceil(4.0 * waves))
        super().__init__(np.linspace(0.0, wavelength * waves, count + 1).tolist(), closed=False)

    def _point(self, u: Floats) -> Complexes:
        return (u - self._half) + 1j * self._amplitude * np.sin(self._angle * u + self._phase)

    def _rate(self, u: Floats) -> Complexes:
        rate: Complexes = 1.0 + 1j * self._steepest * np.cos(self._angle * u + self._phase)
        return rate

    def _rates(self, u: Floats) -> Motion:
        second = -1j * self._steepest * self._angle * np.sin(self._angle * u + self._phase)
        return self._rate(u), second


class Spiral(Analytic):
    """An Archimedean spiral round the origin: r = `start_radius` + `gain` · turns travelled.

    It begins at the angle `begin`, degrees, and goes outward; `turns` is signed,
    counter-clockwise positive, and `gain` is mm a turn.
    """

    def __init__(self, start_radius: float, gain: float, turns: float, begin: float) -> None:
        self._start_radius = start_radius
        self._gain = gain / _TURN
        self._way = math.copysign(1.0, turns)
        self._begin_angle = math.radians(begin)
        count = max(1, math.ceil(2.0 * abs(turns)))
        super().__init__(np.linspace(0.0, _TURN * abs(turns), count + 1).tolist(), closed=False)

    def _radius(self, u: Floats) -> tuple[Floats, Floats, Floats]:
        """Radius at the angle `u` travelled, and its first and second derivatives."""
        zeros = np.zeros(len(u))
        return self._start_radius + self._gain * u, zeros + self._gain, zeros

    def _point(self, u: Floats) -> Complexes:
        return self._radius(u)[0] * self._direction_of(u)

    def _rates(self, u: Floats) -> Motion:
        radius, first, second = self._radius(u)
        direction, turn = self._direction_of(u), 1j * self._way
        return (
            (first + turn * radius) * direction,
            (second + 2.0 * turn * first - radius) * direction,
        )

    def _direction_of(self, u: Floats) -> Complexes:
        direction: Complexes = np.exp(1j * (self._begin_angle + self._way * u))
        return direction


class GrowingSpiral(Spiral):
    """A logarithmic spiral: every turn is `growth` times as far out as the last."""

    def __init__(self, start_radius: float, growth: float, turns: float, begin: float) -> None:
        self._growth = math.log(growth) / _TURN
        super().__init__(start_radius, 0.0, turns, begin)

    def _radius(self, u: Floats) -> tuple[Floats, Floats, Floats]:
        radius = self._start_radius * np.exp(self._growth * u)
        return radius, self._growth * radius, self._growth**2 * radius


class Superellipse(Analytic):
    """The closed curve |x/rx|ⁿ + |y/ry|ⁿ = 1 about the origin, exponent n ≥ 2, by its polar angle.

    It begins at `begin`, a multiple of 90 degrees, and turns clockwise when asked.
    """

    def __init__(self, rx: float, ry: float, exponent: float, begin: float, clockwise: bool):
        self._rx, self._ry, self._exponent = rx, ry, exponent
        quarter = -_TURN / 4.0 if clockwise else _TURN / 4.0
        first = math.radians(begin)
        super().__init__([first + quarter * index for index in range(5)], closed=True)

    def _point(self, u: Floats) -> Complexes:
        points: Complexes = self._radius(u)[0] * np.exp(1j * u)
        return points

    def _radius(self, u: Floats) -> tuple[Floats, Floats, Floats]:
        """r = f^(−1/n) with f = |cos u / rx|ⁿ + |sin u / ry|ⁿ, and its derivatives."""
        n = self._exponent
        cos, sin = np.cos(u), np.sin(u)
        a, b = np.abs(cos / self._rx), np.abs(sin / self._ry)
        # Signed so that d|cos|/du and d|sin|/du come out right in every quarter.
        da = -np.sign(cos) * sin / self._rx
        db = np.sign(sin) * cos / self._ry
        f = a**n + b**n
        df = n * (a ** (n - 1) * da + b ** (n - 1) * db)
        ddf = n * ((n - 1) * (a ** (n - 2) * da**2 + b ** (n - 2) * db**2) - (a**n + b**n))
        radius = f ** (-1.0 / n)
        first = -radius * df / (n * f)
        second = radius * ((1.0 + 1.0 / n) * (df / f) ** 2 - ddf / f) / n
        return radius, first, second

    def _rates(self, u: Floats) -> Motion:
        radius, first, second = self._radius(u)
        direction = np.exp(1j * u)
        return (first + 1j * radius) * direction, (second + 2j * first - radius) * direction

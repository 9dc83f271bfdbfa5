"""The side of a round part, and how it lies flat.

Flat, u runs along the girth from the front, mm, to the right as seen from outside, and v up the
side from its middle. The seam, where u is half the girth, is at the back.

A part whose thickness differs from front to back is no circle outside: its outline is
R(θ) = r + t(θ), and u its arc length, so that it lies flat without stretch all the same. A
crowned side is doubly curved: at each v it is shorter round than at the middle, and u is true on
one level only, that of the letters' own line.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ulvent.core.base.arrays import Degrees, Floats, Millimetres, Point
from ulvent.core.curves.belt import belt_line
from ulvent.core.curves.curve import Lap
from ulvent.core.curves.placed import Placed

_ROUND = 1440
"""Places round an outline; what is periodic is summed over them to the last digit."""


@dataclass(frozen=True)
class RoundSide:
    """The side of a round part.

    front, back
        its radius halfway up, at the front and at the back, mm
    height
        of the side from its lower to its upper edge, along it, mm
    back_height
        the same at the back
    lean
        degrees by which it leans inward, going up
    crown
        radius of its section, mm; none: it is straight
    middle
        of the flat side, at its front
    """

    front: Millimetres
    back: Millimetres
    height: Millimetres
    back_height: Millimetres
    lean: Degrees = 0.0
    crown: Millimetres | None = None
    middle: Point = (0.0, 0.0)

    @property
    def slope(self) -> float:
        """Sine of the lean: what the radius loses for each mm up the side."""
        return math.sin(math.radians(self.lean))

    def drop(self, v: Floats) -> Floats:
        """How far a crowned side has fallen back at heights v (n,), mm."""
        if self.crown is None:
            return np.zeros_like(v)
        fallen: Floats = self.crown * (1.0 - np.cos(v / self.crown))
        return fallen

    def girth(self, v: Millimetres) -> Millimetres:
        """Length round the part at a height."""
        return float(self._along[-1]) - 2.0 * math.pi * self._inward(v)

    def _inward(self, v: Millimetres) -> Millimetres:
        """How far the side has come in at a height, by its lean and its crown."""
        return self.slope * v + float(self.drop(np.array([v]))[0])

    @property
    def lap(self) -> Lap:
        """Where the flat side lies once more, gone round."""
        belt = Placed(belt_line(self.girth(0.0), self.lean), 1.0, 0.0, self.middle)
        assert belt.lap is not None
        return belt.lap

    def radius_at(self, angles: Floats) -> Floats:
        """Of the outline at angles (n,) from the front, radians."""
        return _from_back(self.back, self.front, angles)

    def height_at(self, angles: Floats) -> Floats:
        """Of the side at angles (n,) from the front, radians."""
        return _from_back(self.back_height, self.height, angles)

    @property
    def is_circle(self) -> bool:
        return self.front == self.back

    @cached_property
    def _angles(self) -> Floats:
        return np.linspace(-math.pi, math.pi, _ROUND + 1)

    @cached_property
    def _along(self) -> Floats:
        """Arc length of the outline from the seam to each angle, mm."""
        angles = self._angles
        speeds = np.hypot(self.radius_at(angles), self._fall(angles))
        steps = (speeds[:-1] + speeds[1:]) / 2.0 * np.diff(angles)
        return np.concatenate([[0.0], np.cumsum(steps)])

    def angles_of(self, u: Floats, level: Millimetres) -> Floats:
        """Angles from the front, radians, of places u (n,) along the girth at a height `level`.

        Beyond the seam they go on.
        """
        whole = self.girth(level)
        if self.is_circle:
            angles: Floats = u / whole * 2.0 * math.pi
            return angles
        along = self._along - self._inward(level) * self._turned
        laps = np.floor(u / whole + 0.5)
        inside = u - laps * whole + whole / 2.0
        found: Floats = np.interp(inside, along, self._angles) + laps * 2.0 * math.pi
        return found

    def width_shares(self, level: Millimetres, count: int) -> tuple[float, ...]:
        """How high the side is at even places once round it at a height, from the seam to the
        seam, as shares of its height at the front; nothing where it is the same all round."""
        if self.height == self.back_height:
            return ()
        u = np.linspace(-0.5, 0.5, count) * self.girth(level)
        shares = self.height_at(self.angles_of(u, level)) / self.height
        return tuple(shares.tolist())

    def along(self, angles: Floats) -> Floats:
        """Arc length of the outline from the seam to angles (n,) from the front, mm."""
        found: Floats = np.interp(angles, self._angles, self._along)
        return found

    @cached_property
    def _turned(self) -> Floats:
        """How far the outline has turned from the seam to each angle, radians."""
        return self._angles + math.pi + self.normal_turn(self._angles)

    def normal_turn(self, angles: Floats) -> Floats:
        """By how much the outline's normal is turned from the radius, radians, (n,)."""
        turned: Floats = -np.arctan2(self._fall(angles), self.radius_at(angles))
        return turned

    def _fall(self, angles: Floats) -> Floats:
        """The derivative of the outline's radius by the angle, mm a radian."""
        fall: Floats = (self.back - self.front) * np.sin(angles) / 2.0
        return fall


def _from_back(back: Millimetres, front: Millimetres, angles: Floats) -> Floats:
    """A figure that goes evenly from the back to the front, at angles (n,) from the front."""
    half: Floats = (1.0 + np.cos(angles)) / 2.0
    return back + (front - back) * half

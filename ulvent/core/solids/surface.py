"""Faces that lettering stands on, and how it is carried to them from where they lie flat.

A place is (x, y, w): x and y in the plane of the piece, w mm out of the face.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal, Protocol

import numpy as np

from ulvent.core.base.arrays import Floats, Millimetres, Points
from ulvent.core.guides.rounds import RoundSide


class Surface(Protocol):
    """A face of a body."""

    @property
    def least_radius(self) -> Millimetres:
        """The tightest bend of the face, mm; infinite where it is flat."""
        ...

    def carried(self, places: Floats) -> Floats:
        """(n, 3) where places (n, 3) of the flat face lie on the part, mm."""
        ...


@dataclass(frozen=True)
class FlatFace:
    """A face that is flat: at a height z."""

    z: Millimetres

    @property
    def least_radius(self) -> Millimetres:
        return math.inf

    def carried(self, places: Floats) -> Floats:
        return places + (0.0, 0.0, self.z)


@dataclass(frozen=True)
class RoundFace:
    """The side of a round part.

    level
        the height on the side at which lengths round the part are true, mm from its middle
    base
        how high above the origin the side's middle is, along the axis
    axis
        along which the part lies: `z`, its front toward −y; `y`, its front up
    """

    side: RoundSide
    level: Millimetres
    base: Millimetres = 0.0
    axis: Literal["z", "y"] = "z"

    @property
    def least_radius(self) -> Millimetres:
        least = min(self.side.front, self.side.back) - abs(self.side.slope) * self.side.height / 2
        return max(min(least, self.side.crown or math.inf), 0.1)

    def carried(self, places: Floats) -> Floats:
        side = self.side
        flat, w = places[:, :2] - side.middle, places[:, 2]
        if side.slope:
            angles, radii, up = self._on_cone(flat, w)
            right, front = radii * np.sin(angles), radii * np.cos(angles)
        else:
            right, front, up = self._on_band(flat, w)
        return self.standing(np.stack([right, front, up], axis=1))

    def standing(self, local: Floats) -> Floats:
        """(n, 3) of the part: places to the right, to the front, and up its axis."""
        right, front, up = local.T
        if self.axis == "y":
            return np.stack([right, up + self.base, front], axis=1)
        return np.stack([right, -front, up + self.base], axis=1)

    def _on_cone(self, flat: Points, w: Floats) -> tuple[Floats, Floats, Floats]:
        """Angles, radii and heights: the sector rolled up about its apex."""
        side, slope = self.side, self.side.slope
        apex = side.front / slope
        toward = math.copysign(1.0, slope)
        away = np.stack([flat[:, 0], apex - flat[:, 1]], axis=1) * (1.0, toward)
        from_apex = np.hypot(*away.T)
        angles = np.arctan2(away[:, 0], away[:, 1]) / abs(slope)
        cosine = math.sqrt(1.0 - slope * slope)
        radii = from_apex * abs(slope) + w * cosine
        up = toward * (abs(apex) - from_apex) * cosine + w * slope
        return angles, radii, up

    def _on_band(self, flat: Points, w: Floats) -> tuple[Floats, Floats, Floats]:
        """To the right, to the front and up: round the outline, and up the crowned section."""
        side = self.side
        u, v = flat.T
        angles = side.angles_of(u, self.level)
        radii = side.radius_at(angles)
        normal = angles + side.normal_turn(angles)
        if side.crown is None:
            out, up = w, v
        else:
            lean = v / side.crown
            out = w * np.cos(lean) - side.drop(v)
            up = (side.crown + w) * np.sin(lean)
        return (
            radii * np.sin(angles) + out * np.sin(normal),
            radii * np.cos(angles) + out * np.cos(normal),
            up,
        )


def stretches(face: Surface, points: Points) -> Floats:
    """(n, 2) the least and greatest stretch of the flat face at points (n, 2): 1 is none.

    By differences over a thousandth of a mm.
    """
    step = 1e-3

    def at(x: float, y: float) -> Floats:
        places = np.concatenate([points + (x, y), np.zeros((len(points), 1))], axis=1)
        return face.carried(places)

    along = (at(step, 0.0) - at(-step, 0.0)) / (2.0 * step)
    up = (at(0.0, step) - at(0.0, -step)) / (2.0 * step)
    e, f, g = (along**2).sum(axis=1), (along * up).sum(axis=1), (up**2).sum(axis=1)
    middle, spread = (e + g) / 2.0, np.hypot((e - g) / 2.0, f)
    found: Floats = np.sqrt(np.stack([np.maximum(middle - spread, 0.0), middle + spread], axis=1))
    return found

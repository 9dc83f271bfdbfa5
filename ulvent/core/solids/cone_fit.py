"""A cone, or a cylinder, through triangles that stand for one."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ulvent.core.base.arrays import Floats, Integers, wrapped
from ulvent.core.base.tolerances import JOINT
from ulvent.core.solids.triangles import Triangles

_MOST_CORNERS = 600
_FAR_OFF = 0.2
"""What is so far off the first guess, of its radius, is no cone."""
_LARGEST = 1e5
_STEEPEST = math.tan(math.radians(70.0))
_SAME_ANGLE = 1e-3
_LEVEL = math.tan(math.radians(0.03))
"""A cone that leans less is a cylinder."""


@dataclass(frozen=True, eq=False)
class Cone:
    """A round surface about an axis, seen from outside.

    turn
        (3, 3): two ways across the axis, and the axis, in the file
    about
        (3,) the place on the axis from which heights count, mm
    radius, lean
        at height 0, mm, and by how much it grows a mm up
    """

    turn: Floats
    about: Floats
    radius: float
    lean: float

    def _local(self, points: Floats) -> Floats:
        local: Floats = (points - self.about) @ self.turn.T
        return local

    def off(self, points: Floats) -> Floats:
        """(n,) how far points (n, 3) are outside of it, mm."""
        x, y, z = self._local(points).T
        found: Floats = (np.hypot(x, y) - self.radius - self.lean * z) / math.hypot(1.0, self.lean)
        return found

    def normals(self, points: Floats) -> Floats:
        """(n, 3) ways out of it beside points."""
        x, y, _ = self._local(points).T
        away = np.maximum(np.hypot(x, y), JOINT)
        local = np.stack([x / away, y / away, np.full(len(x), -self.lean)], axis=1)
        found: Floats = local @ self.turn / math.hypot(1.0, self.lean)
        return found

    def radius_at(self, height: float) -> float:
        return self.radius + self.lean * height

    def heights(self, points: Floats) -> tuple[float, float]:
        z = self._local(points)[:, 2]
        return float(z.min()), float(z.max())

    def reach_round(self, points: Floats) -> tuple[float, float]:
        """The middle of what points go round of it, radians, and how far they go, degrees."""
        x, y, _ = self._local(points).T
        angles = np.sort(np.arctan2(y, x))
        angles = angles[np.diff(angles, prepend=-np.inf) > _SAME_ANGLE]
        gaps = np.diff(angles, append=angles[0] + 2.0 * math.pi)
        widest = int(np.argmax(gaps))
        others = np.delete(gaps, widest)
        usual = float(np.median(others)) if len(others) else 2.0 * math.pi
        if gaps[widest] <= max(2.2 * usual, math.radians(10.0)):
            # All the way round: its front is what looks toward −y in the file.
            front = self.turn @ np.array([0.0, -1.0, 0.0])
            return math.atan2(front[1], front[0]), 360.0
        begin = angles[(widest + 1) % len(angles)]
        reach = 2.0 * math.pi - float(gaps[widest])
        return float(wrapped(np.array(begin + reach / 2.0))), math.degrees(reach)

    def frame(self, low: float, front: float) -> Floats:
        """(3, 4) to a place with its axis on z, a height at 0, and an angle toward −y."""
        x, y, axis = self.turn
        toward = math.cos(front) * x + math.sin(front) * y
        right = np.cross(-toward, axis)
        turn = np.stack([right, -toward, axis])
        return np.column_stack([turn, -turn @ (self.about + low * axis)])


def fitted_cone(body: Triangles, which: Integers, first: Cone | None = None) -> Cone | None:
    """The cone or cylinder that the corners of some triangles lie on; none where there is none.

    first
        a guess to begin with
    """
    from scipy.optimize import least_squares

    guess = first or _guessed(body, which)
    if guess is None:
        return None
    corners = np.unique(body.triangles[which])
    points = body.vertices[corners[:: 1 + len(corners) // _MOST_CORNERS]]
    if np.abs(guess.off(points)).max() > _FAR_OFF * guess.radius:
        return None
    size = max(guess.radius, 1.0)

    def cone(figures: Floats) -> Cone:
        tilt_x, tilt_y, x, y, radius, lean = figures
        turn = _tilted(guess.turn, tilt_x, tilt_y)
        about = guess.about + size * (x * guess.turn[0] + y * guess.turn[1])
        return Cone(turn, about, size * radius, lean)

    start = np.array([0.0, 0.0, 0.0, 0.0, guess.radius / size, guess.lean])
    found = least_squares(lambda f: cone(f).off(points) / size, start, method="trf", max_nfev=60)
    fitted = cone(found.x)
    if not 0.0 < fitted.radius < _LARGEST or abs(fitted.lean) > _STEEPEST:
        return None
    lean = 0.0 if abs(fitted.lean) < _LEVEL else fitted.lean
    return Cone(fitted.turn, fitted.about, fitted.radius, lean)


def _axis(body: Triangles, which: Integers) -> tuple[Floats, float]:
    """The way to which all normals lean alike, and their cosine with it."""
    normals, areas = body.normals[which], body.areas[which]
    mean = np.average(normals, axis=0, weights=areas)
    spread = (normals - mean) * areas[:, None]
    _, ways = np.linalg.eigh(spread.T @ (normals - mean))
    axis = ways[:, 0] / np.sqrt(ways[:, 0] @ ways[:, 0])
    if axis[np.argmax(np.abs(axis))] < 0.0:
        axis = -axis
    return axis, float(mean @ axis)


def _guessed(body: Triangles, which: Integers) -> Cone | None:
    """From the normals: those of a cone all lean alike toward its axis."""
    axis, leaning = _axis(body, which)
    if abs(leaning) > 0.985:
        return None
    lean = -leaning / math.sqrt(1.0 - leaning * leaning)
    x = np.cross(axis, np.eye(3)[np.argmin(np.abs(axis))])
    x /= np.sqrt(x @ x)
    turn = np.stack([x, np.cross(axis, x), axis])
    about = body.vertices[body.triangles[which]].reshape(-1, 3).mean(axis=0)
    px, py, pz = ((body.corners[which].reshape(-1, 3) - about) @ turn.T).T
    # (x − a)² + (y − b)² = (r + lean z)², which is linear in a, b and what is left.
    known = np.stack([2.0 * px, 2.0 * py, np.ones(len(px)), 2.0 * lean * pz], axis=1)
    solved = np.linalg.lstsq(known, px**2 + py**2 - (lean * pz) ** 2, rcond=None)[0]
    a, b, rest, _ = solved.tolist()
    squared = rest + a * a + b * b
    if squared <= 0.0:
        return None
    return Cone(turn, about + a * x + b * turn[1], math.sqrt(squared), lean)


def _tilted(turn: Floats, about_x: float, about_y: float) -> Floats:
    """A frame whose axis is tilted a little about its two other ways."""
    x, _, axis = turn
    tilted = axis + about_y * x - about_x * turn[1]
    tilted /= np.sqrt(tilted @ tilted)
    across = x - (x @ tilted) * tilted
    across /= np.sqrt(across @ across)
    return np.stack([across, np.cross(tilted, across), tilted])

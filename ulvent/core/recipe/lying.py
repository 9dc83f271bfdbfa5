"""How a piece lies: the sheet that it is made from, what the tool reaches, and where it is put."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np

from ulvent.core.base.arrays import Bounds, Matrices
from ulvent.core.base.fields import Degrees, Model, ToolCoordinate, ToolSize

Corner = Literal["lower-left", "lower-right", "upper-left", "upper-right", "centre"]


class Sheet(Model):
    """The sheet that the blank lies on, centred, mm."""

    width: ToolSize
    height: ToolSize


class ToolArea(Model):
    """What the tool reaches, centred, mm; `turned` lays it across."""

    width: ToolSize
    height: ToolSize
    turned: bool = False

    @property
    def box(self) -> Bounds:
        """What is reached, mm."""
        x, y = self.width / 2.0, self.height / 2.0
        x, y = (y, x) if self.turned else (x, y)
        return -x, -y, x, y


class Bed(Model):
    """What a machine reaches, mm, and which corner of it is the machine's zero."""

    width: ToolSize
    height: ToolSize
    zero: Corner = "lower-left"

    @property
    def box(self) -> Bounds:
        """What is reached, mm from the machine's zero."""
        across, up = corner_shares(self.zero)
        x, y = -across * self.width, -up * self.height
        return x, y, x + self.width, y + self.height


def corner_shares(corner: Corner) -> tuple[float, float]:
    """How far across and how far up a box a corner of it lies, from 0 to 1."""
    share = {"left": 0.0, "right": 1.0, "lower": 0.0, "upper": 1.0, "centre": 0.5}
    up, _, across = corner.partition("-")
    return share[across or up], share[up]


class Lie(Model):
    """How the whole piece lies on the sheet: mirrored left to right, then turned, then moved.

    Mirrored is what is seen from the back, as for glass, or film that is pressed on.
    """

    mirrored: bool = False
    turned: Degrees = 0.0
    at: tuple[ToolCoordinate, ToolCoordinate] = (0.0, 0.0)

    @property
    def matrix(self) -> Matrices:
        """(2, 3) from the piece as it is designed to where it lies, mm."""
        cos, sin = _exact(self.turned)
        flip = -1.0 if self.mirrored else 1.0
        x, y = self.at
        return np.array([[flip * cos, -sin, x], [flip * sin, cos, y]])

    @property
    def back(self) -> Matrices:
        """(2, 3) from where it lies to the piece as it is designed."""
        matrix = self.matrix
        turn = matrix[:, :2].T
        return np.column_stack([turn, -turn @ matrix[:, 2]])


def _exact(degrees: float) -> tuple[float, float]:
    """Cosine and sine, of whole quarters without rounding."""
    quarters = degrees / 90.0
    if quarters == round(quarters):
        return ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[round(quarters) % 4]
    return math.cos(math.radians(degrees)), math.sin(math.radians(degrees))

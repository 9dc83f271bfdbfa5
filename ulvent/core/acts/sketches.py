"""New drawn guides from what was drawn on the screen."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ulvent.core.base.arrays import Complexes, Point
from ulvent.core.guides.drawn import Node
from ulvent.core.guides.kinds.drawn_guide import DrawnGuide

STEM = "line"
"""Of the ids of guides that are drawn."""


def about_their_middle(points: Sequence[Point]) -> tuple[Point, Complexes]:
    """The middle of the points' box, mm, and the points (n,) about it."""
    found: Complexes = np.array(points) @ np.array([1.0, 1j])
    low = found.real.min() + 1j * found.imag.min()
    high = found.real.max() + 1j * found.imag.max()
    middle = (low + high) / 2.0
    centre = (round(middle.real, 3), round(middle.imag, 3))
    return centre, found - complex(*centre)


def new_drawn(centre: Point, nodes: tuple[Node, ...], closed: bool) -> DrawnGuide:
    """A drawn guide whose points lie about a centre."""
    return DrawnGuide(id=STEM, kind="drawn", centre=centre, nodes=nodes, closed=closed)

"""What arrays and pairs of figures hold, said by their type: unit and shape.

The names are aliases, so that a signature reads as its own documentation; a checker takes
all arrays of figures for one type. Lengths are in mm, y is up.
"""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from itertools import chain
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
"""Figures of any shape and unit."""
Points = NDArray[np.float64]
"""(..., 2) points, mm, in the plane that the owner states."""
Vectors = NDArray[np.float64]
"""(..., 2) directions; unit vectors where a docstring says so."""
Stations = NDArray[np.float64]
"""(n,) distances along a curve from its start, mm."""
Lengths = NDArray[np.float64]
"""(n,) lengths or distances, mm."""
Scales = NDArray[np.float64]
"""(n,) mm per unit of a face."""
Turns = NDArray[np.float64]
"""(n,) angles, **radians**, counter-clockwise."""
Bends = NDArray[np.float64]
"""(n,) signed curvatures, 1/mm, positive where a curve turns left."""
Controls = NDArray[np.float64]
"""(..., 4, 2) control points of cubics."""
Matrices = NDArray[np.float64]
"""(..., 2, 3) affine maps: linear part, then translation."""
Complexes = NDArray[np.complex128]
"""Points or vectors as x + iy."""
Booleans = NDArray[np.bool_]
Integers = NDArray[np.intp]
"""Indices."""

Millimetres = float
Degrees = float
Radians = float
Stretch = tuple[float, float]
"""Two stations, mm, the first before the second."""


@dataclass(frozen=True)
class Turned:
    """Marks a type whose values lie on the drawing: where y is turned down, they are turned.

    box
        whether the value is a box, whose least y becomes its greatest
    """

    box: bool = False


Point = Annotated[tuple[float, float], Turned()]
"""x and y, mm, y up."""
Bounds = Annotated[tuple[float, float, float, float], Turned(box=True)]
"""Least x, least y, greatest x, greatest y, mm, y up."""


def extent(box: Bounds) -> tuple[float, float]:
    """Width and height of a box, mm."""
    x0, y0, x1, y1 = box
    return x1 - x0, y1 - y0


def box_round(points: Points) -> Bounds:
    """The least box round points (n, 2), mm; there is at least one."""
    (x0, y0), (x1, y1) = points.min(axis=0).tolist(), points.max(axis=0).tolist()
    return (x0, y0, x1, y1)


def counted_up(counts: Integers) -> tuple[Integers, Integers]:
    """Each index as often as its count says, and which time it is: 0 0, 0 1, 1 0, …"""
    owners = np.repeat(np.arange(len(counts)), counts)
    return owners, np.arange(len(owners)) - np.repeat(np.cumsum(counts) - counts, counts)


def strung(lists: Collection[Collection[int]]) -> tuple[Integers, Integers]:
    """Lists of indices one after another: of which list each item is, and the items."""
    counts = np.fromiter(map(len, lists), dtype=int, count=len(lists))
    items = np.fromiter(chain.from_iterable(lists), dtype=int, count=int(counts.sum()))
    return np.repeat(np.arange(len(counts)), counts), items


def in_pieces(begins: Points, ends: Points, longest: float) -> tuple[Integers, Points, Points]:
    """Edges (n, 2) in equal pieces of at most `longest`: of which edge each is, where it begins,
    and the way (k, 2) to where it ends."""
    ways = ends - begins
    counts = np.maximum(np.ceil(np.hypot(*ways.T) / longest), 1.0).astype(int)
    owners, steps = counted_up(counts)
    places = begins[owners] + (steps / counts[owners])[:, None] * ways[owners]
    return owners, places, ways[owners] / counts[owners, None]


def turned_left(vectors: Vectors) -> Vectors:
    """(n, 2) vectors turned a quarter to the left."""
    return np.stack([-vectors[:, 1], vectors[:, 0]], axis=1)


def rotated(vectors: Vectors, angles: Turns) -> Vectors:
    """(n, 2) vectors turned by angles, radians."""
    cos, sin = np.cos(angles), np.sin(angles)
    x, y = vectors.T
    return np.stack([x * cos - y * sin, x * sin + y * cos], axis=1)


def wrapped(angles: Turns) -> Turns:
    """Angles, radians, brought into [−π, π)."""
    inside: Turns = (angles + np.pi) % (2.0 * np.pi) - np.pi
    return inside


def unit(vectors: Vectors) -> Vectors:
    """(n, 2) vectors of length 1; those of none stay."""
    lengths = np.hypot(*vectors.T)[:, None]
    return vectors / np.where(lengths > 0.0, lengths, 1.0)


def united(boxes: list[Bounds]) -> Bounds:
    """The least box round all boxes; a point at the origin where there are none."""
    if not boxes:
        return (0.0, 0.0, 0.0, 0.0)
    low_x, low_y, high_x, high_y = zip(*boxes, strict=True)
    return min(low_x), min(low_y), max(high_x), max(high_y)

"""What lies within what: lines of a pass as trees, and which of them belong together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.shapes import Region
from ulvent.core.shapes.region import ring_area

_AT_ONCE = 512
LETTERING = ("letters", "ticks", "whole")
"""Kinds of lines that lie on a part; all others go round it."""


class Line(NamedTuple):
    """A line to follow, mm.

    unit
        lines of one letter have one number: they are followed together
    name
        what it belongs to, in words
    keeps
        whether what a closed line has on its left is kept; otherwise that is the waste
    begins, tabs
        where a closed line is begun and where tabs stand on it, mm along it, if that was set by
        hand
    """

    points: Points
    closed: bool
    unit: int
    name: str
    keeps: bool = True
    begins: float | None = None
    tabs: tuple[float, ...] = ()


@dataclass(eq=False)
class Nested:
    """A line, by its index, with what lies directly within it."""

    index: int
    within: list[Nested] = field(default_factory=list)


def holes_turned(lines: Sequence[Line]) -> list[Line]:
    """Closed lines with what is theirs on their left, those within an odd number as holes."""
    rings = _rings_round(lines)
    found: list[Line] = []
    for line, outer in zip(lines, rings, strict=True):
        clockwise = line.closed and ring_area(line.points) < 0.0
        hole = len(outer) % 2 == 1
        turn = line.closed and clockwise != hole
        found.append(line._replace(points=line.points[::-1]) if turn else line)
    return found


class Nesting(NamedTuple):
    """Which lines lie within which.

    roots
        lines that lie within no other, each with what lies within it, and so on
    besides
        lines that lie within others too, where those cross: (inner, outer), by their indices
    """

    roots: list[Nested]
    besides: list[tuple[int, int]]


def nested(lines: Sequence[Line]) -> Nesting:
    """The lines as trees."""
    nodes = [Nested(index) for index in range(len(lines))]
    roots: list[Nested] = []
    rings = _rings_round(lines)
    for node, outer in zip(nodes, rings, strict=True):
        (nodes[outer[0]].within if outer else roots).append(node)
    besides = [
        (index, one)
        for index, outer in enumerate(rings)
        for one in outer[1:]
        if one not in rings[outer[0]]
    ]
    return Nesting(roots, besides)


def _rings_round(lines: Sequence[Line]) -> list[list[int]]:
    """The closed lines round each line, the smallest first."""
    if not lines:
        return []
    boxes = np.array([[*line.points.min(axis=0), *(-line.points.max(axis=0))] for line in lines])
    areas = np.array([abs(ring_area(line.points)) if line.closed else np.inf for line in lines])
    closed = np.flatnonzero(np.isfinite(areas))
    regions = {index: Region((lines[index].points,)) for index in closed.tolist()}
    found: list[list[int]] = []
    for first in range(0, len(lines), _AT_ONCE):
        some = np.arange(first, min(first + _AT_ONCE, len(lines)))
        round_it = (boxes[closed] <= boxes[some, None]).all(axis=2)
        round_it &= closed != some[:, None]
        for index, row in zip(some.tolist(), round_it, strict=True):
            candidates = closed[row]
            candidates = candidates[np.argsort(areas[candidates], kind="stable")]
            if lines[index].closed:
                candidates = candidates[areas[candidates] > areas[index]]
            if not len(candidates):
                found.append([])
                continue
            some_points = _some_points(lines[index], regions.get(index))
            # Lines may touch: what counts is where most of one is.
            found.append(
                [
                    one
                    for one in candidates.tolist()
                    if regions[one].contains(some_points).mean() > 0.5
                ]
            )
    return found


def _some_points(line: Line, region: Region | None) -> Points:
    """(n, 2) points by which to tell where a line lies: one inside of it, or some along it."""
    if region is not None:
        return np.array([region.some_point()])
    return line.points[:: max(1, len(line.points) // _LOOKED_AT)]


_LOOKED_AT = 12

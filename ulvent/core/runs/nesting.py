"""What lies within what: lines of a pass as trees, and which of them belong together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.shapes import Region
from ulvent.core.shapes.region import ring_area

_AT_ONCE = 512


@dataclass(frozen=True, eq=False)
class Line:
    """A line to follow, mm.

    unit
        lines of one letter have one number: they are followed together
    name
        what it belongs to, in words
    """

    points: Points
    closed: bool
    unit: int
    name: str


@dataclass(eq=False)
class Nested:
    """A line, by its index, with what lies directly within it."""

    index: int
    within: list[Nested] = field(default_factory=list)


def nested(lines: Sequence[Line]) -> list[Nested]:
    """The lines that lie within no other, each with what lies within it, and so on."""
    nodes = [Nested(index) for index in range(len(lines))]
    roots: list[Nested] = []
    for node, parent in zip(nodes, _parents(lines), strict=True):
        (roots if parent is None else nodes[parent].within).append(node)
    return roots


def _parents(lines: Sequence[Line]) -> list[int | None]:
    """The smallest closed line round each line."""
    if not lines:
        return []
    boxes = np.array([[*line.points.min(axis=0), *(-line.points.max(axis=0))] for line in lines])
    areas = np.array([abs(ring_area(line.points)) if line.closed else np.inf for line in lines])
    closed = np.flatnonzero(np.isfinite(areas))
    found: list[int | None] = []
    for first in range(0, len(lines), _AT_ONCE):
        some = np.arange(first, min(first + _AT_ONCE, len(lines)))
        round_it = (boxes[closed] <= boxes[some, None]).all(axis=2)
        round_it &= closed != some[:, None]
        for index, row in zip(some.tolist(), round_it, strict=True):
            candidates = closed[row]
            candidates = candidates[np.argsort(areas[candidates], kind="stable")]
            own = areas[index] if lines[index].closed else 0.0
            found.append(
                next(
                    (
                        one
                        for one in candidates.tolist()
                        if areas[one] > own and _inside(lines[one].points, lines[index].points)
                    ),
                    None,
                )
            )
    return found


def _inside(ring: Points, points: Points) -> bool:
    """Whether most of a line lies within a ring: they may touch."""
    few = points[:: max(1, len(points) // _LOOKED_AT)]
    return bool(Region((ring,)).contains(few).mean() > 0.5)


_LOOKED_AT = 12

"""Drawn guides: placed points, with handles where a person has set them."""

from __future__ import annotations

import cmath
import math
from typing import Literal

import numpy as np

from ulvent.core.base.errors import CurveError
from ulvent.core.base.fields import XY, Model
from ulvent.core.base.inputs import Values
from ulvent.core.base.remembered import remembered
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves import BezierPath, BezierSegment, CubicSegment, LineSegment
from ulvent.core.guides.through import smooth_handles

SHARPEST = math.radians(115.0)
"""A line that turns more than this at a placed point has a corner there."""


JOINTS: Values = (
    ("free", "by itself"),
    ("smooth", "smooth"),
    ("even", "symmetric"),
    ("corner", "corner"),
)
"""How a line goes through a point, with words; `free` is a smooth one that finds its own way."""


class Node(Model):
    """A placed point of a drawn guide.

    joint
        whether the line may turn there (`corner`), goes on in its direction (`smooth`), or
        also with equal handles (`even`)
    before, after
        its handles, relative to it; without them the line finds its own way
    """

    at: XY
    joint: Literal["smooth", "even", "corner"] = "smooth"
    before: XY | None = None
    after: XY | None = None


def drawn_line(nodes: tuple[Node, ...], closed: bool) -> BezierPath:
    """The line through the nodes.

    Raises
    ------
    CurveError
        When two neighbouring points coincide, naming them by number.
    """
    points = [complex(*node.at) for node in nodes]
    count = len(points) if closed else len(points) - 1
    for index in range(count):
        other = (index + 1) % len(points)
        if abs(points[other] - points[index]) <= JOINT:
            raise CurveError(f"points {index + 1} and {other + 1} lie on each other")
    handles = drawn_handles(nodes, closed)
    befores, afters = np.array(handles).T
    starts, ends = np.array(points)[:count], np.roll(points, -1)[:count]
    after, before = afters[:count], np.roll(befores, -1)[:count]
    controls = np.stack([starts, starts + after, ends + before, ends], axis=1)
    figures = np.stack([controls.real, controls.imag], axis=2).tolist()
    segments: list[BezierSegment] = []
    for straight, corners in zip((after == 0.0) & (before == 0.0), figures, strict=True):
        start, first, second, end = (tuple(corner) for corner in corners)
        segments.append(
            LineSegment(start, end) if straight else CubicSegment(start, first, second, end)
        )
    return BezierPath(segments, closed)


@remembered(256)
def drawn_handles(nodes: tuple[Node, ...], closed: bool) -> tuple[tuple[complex, complex], ...]:
    """The handles before and after every node: those that are set, and those that follow.

    A stretch between two corners without handles is straight: its handles are 0.
    """
    points = np.array([complex(*node.at) for node in nodes])
    count = len(nodes)
    found = [[_set(node.before), _set(node.after)] for node in nodes]
    breaks = _breaks(nodes, points, closed)
    for run in _runs(count, closed, breaks):
        _fill(nodes, points, found, run, is_ring=not breaks)
    return tuple(
        (before if before is not None else 0j, after if after is not None else 0j)
        for before, after in found
    )


def _set(handle: tuple[float, float] | None) -> complex | None:
    return None if handle is None else complex(*handle)


def _breaks(nodes: tuple[Node, ...], points: np.ndarray, closed: bool) -> set[int]:
    """Nodes at which one smooth run ends and the next begins."""
    count = len(nodes)
    found: set[int] = set()
    for index, node in enumerate(nodes):
        is_end = not closed and index in (0, count - 1)
        has_handle = node.before is not None or node.after is not None
        if is_end or node.joint == "corner" or has_handle:
            found.add(index)
            continue
        into = points[index] - points[index - 1]
        out = points[(index + 1) % count] - points[index]
        if into and out and abs(cmath.phase(out / into)) > SHARPEST:
            found.add(index)
    return found


def _runs(count: int, closed: bool, breaks: set[int]) -> list[list[int]]:
    """Indices of the nodes of each run, ends included; a ring without breaks is one run."""
    if not breaks:
        return [[*range(count)]]
    ordered = sorted(breaks)
    runs = [[*range(a, b + 1)] for a, b in zip(ordered[:-1], ordered[1:], strict=True)]
    if closed:
        runs.append([index % count for index in range(ordered[-1], ordered[0] + count + 1)])
    return runs


def _fill(
    nodes: tuple[Node, ...],
    points: np.ndarray,
    found: list[list[complex | None]],
    run: list[int],
    is_ring: bool,
) -> None:
    """Give the stretches of one run the handles that nobody has set."""
    first, last = run[0], run[-1]
    out, into = found[first][1], found[last][0]
    if len(run) == 2 and (out is not None or into is not None or _both_sharp(nodes, first, last)):
        chord = points[last] - points[first]
        if out is None and into is None:
            return
        toward_end = (chord + (into or 0j)) / 3.0
        toward_start = (-chord + (out or 0j)) / 3.0
        found[first][1] = out if out is not None else _aimed(nodes[first], 1, toward_end)
        found[last][0] = into if into is not None else _aimed(nodes[last], 0, toward_start)
        return
    start_way = _way(nodes[first], 1)
    end_way = _way(nodes[last], 0)
    after, before = smooth_handles(
        points[run],
        is_ring,
        None if is_ring else start_way,
        None if is_ring or end_way is None else -end_way,
    )
    for index, (leave, reach) in enumerate(zip(after, before, strict=True)):
        here, there = run[index], run[(index + 1) % len(run)]
        if found[here][1] is None:
            found[here][1] = complex(leave)
        if found[there][0] is None:
            found[there][0] = complex(reach)


def _both_sharp(nodes: tuple[Node, ...], first: int, last: int) -> bool:
    return nodes[first].joint == "corner" and nodes[last].joint == "corner"


def _way(node: Node, side: int) -> complex | None:
    """The direction in which a handle on `side`, 0 before and 1 after, must point, if any."""
    handles = (_set(node.before), _set(node.after))
    if handles[side]:
        return handles[side]
    other = handles[1 - side]
    return -other if other and node.joint != "corner" else None


def _aimed(node: Node, side: int, toward: complex) -> complex:
    """A handle as long as `toward`, in the direction that the other one gives, if it does."""
    way = _way(node, side)
    return toward if way is None else way / abs(way) * abs(toward)

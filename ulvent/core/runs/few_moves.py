"""Tracks in few moves: straight ones, and arcs for formats that have them."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple, TypeVar

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Point, Points
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves.segments import as_point

R = TypeVar("R")

_LARGEST_RADIUS = 2000.0
_LEAST_POINTS = 4
_MOST_SWEEP = 3.0
"""Of one arc, radians: under half a turn, so that no reader takes it for the other one."""


def thinned(points: Points, off: float) -> Points:
    """(k, 2) those points of a line of which none left out is farther `off` it, mm."""
    found: Points = points[that_matter(points, off)]
    return found


def that_matter(points: Points, off: float) -> Booleans:
    """(n,) which points of a line are needed so that none left out is farther `off` it, mm.

    By Douglas and Peucker's way, 1973.
    """
    kept = np.zeros(len(points), dtype=bool)
    kept[[0, -1]] = True
    waiting = [(0, len(points) - 1)]
    while waiting:
        first, last = waiting.pop()
        if last - first < 2:
            continue
        far = _from_chord(points[first + 1 : last], points[first], points[last])
        worst = int(far.argmax())
        if far[worst] > off:
            middle = first + 1 + worst
            kept[middle] = True
            waiting += [(first, middle), (middle, last)]
    return kept


def once_each(make: Callable[[Points], R]) -> Callable[[Points], R]:
    """What is made of lines, once of each: rounds and repeats follow the very same one again."""
    known: dict[int, tuple[Points, R]] = {}

    def made(points: Points) -> R:
        if id(points) not in known:
            known[id(points)] = points, make(points)
        return known[id(points)][1]

    return made


class Move(NamedTuple):
    """From where the last one ended: to a point, straight, or by an arc about a centre.

    turn
        1: counter-clockwise, -1: clockwise; 0: straight
    """

    end: Point
    centre: Point = (0.0, 0.0)
    turn: int = 0


def moves(points: Points, off: float, arcs: bool = True) -> Iterator[Move]:
    """Few moves along a line (k, 2) from its first point on, none farther `off` it, mm."""
    at, last = 0, len(points) - 1
    while at < last:
        end, arc = _longest_arc(points, at, off) if arcs else (at, None)
        if arc is not None:
            yield arc
            at = end
            continue
        end = _longest_chord(points, at, off)
        yield Move(as_point(points[end]))
        at = end


def _longest_chord(points: Points, at: int, off: float) -> int:
    def fits(end: int) -> bool:
        inner = points[at + 1 : end]
        return not len(inner) or bool(_from_chord(inner, points[at], points[end]).max() <= off)

    return _farthest(at + 1, len(points) - 1, fits)


def _longest_arc(points: Points, at: int, off: float) -> tuple[int, Move | None]:
    least = at + _LEAST_POINTS
    if least >= len(points) or _arc(points[at : least + 1], off) is None:
        return at, None
    end = _farthest(least, len(points) - 1, lambda one: _arc(points[at : one + 1], off) is not None)
    return end, _arc(points[at : end + 1], off)


def _farthest(known: int, last: int, fits: Callable[[int], bool]) -> int:
    """The last index that fits, found by doubling and halving; `known` does."""
    step, low = 1, known
    while low + step <= last and fits(low + step):
        low += step
        step *= 2
    high = min(low + step, last + 1)
    while high - low > 1:
        middle = (low + high) // 2
        if fits(middle):
            low = middle
        else:
            high = middle
    return low


def _arc(points: Points, off: float) -> Move | None:
    """The arc that a stretch lies on, through its ends and its middle; none where it does not."""
    a, m, b = points[0], points[len(points) // 2], points[-1]
    (ux, uy), (vx, vy) = (m - a).tolist(), (b - a).tolist()
    cross = 2.0 * (ux * vy - uy * vx)
    if abs(cross) <= JOINT:
        return None
    uu, vv = ux * ux + uy * uy, vx * vx + vy * vy
    off_a = np.array([vy * uu - uy * vv, ux * vv - vx * uu]) / cross
    radius = float(np.hypot(*off_a))
    if radius > _LARGEST_RADIUS:
        return None
    centre = a + off_a
    spokes = points - centre
    middles = (spokes[1:] + spokes[:-1]) / 2.0
    if np.abs(np.hypot(*spokes.T) - radius).max() > off:
        return None
    if np.abs(np.hypot(*middles.T) - radius).max() > off:
        return None
    turns = spokes[:-1, 0] * spokes[1:, 1] - spokes[:-1, 1] * spokes[1:, 0]
    steps = np.arctan2(turns, np.einsum("ni,ni->n", spokes[:-1], spokes[1:]))
    if not _one_way(steps) or abs(steps.sum()) > _MOST_SWEEP:
        return None
    return Move(as_point(b), as_point(centre), 1 if steps.sum() > 0.0 else -1)


def _one_way(steps: Floats) -> bool:
    return bool((steps > 0.0).all() or (steps < 0.0).all())


def _from_chord(points: Points, first: Points, last: Points) -> Floats:
    """(n,) distances from the chord between two points, mm."""
    way = last - first
    length = float(way @ way)
    away = points - first
    share = np.clip(away @ way / length, 0.0, 1.0) if length > 0.0 else np.zeros(len(points))
    far: Floats = np.hypot(*(away - share[:, None] * way).T)
    return far

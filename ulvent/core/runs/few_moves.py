"""Tracks in few moves: straight ones, and arcs for formats that have them."""

from __future__ import annotations

from cmath import phase
from collections.abc import Callable, Iterator, Sequence
from typing import NamedTuple, TypeVar

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Integers, Point, Points
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
    """(n,) which points (n, d) of a line are needed so that none left out is farther `off` it, mm.

    By Douglas and Peucker's way, 1973, with all chords of one depth at once.
    """
    kept = np.zeros(len(points), dtype=bool)
    kept[[0, -1]] = True
    first, last = np.array([0]), np.array([len(points) - 1])
    while True:
        wide = last - first > 1
        first, last = first[wide], last[wide]
        if not len(first):
            return kept
        worst = _farthest_within(points, first, last, off)
        split = worst >= 0
        first, middle, last = first[split], worst[split], last[split]
        kept[middle] = True
        first, last = np.concatenate([first, middle]), np.concatenate([middle, last])


def _farthest_within(points: Points, first: Integers, last: Integers, off: float) -> Integers:
    """(c,) of each chord the point between its ends that is farthest off it; -1: none is too far.

    first, last
        (c,) the indices of its ends, with points between them
    """
    counts = last - first - 1
    begins = np.cumsum(counts) - counts
    chord = np.repeat(np.arange(len(counts)), counts)
    inner = np.arange(len(chord)) - begins[chord] + first[chord] + 1
    far = _from_chord(points[inner], points[first[chord]], points[last[chord]])
    most = np.maximum.reduceat(far, begins)
    # The first of those that are farthest.
    hits = np.flatnonzero(far == most[chord])
    _, places = np.unique(chord[hits], return_index=True)
    found: Integers = np.where(most > off, inner[hits[places]], -1)
    return found


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
    plane = [complex(x, y) for x, y in points.tolist()]
    kept = that_matter(points, off)
    following = np.flatnonzero(kept).tolist()
    place = 0
    while at < last:
        end, arc = _longest_arc(plane, at, off) if arcs else (at, None)
        if arc is not None:
            yield arc
            at = end
            continue
        while following[place] <= at:
            place += 1
        # From one point that matters to the next a chord is near enough; from others it may not be.
        end = following[place] if kept[at] else _longest_chord(points, at, off)
        yield Move(as_point(points[end]))
        at = end


def _longest_chord(points: Points, at: int, off: float) -> int:
    def fits(end: int) -> bool:
        inner = points[at + 1 : end]
        return not len(inner) or bool(_from_chord(inner, points[at], points[end]).max() <= off)

    return _farthest(at + 1, len(points) - 1, fits)


def _longest_arc(points: Sequence[complex], at: int, off: float) -> tuple[int, Move | None]:
    least = at + _LEAST_POINTS
    if least >= len(points) or _arc(points, at, least, off) is None:
        return at, None
    end = _farthest(least, len(points) - 1, lambda one: _arc(points, at, one, off) is not None)
    return end, _arc(points, at, end, off)


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


def _arc(points: Sequence[complex], first: int, last: int, off: float) -> Move | None:
    """The arc that a stretch lies on, through its ends and its middle; none where it does not.

    Most stretches are told after a few points: figures one by one are quicker here than arrays.
    """
    a, b = points[first], points[last]
    u, v = points[first + (last - first + 1) // 2] - a, b - a
    cross = 2.0 * (u.real * v.imag - u.imag * v.real)
    if abs(cross) <= JOINT:
        return None
    uu, vv = abs(u) ** 2, abs(v) ** 2
    centre = a + complex(v.imag * uu - u.imag * vv, u.real * vv - v.real * uu) / cross
    radius = abs(a - centre)
    if radius > _LARGEST_RADIUS:
        return None
    spoke, sweep = a - centre, 0.0
    for index in range(first + 1, last + 1):
        before, spoke = spoke, points[index] - centre
        if abs(abs(spoke) - radius) > off or abs(abs(spoke + before) / 2.0 - radius) > off:
            return None
        step = phase(spoke * before.conjugate())
        sweep += step
        # All steps turn one way, and come to less than the most.
        if step * sweep <= 0.0 or abs(sweep) > _MOST_SWEEP:
            return None
    return Move((b.real, b.imag), (centre.real, centre.imag), 1 if sweep > 0.0 else -1)


def _from_chord(points: Points, first: Points, last: Points) -> Floats:
    """(n,) distances of points (n, d) from one chord, or each from its own, mm.

    first, last
        its ends, (d,) or (n, d)
    """
    way = last - first
    squares = (way * way).sum(axis=-1)
    away = points - first
    along = (away * way).sum(axis=-1) / np.where(squares > 0.0, squares, 1.0)
    far: Floats = np.linalg.norm(away - np.clip(along, 0.0, 1.0)[:, None] * way, axis=1)
    return far

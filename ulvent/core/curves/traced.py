"""Parallels of closed outlines of many straight edges, as tracing makes them.

The loops of such a parallel are too many to be found one by one. A polygon library offsets the
whole outline at once; each edge of what comes out of it lies beside an edge of the outline, or
goes round a corner of it, and that is all that is taken from there: where two of these meet is
solved anew, so that the spans are exact.
"""

from __future__ import annotations

from dataclasses import dataclass

import manifold3d
import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Integers, Points, turned_left, unit
from ulvent.core.base.tolerances import CORNER, JOINT
from ulvent.core.curves.curve import Curve
from ulvent.core.curves.feet import nearest
from ulvent.core.curves.parallel import TRACED, Span
from ulvent.core.curves.plain import searches
from ulvent.core.curves.segments import LineSegment

_ROUND = 128
"""Chords of a circle in the polygon that comes out."""
_NEWTON_ROUNDS = 8
_SIMPLE = 1e-9


def traced_runs(base: Curve, distance: float) -> list[list[Span]] | None:
    """The contours of a parallel as runs of spans; nothing where the base is no such outline."""
    outline = _outline_of(base)
    if outline is None:
        return None
    ring = outline.points if outline.area > 0.0 else outline.points[::-1]
    polygon = manifold3d.CrossSection([ring], manifold3d.FillRule.Positive)
    if abs(polygon.area() - abs(outline.area)) > _SIMPLE * abs(outline.area):
        return None  # it crosses itself
    out = -distance if outline.area > 0.0 else distance
    found = polygon.offset(out, manifold3d.JoinType.Round, 2.0, _ROUND).to_polygons()
    contours = [each if outline.area > 0.0 else each[::-1] for each in found]
    return [run for each in contours if (run := _Tracing(outline, distance).run(each))]


@dataclass(frozen=True)
class _Outline:
    """Corners (n, 2) in order of travel, the stations (n + 1,) at which edges begin, and area."""

    base: Curve
    points: Points
    stations: Floats
    area: float


def _outline_of(base: Curve) -> _Outline | None:
    if not base.closed or len(base.corners.stations) < TRACED or searches(base):
        return None
    segments = base.segments()
    if not all(isinstance(one, LineSegment) for one in segments):
        return None
    points = np.array([one.start for one in segments])
    lengths = np.hypot(*(np.roll(points, -1, axis=0) - points).T)
    stations = np.concatenate([[0.0], np.cumsum(lengths)])
    stations[-1] = base.length
    # Exactly as the base has its corners: rounding would be before them or behind them.
    corners = base.corners.stations
    nearest_ones = corners[np.clip(np.searchsorted(corners, stations - JOINT), 0, len(corners) - 1)]
    stations = np.where(np.abs(nearest_ones - stations) <= JOINT, nearest_ones, stations)
    x, y = points.T
    area = 0.5 * float(x @ np.roll(y, -1) - y @ np.roll(x, -1))
    return _Outline(base, points, stations, area)


class _Tracing:
    """Contours of a parallel led back to the outline: to its edges, or its corners."""

    def __init__(self, outline: _Outline, distance: float) -> None:
        self._outline, self._distance = outline, distance
        following = np.roll(outline.points, -1, axis=0)
        self._along = unit(following - outline.points)
        before = np.roll(self._along, 1, axis=0)
        # By how much the outline turns at the corner where an edge begins.
        self._turns = np.arctan2(_cross(before, self._along), (before * self._along).sum(axis=1))

    def run(self, contour: Points) -> list[Span]:
        owners, rounds = self._owners(contour)
        same = (owners == np.roll(owners, 1)) & (rounds == np.roll(rounds, 1))
        firsts = np.flatnonzero(~same)
        if len(firsts) < 2:
            return []
        owners, rounds = owners[firsts], rounds[firsts]
        meets = self._meeting(
            contour[firsts], np.roll(owners, 1), np.roll(rounds, 1), owners, rounds
        )
        begins, ends = meets, np.roll(meets, -1, axis=0)
        spans = [
            self._round(owner, begin, end) if is_round else self._beside(owner, begin, end)
            for owner, is_round, begin, end in zip(owners, rounds, begins, ends, strict=True)
        ]
        kept = [span for span in spans if span is not None]
        first = min(range(len(kept)), key=lambda index: kept[index].begin, default=0)
        return kept[first:] + kept[:first]

    def _owners(self, contour: Points) -> tuple[Integers, Booleans]:
        """The edge or corner of the outline that each edge of a contour belongs to."""
        middles = (contour + np.roll(contour, -1, axis=0)) / 2.0
        stations = nearest(self._outline.base, middles)
        begins = self._outline.stations
        edges = np.clip(np.searchsorted(begins, stations, side="right") - 1, 0, len(begins) - 2)
        at_end = begins[edges + 1] - stations <= JOINT
        rounds = at_end | (stations - begins[edges] <= JOINT)
        corners = np.where(at_end, (edges + 1) % len(self._along), edges)
        # At a corner that closes on this side there is nothing to go round.
        opens = self._turns[corners] * self._distance < 0.0
        return np.where(rounds & opens, corners, edges), rounds & opens

    def _meeting(
        self, near: Points, one: Integers, one_round: Booleans, two: Integers, two_round: Booleans
    ) -> Points:
        """Where the parallels of two edges or corners meet: Newton's method from near there."""
        at = near.copy()
        for _ in range(_NEWTON_ROUNDS):
            f, df = self._off(at, one, one_round)
            g, dg = self._off(at, two, two_round)
            determinant = _cross(df, dg)
            safe = np.where(np.abs(determinant) > 1e-9, determinant, np.inf)
            step = np.stack([f * dg[:, 1] - g * df[:, 1], g * df[:, 0] - f * dg[:, 0]], axis=1)
            at = at - step / safe[:, None]
        # Where they run into each other without an angle the polygon knows better.
        far = np.hypot(*(at - near).T) > 0.01 * abs(self._distance)
        return np.where(far[:, None], near, at)

    def _off(self, at: Points, owners: Integers, rounds: Booleans) -> tuple[Floats, Points]:
        """How far points are off the parallels of edges or corners, and the gradients of that."""
        ways = at - self._outline.points[owners]
        normals = turned_left(self._along[owners])
        away = np.hypot(*ways.T)
        outward = ways / np.where(away > 0.0, away, 1.0)[:, None]
        off = np.where(
            rounds, away - abs(self._distance), (ways * normals).sum(axis=1) - self._distance
        )
        return off, np.where(rounds[:, None], outward, normals)

    def _beside(self, edge: int, begin: Floats, end: Floats) -> Span | None:
        start, length = self._outline.stations[edge], np.diff(self._outline.stations)[edge]
        ways = np.stack([begin, end]) - self._outline.points[edge]
        first, last = _snapped(ways @ self._along[edge], length, JOINT)
        if not last - first > JOINT:
            return None
        return Span(float(start + first), float(start + last))

    def _round(self, corner: int, begin: Floats, end: Floats) -> Span | None:
        jump = float(self._turns[corner])
        if abs(jump) <= CORNER:
            return None
        side = turned_left(self._along[[corner - 1]]) * np.sign(self._distance)
        ways = np.stack([begin, end]) - self._outline.points[corner]
        turned = np.arctan2(_cross(side, ways), (ways * side).sum(axis=1))
        first, last = _snapped(turned / jump, 1.0, JOINT / abs(jump * self._distance))
        if not last > first:
            return None
        # The corner at the seam is passed at the end.
        station = float(self._outline.stations[corner or -1])
        return Span(station, station, float((last - first) * jump), jump, float(first * jump))


def _snapped(places: Floats, most: float, near: float) -> Floats:
    """Places from 0 to `most`; those that are near to either are exactly there."""
    found = np.clip(places, 0.0, most)
    found = np.where(found <= near, 0.0, found)
    snapped: Floats = np.where(most - found <= near, most, found)
    return snapped


def _cross(one: Points, two: Points) -> Floats:
    crossed: Floats = one[:, 0] * two[:, 1] - one[:, 1] * two[:, 0]
    return crossed

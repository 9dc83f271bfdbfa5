"""The line between two edges, at a share of the way from the one to the other.

For the middle the distances to both edges are equal; in general they stand as t to
1 − t. With true distances dA and dB the line is where

    F(X) = (1 − t)·dA(X) − t·dB(X) = 0.

Rulings from A to B at equal shares of their lengths each cross it once; F is negative
at their start and positive at their end. An open edge goes on straight beyond its ends for
this: without that the line would bend round the end of a shorter edge, like a hook, and letters
with it. Where an edge's hollow is tighter than the
distance to it the line has a kink. The result is a path of cubics, refined until F at
every probe on it is within tolerance.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import Controls, Floats, Integers, Points, turned_left, unit
from ulvent.core.base.errors import CurveError
from ulvent.core.base.tolerances import NIL
from ulvent.core.curves.bezier import BezierPath
from ulvent.core.curves.cubics import points_at
from ulvent.core.curves.curve import Curve
from ulvent.core.curves.feet import nearest
from ulvent.core.curves.seam import started_at
from ulvent.core.curves.segments import CubicSegment, as_point

BALANCE = 0.002
"""Largest |F|, mm, at a probe: the distances to both edges then differ by 0.004 at most."""

_FIRST_PARTS = 12
_MOST_HALVINGS = 14
_MOST_NODES = 2000
_NEWTON_ROUNDS = 60
_SOLVED = 1e-8
_PROBES = np.array([0.15, 0.35, 0.5, 0.65, 0.85])
_KINK = 0.004
"""Stretches shorter than this, mm, are a kink."""
_CHECKED = 257


class _Nodes(NamedTuple):
    """Points on the line and its directions there, for rulings at the shares `u`."""

    u: Floats
    points: Points
    tangents: Floats

    def at(self, index: Integers) -> _Nodes:
        return _Nodes(self.u[index], self.points[index], self.tangents[index])


def line_between(first: Curve, second: Curve, share: float = 0.5) -> BezierPath:
    """The line at `share` of the way from `first` to `second`, in the direction of `first`.

    Raises
    ------
    CurveError
        Where one edge is closed and the other open, or where they meet or cross.
    """
    if first.closed != second.closed:
        raise CurveError("one edge is closed and the other is open: no line lies between them")
    second = _alongside(first, second)
    _refuse_crossing(first, second)
    return _Between(first, second, share).path()


def _alongside(first: Curve, second: Curve) -> Curve:
    """The second edge, turned to run as the first does and, when closed, started beside it."""
    if first.closed:
        if first.total_turning * second.total_turning < 0.0:
            second = second.reversed()
        return started_at(second, float(nearest(second, first.points(0.0))[0]))
    ends, others = first.points([0.0, first.length]), second.points([0.0, second.length])
    straight = np.hypot(*(ends - others).T).sum()
    crossed = np.hypot(*(ends - others[::-1]).T).sum()
    return second if straight <= crossed else second.reversed()


def _refuse_crossing(first: Curve, second: Curve) -> None:
    a = first.points(np.linspace(0.0, first.length, _CHECKED))
    b = second.points(np.linspace(0.0, second.length, _CHECKED))
    p, r = a[:-1, None], np.diff(a, axis=0)[:, None]
    q, s = b[None, :-1], np.diff(b, axis=0)[None, :]
    across = r[..., 0] * s[..., 1] - r[..., 1] * s[..., 0]
    safe = np.where(across == 0.0, np.inf, across)
    away = q - p
    one = (away[..., 0] * s[..., 1] - away[..., 1] * s[..., 0]) / safe
    other = (away[..., 0] * r[..., 1] - away[..., 1] * r[..., 0]) / safe
    crossing = (one >= 0.0) & (one < 1.0) & (other >= 0.0) & (other < 1.0) & np.isfinite(safe)
    if crossing.any():
        index, at = np.argwhere(crossing)[0]
        station = first.length * float(index + one[index, at]) / (_CHECKED - 1)
        raise CurveError(f"the edges cross near station {station:.4g} of the first one")


class _Between:
    def __init__(self, first: Curve, second: Curve, share: float) -> None:
        self._first, self._second, self._share = first, second, share

    def path(self) -> BezierPath:
        nodes = self._nodes(np.linspace(0.0, 1.0, _FIRST_PARTS + 1))
        for _ in range(_MOST_HALVINGS):
            controls = _controls(nodes)
            bad = self._off_balance(controls) > BALANCE
            bad &= np.hypot(*np.diff(nodes.points, axis=0).T) > _KINK
            if not bad.any():
                break
            if len(nodes.u) + int(bad.sum()) > _MOST_NODES:
                raise CurveError("the line between these edges is too intricate to be made")
            fresh = self._nodes((nodes.u[:-1] + nodes.u[1:])[bad] / 2.0)
            merged = _Nodes(*(np.concatenate(pair) for pair in zip(nodes, fresh, strict=True)))
            nodes = merged.at(np.argsort(merged.u, kind="stable"))
        segments = [
            CubicSegment(*(as_point(point) for point in control))
            for control in _controls(nodes)
            if np.hypot(*(control[3] - control[0])) > 0.0
        ]
        return BezierPath(segments, closed=self._first.closed)

    def _nodes(self, u: Floats) -> _Nodes:
        """Where rulings at the shares `u` cross the line: bracketed Newton steps."""
        a = self._first.points(u * self._first.length)
        b = self._second.points(u * self._second.length)
        low, high = np.zeros(len(u)), np.ones(len(u))
        at = np.full(len(u), self._share)
        unsolved = np.arange(len(u))
        for _ in range(_NEWTON_ROUNDS):
            ruling = (b - a)[unsolved]
            points = a[unsolved] + at[unsolved, None] * ruling
            f, slope = self._balance(points)
            off = np.abs(f) > _SOLVED
            unsolved, f = unsolved[off], f[off]
            if not len(unsolved):
                break
            rise = (slope[off] * ruling[off]).sum(axis=1)
            below, now = f < 0.0, at[unsolved]
            low[unsolved] = np.where(below, now, low[unsolved])
            high[unsolved] = np.where(below, high[unsolved], now)
            step = now - f / np.where(rise > 0.0, rise, np.inf)
            inside = (rise > 0.0) & (step > low[unsolved]) & (step < high[unsolved])
            at[unsolved] = np.where(inside, step, (low + high)[unsolved] / 2.0)
        points = a + at[:, None] * (b - a)
        return _Nodes(u, points, self._tangents(points, b - a))

    def _tangents(self, points: Points, across: Floats) -> Floats:
        """Directions along F = 0, with the second edge on the same side as `across` says."""
        slope = self._balance(points)[1]
        along = turned_left(slope)
        # Along the first edge: the second edge lies to one side of the travel throughout.
        travel = self._first.tangents(nearest(self._first, points))
        return unit(along * np.sign((along * travel).sum(axis=1) + 1e-300)[:, None])

    def _balance(self, points: Points) -> tuple[Floats, Floats]:
        """F at `points` (n, 2), and its gradient (n, 2)."""
        to_first, to_second = _from(self._first, points), _from(self._second, points)
        balance = (1.0 - self._share) * np.hypot(*to_first.T)
        balance -= self._share * np.hypot(*to_second.T)
        slope = (1.0 - self._share) * unit(to_first) - self._share * unit(to_second)
        return balance, slope

    def _off_balance(self, controls: Controls) -> Floats:
        """The worst |F| at probes on each cubic."""
        probes = points_at(controls, _PROBES[None])
        off = np.abs(self._balance(probes.reshape(-1, 2))[0]).reshape(len(controls), -1)
        worst: Floats = off.max(axis=1)
        return worst


def _from(edge: Curve, points: Points) -> Points:
    """Ways (n, 2) to `points` from where an edge, straight beyond its ends, is nearest to them."""
    stations = nearest(edge, points)
    ways = points - edge.points(stations)
    if edge.closed:
        return ways
    tangents = edge.tangents(stations)
    along = (ways * tangents).sum(axis=1)
    beyond = ((stations <= NIL) & (along < 0.0)) | ((stations >= edge.length - NIL) & (along > 0.0))
    ways[beyond] -= (along[:, None] * tangents)[beyond]
    return ways


def _controls(nodes: _Nodes) -> Controls:
    """(n, 4, 2) one cubic between neighbouring nodes: the handles an arc of its turn would have."""
    start, end = nodes.points[:-1], nodes.points[1:]
    u, v = nodes.tangents[:-1], nodes.tangents[1:]
    turned = np.arctan2(u[:, 0] * v[:, 1] - u[:, 1] * v[:, 0], (u * v).sum(axis=1))
    chord = np.hypot(*(end - start).T)
    handle = (chord / (3.0 * np.cos(turned / 4.0) ** 2))[:, None]
    return np.stack([start, start + handle * u, end - handle * v, end], axis=1)

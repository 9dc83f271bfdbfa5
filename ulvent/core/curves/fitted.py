"""Cubics fitted by halving: what one cubic does not follow is halved until it does.

A piece's cubic has the true end points and, for handles, a third of the true derivatives
there. Cubic and truth are compared at equal shares, which overstates their distance.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple, TypeVar

import numpy as np

from ulvent.core.base.arrays import Booleans, Controls, Floats, Millimetres, Points, Stations
from ulvent.core.base.tolerances import ARC_LENGTH, DRAWING, JOINT, SAME
from ulvent.core.curves.cubics import points_at
from ulvent.core.curves.curve import Curve
from ulvent.core.curves.segments import CubicSegment, LineSegment, as_point

Pieces = TypeVar("Pieces")

_SHARES = np.array([0.2, 0.4, 0.5, 0.6, 0.8])
_FIRST_PARTS = 4
_MOST_HALVINGS = 12


class Fit(NamedTuple):
    """The cubics of some pieces (n, 4, 2), and the true points at the shares asked (n, k, 2)."""

    controls: Controls
    true: Points


def fitted_by_halves(
    pieces: Pieces,
    fit: Callable[[Pieces, Floats], Fit],
    halved: Callable[[Pieces, Booleans], Pieces],
    shares: Floats,
    tolerance: Millimetres,
    most: int,
) -> Iterator[tuple[Pieces, Controls, Booleans]]:
    """Pieces with their cubics, and which of them are good; the others come again in halves.

    Parameters
    ----------
    fit
        gives the cubics of pieces, and the truth at `shares` (k,) of each
    halved
        gives both halves of those pieces that are chosen
    most
        halvings, after which every cubic counts as good
    """
    for halving in range(most + 1):
        controls, true = fit(pieces, shares)
        off = np.linalg.norm(points_at(controls, shares[None]) - true, axis=2)
        good = (off.max(axis=1) <= tolerance) | (halving == most)
        yield pieces, controls, good
        if good.all():
            return
        pieces = halved(pieces, ~good)


Stretches = tuple[Stations, Stations]
"""Where stretches of a curve begin and end, (n,) each."""


def fitted_segments(
    curve: Curve, tolerance: Millimetres = DRAWING
) -> tuple[LineSegment | CubicSegment, ...]:
    """Cubics and lines within `tolerance` mm of `curve`, corners kept."""
    bounds = [0.0, *curve.corners.stations.tolist(), curve.length]
    # Just beside a corner or an end, so that each side answers with its own tangent.
    inset = ARC_LENGTH * curve.length
    begins: list[float] = []
    ends: list[float] = []
    for begin, end in zip(bounds[:-1], bounds[1:], strict=True):
        if end - begin > JOINT:
            edges = np.linspace(begin + inset, end - inset, _FIRST_PARTS + 1)
            begins.extend(edges[:-1])
            ends.extend(edges[1:])
    if not begins:
        # What is shorter than a joint is a line from its beginning to its end.
        first, last = curve.points(np.array([0.0, curve.length]))
        return (LineSegment(as_point(first), as_point(last)),)
    done: list[tuple[float, LineSegment | CubicSegment]] = []
    for (first, _), controls, good in fitted_by_halves(
        (np.array(begins), np.array(ends)),
        lambda stretches, shares: _fit(curve, stretches, shares),
        _halved,
        _SHARES,
        tolerance,
        _MOST_HALVINGS,
    ):
        done.extend(zip(first[good].tolist(), map(_segment, controls[good]), strict=True))
    return tuple(segment for _, segment in sorted(done, key=lambda pair: pair[0]))


def _halved(stretches: Stretches, chosen: Booleans) -> Stretches:
    begin, end = stretches
    middle = (begin + end)[chosen] / 2.0
    return np.concatenate([begin[chosen], middle]), np.concatenate([middle, end[chosen]])


def _fit(curve: Curve, stretches: Stretches, shares: Floats) -> Fit:
    begin, end = stretches
    first, last = curve.frames(begin), curve.frames(end)
    thirds = (end - begin)[:, None] / 3.0
    controls = np.stack(
        [
            first.points,
            first.points + thirds * first.tangents,
            last.points - thirds * last.tangents,
            last.points,
        ],
        axis=1,
    )
    between = begin[:, None] + (end - begin)[:, None] * shares
    return Fit(controls, curve.points(between.ravel()).reshape(*between.shape, 2))


def _segment(controls: Controls) -> LineSegment | CubicSegment:
    a, b, c, d = (as_point(point) for point in controls)
    along = controls[3] - controls[0]
    length = float(np.hypot(*along))
    across = np.abs(
        (controls[1:3] - controls[0]) @ np.array([-along[1], along[0]]) / max(length, JOINT)
    )
    return LineSegment(a, d) if across.max() <= SAME else CubicSegment(a, b, c, d)

"""Cubics for drawing and writing a curve that has no exact segments of its own.

Each cubic has the curve's end points and end tangents and handles of a third of the
length between them. Stretches are halved until cubic and curve, compared at equal
shares, are within tolerance; comparing at equal shares overstates the distance.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from ulvent.core.base.arrays import Floats
from ulvent.core.base.tolerances import ARC_LENGTH, DRAWING, JOINT
from ulvent.core.curves.segments import CubicSegment, LineSegment, Segment, as_point

if TYPE_CHECKING:
    from ulvent.core.curves.curve import Curve


_SHARES = np.array([0.2, 0.4, 0.5, 0.6, 0.8])
_BLEND = np.stack(
    [
        (1 - _SHARES) ** 3,
        3 * _SHARES * (1 - _SHARES) ** 2,
        3 * _SHARES**2 * (1 - _SHARES),
        _SHARES**3,
    ],
    axis=1,
)
_FIRST_PARTS = 4
_MOST_HALVINGS = 12


def fitted_segments(curve: Curve, tolerance: float = DRAWING) -> tuple[Segment, ...]:
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
    begin, end = np.array(begins), np.array(ends)
    done: list[tuple[float, Segment]] = []
    for halving in range(_MOST_HALVINGS + 1):
        controls = _controls(curve, begin, end)
        between = begin[:, None] + (end - begin)[:, None] * _SHARES
        true = curve.points(between.ravel()).reshape(*between.shape, 2)
        off = np.linalg.norm(np.einsum("sk,nkx->nsx", _BLEND, controls) - true, axis=2)
        good = off.max(axis=1) <= tolerance
        if halving == _MOST_HALVINGS:
            good[:] = True
        done.extend(zip(begin[good].tolist(), map(_segment, controls[good]), strict=True))
        if good.all():
            break
        middle = (begin + end)[~good] / 2.0
        begin, end = (
            np.concatenate([begin[~good], middle]),
            np.concatenate([middle, end[~good]]),
        )
    return tuple(segment for _, segment in sorted(done, key=lambda pair: pair[0]))


def _controls(curve: Curve, begin: Floats, end: Floats) -> Floats:
    """(n, 4, 2) control points of one cubic a stretch."""
    first, last = curve.frames(begin), curve.frames(end)
    thirds = (end - begin)[:, None] / 3.0
    return np.stack(
        [
            first.points,
            first.points + thirds * first.tangents,
            last.points - thirds * last.tangents,
            last.points,
        ],
        axis=1,
    )


def _segment(controls: Floats) -> Segment:
    a, b, c, d = (as_point(point) for point in controls)
    along = controls[3] - controls[0]
    length = float(np.hypot(*along))
    across = np.abs(
        (controls[1:3] - controls[0]) @ np.array([-along[1], along[0]]) / max(length, JOINT)
    )
    return LineSegment(a, d) if across.max() <= JOINT * 1e-3 else CubicSegment(a, b, c, d)

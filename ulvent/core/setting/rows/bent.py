"""Bent letters: outlines that follow the curve they stand on.

A point x along and y above the baseline goes to

    X(x, y) = B(x) + y·N(x),      dX = (1 − κ·y)·T dx + N dy

with B, T, N and κ the baseline's point, tangent, normal and curvature at station x.
Each piece of an outline becomes one cubic with the true end points and, for handles, a
third of the true derivative at its ends; where that misses the true curve by more than
the tolerance, the piece is halved. All letters of a line go through together.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ulvent.core.base.arrays import Floats
from ulvent.core.base.tolerances import FITTING, JOINT
from ulvent.core.curves import Curve
from ulvent.core.outlines import Outline

_GOAL = 0.8 * FITTING
"""Error is looked for at samples: between them it may be a little larger."""
_SAMPLES = np.linspace(0.0, 1.0, 10)[1:-1]
_MOST_HALVINGS = 8


@dataclass(frozen=True, eq=False)
class _Pieces:
    """Cubic pieces in (station, height), (n, 4, 2), in the order of their outlines."""

    controls: Floats
    order: Floats
    lines: NDArray[np.bool_]


def bent_outlines(outlines: list[Outline], placing: Floats, baseline: Curve) -> list[Outline]:
    """Outlines bent along `baseline`.

    Parameters
    ----------
    placing
        (n, 2, 3) affine maps from each outline, font units, to (station, height), mm
    """
    flat = [outline.transformed(matrix) for outline, matrix in zip(outlines, placing, strict=True)]
    contours = [
        (index, contour) for index, outline in enumerate(flat) for contour in outline.contours
    ]
    if not contours:
        return [Outline.empty() for _ in outlines]
    counts = [len(contour.cubics) for _, contour in contours]
    controls = np.concatenate([contour.cubics for _, contour in contours])
    lines = np.concatenate([contour.straight for _, contour in contours])
    which = np.repeat(np.arange(len(contours)), counts)
    bent = _bent(_Pieces(controls, np.arange(len(controls), dtype=float), lines), baseline)
    owner = which[bent.order.astype(int)]
    drawn: list[list[Outline]] = [[] for _ in outlines]
    bounds = np.searchsorted(owner, np.arange(len(contours) + 1)).tolist()
    for number, (index, contour) in enumerate(contours):
        mine = slice(bounds[number], bounds[number + 1])
        drawn[index].append(_outline(bent.controls[mine], bent.lines[mine], contour.closed))
    return [Outline.joined(parts) for parts in drawn]


def _bent(pieces: _Pieces, baseline: Curve) -> _Pieces:
    """Pieces on the page, halved where one cubic does not do."""
    done: list[_Pieces] = []
    width = 1.0
    for halving in range(_MOST_HALVINGS + 1):
        cubics, stays = _hermite(pieces, baseline)
        true = _warped(_at(pieces.controls, _SAMPLES), baseline)
        off = np.linalg.norm(_at(cubics, _SAMPLES) - true, axis=2).max(axis=1)
        good = (off <= _GOAL) | (halving == _MOST_HALVINGS)
        done.append(_Pieces(cubics[good], pieces.order[good], stays[good]))
        if good.all():
            break
        rest = pieces.controls[~good]
        halves = _halved(rest)
        width /= 2.0
        order = pieces.order[~good]
        pieces = _Pieces(
            np.concatenate(halves),
            np.concatenate([order, order + width]),
            np.tile(pieces.lines[~good], 2),
        )
    order = np.concatenate([part.order for part in done])
    ranks = np.argsort(order, kind="stable")
    return _Pieces(
        np.concatenate([part.controls for part in done])[ranks],
        order[ranks],
        np.concatenate([part.lines for part in done])[ranks],
    )


def _hermite(pieces: _Pieces, baseline: Curve) -> tuple[Floats, NDArray[np.bool_]]:
    """A cubic for each piece, and whether it is still a straight line."""
    controls = pieces.controls
    ends = controls[:, [0, 3]].reshape(-1, 2)
    frames = baseline.frames(ends[:, 0])
    points = frames.points + frames.normals * ends[:, 1:]
    steps = np.stack([controls[:, 1] - controls[:, 0], controls[:, 2] - controls[:, 3]], axis=1)
    along, up = steps.reshape(-1, 2).T
    stretch = (1.0 - frames.curvatures * ends[:, 1]) * along
    handles = frames.tangents * stretch[:, None] + frames.normals * up[:, None]
    points, handles = points.reshape(-1, 2, 2), handles.reshape(-1, 2, 2)
    cubics = np.stack(
        [points[:, 0], points[:, 0] + handles[:, 0], points[:, 1] + handles[:, 1], points[:, 1]],
        axis=1,
    )
    chords = points[:, 1] - points[:, 0]
    lengths = np.maximum(np.linalg.norm(chords, axis=1), JOINT)
    aside = np.abs(handles[:, :, 0] * chords[:, None, 1] - handles[:, :, 1] * chords[:, None, 0])
    stays = pieces.lines & ((aside / lengths[:, None]).max(axis=1) <= JOINT * 1e-2)
    return cubics, stays


def _warped(places: Floats, baseline: Curve) -> Floats:
    """Points at (station, height) places, (n, k, 2)."""
    frames = baseline.frames(places[..., 0].ravel())
    points = frames.points + frames.normals * places[..., 1].reshape(-1, 1)
    return points.reshape(places.shape)


def _at(controls: Floats, t: Floats) -> Floats:
    """Cubics (n, 4, 2) at parameters `t` (k,): (n, k, 2)."""
    u = 1.0 - t
    blend = np.stack([u**3, 3.0 * u * u * t, 3.0 * u * t * t, t**3], axis=1)
    points: Floats = np.einsum("ki,nij->nkj", blend, controls)
    return points


def _halved(controls: Floats) -> tuple[Floats, Floats]:
    """Both halves of each cubic, by de Casteljau."""
    a, b, c, d = (controls[:, index] for index in range(4))
    ab, bc, cd = (a + b) / 2.0, (b + c) / 2.0, (c + d) / 2.0
    abc, bcd = (ab + bc) / 2.0, (bc + cd) / 2.0
    middle = (abc + bcd) / 2.0
    return np.stack([a, ab, abc, middle], axis=1), np.stack([middle, bcd, cd, d], axis=1)


def _outline(controls: Floats, lines: NDArray[np.bool_], closed: bool) -> Outline:
    operations, points = ["M"], [controls[0, :1]]
    for cubic, line in zip(controls, lines.tolist(), strict=True):
        operations.append("L" if line else "C")
        points.append(cubic[3:] if line else cubic[1:])
    if closed:
        operations.append("Z")
    return Outline("".join(operations), np.concatenate(points))

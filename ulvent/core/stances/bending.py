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

from ulvent.core.base.arrays import Booleans, Controls, Floats
from ulvent.core.base.tolerances import FITTING, JOINT
from ulvent.core.curves import Curve
from ulvent.core.curves.cubics import halves, points_at
from ulvent.core.curves.fitted import Fit, fitted_by_halves
from ulvent.core.outlines import Outline

_GOAL = 0.8 * FITTING
"""Error is looked for at samples: between them it may be a little larger."""
_SAMPLES = np.linspace(0.0, 1.0, 10)[1:-1]
_MOST_HALVINGS = 8


@dataclass(frozen=True, eq=False)
class _Pieces:
    """Cubic pieces in (station, height), (n, 4, 2), in the order of their outlines.

    width
        of a piece in that order: a half takes up half of it
    """

    controls: Controls
    order: Floats
    lines: Booleans
    width: float = 1.0


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
    for some, cubics, good in fitted_by_halves(
        pieces,
        lambda chosen, shares: _fit(chosen, baseline, shares),
        _halved,
        _SAMPLES,
        _GOAL,
        _MOST_HALVINGS,
    ):
        stays = some.lines & _straight(cubics)
        done.append(_Pieces(cubics[good], some.order[good], stays[good]))
    order = np.concatenate([part.order for part in done])
    ranks = np.argsort(order, kind="stable")
    return _Pieces(
        np.concatenate([part.controls for part in done])[ranks],
        order[ranks],
        np.concatenate([part.lines for part in done])[ranks],
        0.0,
    )


def _halved(pieces: _Pieces, chosen: Booleans) -> _Pieces:
    order, width = pieces.order[chosen], pieces.width / 2.0
    return _Pieces(
        np.concatenate(halves(pieces.controls[chosen])),
        np.concatenate([order, order + width]),
        np.tile(pieces.lines[chosen], 2),
        width,
    )


def _fit(pieces: _Pieces, baseline: Curve, shares: Floats) -> Fit:
    return Fit(
        _hermite(pieces.controls, baseline),
        _warped(points_at(pieces.controls, shares[None]), baseline),
    )


def _hermite(controls: Controls, baseline: Curve) -> Controls:
    """A cubic for each piece in (station, height)."""
    ends = controls[:, [0, 3]].reshape(-1, 2)
    frames = baseline.frames(ends[:, 0])
    points = frames.points + frames.normals * ends[:, 1:]
    steps = np.stack([controls[:, 1] - controls[:, 0], controls[:, 2] - controls[:, 3]], axis=1)
    along, up = steps.reshape(-1, 2).T
    stretch = (1.0 - frames.curvatures * ends[:, 1]) * along
    handles = frames.tangents * stretch[:, None] + frames.normals * up[:, None]
    points, handles = points.reshape(-1, 2, 2), handles.reshape(-1, 2, 2)
    return np.stack(
        [points[:, 0], points[:, 0] + handles[:, 0], points[:, 1] + handles[:, 1], points[:, 1]],
        axis=1,
    )


def _straight(cubics: Controls) -> Booleans:
    """Which cubics are straight lines: their handles lie along their chords."""
    handles = np.stack([cubics[:, 1] - cubics[:, 0], cubics[:, 2] - cubics[:, 3]], axis=1)
    chords = cubics[:, 3] - cubics[:, 0]
    lengths = np.maximum(np.linalg.norm(chords, axis=1), JOINT)
    aside = np.abs(handles[:, :, 0] * chords[:, None, 1] - handles[:, :, 1] * chords[:, None, 0])
    straight: Booleans = (aside / lengths[:, None]).max(axis=1) <= JOINT * 1e-2
    return straight


def _warped(places: Floats, baseline: Curve) -> Floats:
    """Points at (station, height) places, (n, k, 2)."""
    frames = baseline.frames(places[..., 0].ravel())
    points = frames.points + frames.normals * places[..., 1].reshape(-1, 1)
    return points.reshape(places.shape)


def _outline(controls: Controls, lines: Booleans, closed: bool) -> Outline:
    operations, points = ["M"], [controls[0, :1]]
    for cubic, line in zip(controls, lines.tolist(), strict=True):
        operations.append("L" if line else "C")
        points.append(cubic[3:] if line else cubic[1:])
    if closed:
        operations.append("Z")
    return Outline("".join(operations), np.concatenate(points))

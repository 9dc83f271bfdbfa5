"""The arithmetic of cubic Beziers, written once: evaluated, halved, raised, made of arcs.

Cubics are control points in arrays whose last two axes are (4, 2); parameters are in [0, 1].
"""

from __future__ import annotations

import math

import numpy as np

from ulvent.core.base.arrays import (
    Controls,
    Floats,
    Millimetres,
    Point,
    Points,
    Radians,
    Vectors,
    turned_left,
)


def bernstein(t: Floats) -> tuple[Floats, Floats, Floats, Floats]:
    """The weights of the four control points at parameters `t`."""
    u = 1.0 - t
    return u**3, 3.0 * u * u * t, 3.0 * u * t * t, t**3


def along(points: Points, t: Floats) -> Points:
    """(k, 2) points of one quadratic (3, 2) or cubic (4, 2) at parameters `t` (k,)."""
    u = 1.0 - t
    weights = bernstein(t) if len(points) == 4 else (u * u, 2.0 * u * t, t * t)
    found: Points = sum(
        weight[:, None] * point for weight, point in zip(weights, points, strict=True)
    )
    return found


def points_at(controls: Controls, t: Floats) -> Points:
    """Points at parameters.

    Parameters
    ----------
    controls
        (n, 4, 2)
    t
        (n,) one for each cubic, → (n, 2); or (n, k) or (1, k), → (n, k, 2)
    """
    return _weighted(bernstein(t), controls)


def velocities_at(controls: Controls, t: Floats) -> Points:
    """Derivatives by the parameter; shapes as for `points_at`."""
    u = 1.0 - t
    return _weighted((u * u, 2.0 * u * t, t * t), 3.0 * np.diff(controls, axis=1))


def _weighted(weights: tuple[Floats, ...], controls: Controls) -> Points:
    """Sums of control points (n, j, 2) by j weights, each (n,), (n, k) or (1, k)."""
    each = np.stack(weights, axis=-1)
    if each.ndim == 2:
        one: Points = np.einsum("nj,nji->ni", each, controls)
        return one
    each = np.broadcast_to(each, (len(controls), *each.shape[1:]))
    many: Points = np.einsum("nkj,nji->nki", each, controls)
    return many


def halves(controls: Controls) -> tuple[Controls, Controls]:
    """Both halves of each cubic (n, 4, 2), by de Casteljau's construction."""
    a, b, c, d = (controls[:, index] for index in range(4))
    ab, bc, cd = (a + b) / 2.0, (b + c) / 2.0, (c + d) / 2.0
    abc, bcd = (ab + bc) / 2.0, (bc + cd) / 2.0
    middle = (abc + bcd) / 2.0
    return np.stack([a, ab, abc, middle], axis=1), np.stack([middle, bcd, cd, d], axis=1)


def parted(points: Points, begin: float, end: float) -> Floats:
    """A Bezier's control points (k,), complex, or (k, 2), from parameter `begin` to `end`."""
    for share, keep_left in ((end, True), (begin / end if end else 0.0, False)):
        rows = [points]
        while len(rows[-1]) > 1:
            rows.append(rows[-1][:-1] * (1.0 - share) + rows[-1][1:] * share)
        left = [row[0] for row in rows]
        right = [row[-1] for row in reversed(rows)]
        points = np.array(left if keep_left else right)
    return points


def raised(points: Points) -> Floats:
    """Lines (n, 2, ...) and quadratics (n, 3, ...) as the cubics (n, 4, ...) that they are."""
    if points.shape[1] == 2:
        a, b = points[:, 0], points[:, 1]
        return np.stack([a, a + (b - a) / 3.0, a + 2.0 * (b - a) / 3.0, b], axis=1)
    if points.shape[1] == 3:
        a, control, b = points[:, 0], points[:, 1], points[:, 2]
        return np.stack(
            [a, a + 2.0 * (control - a) / 3.0, b + 2.0 * (control - b) / 3.0, b], axis=1
        )
    return points


def arc_nodes(
    centre: Point, radius: Millimetres, begin: Radians, sweep: Radians, parts: int
) -> tuple[Points, Vectors]:
    """Nodes along a circular arc (parts + 1, 2), and the handles that leave them.

    A cubic of an eighth of a turn is off its circle by 4e-6 of the radius, one of a sixteenth
    by 6e-8 (standard result).
    """
    edges = begin + np.linspace(0.0, sweep, parts + 1)
    spokes = np.column_stack([np.cos(edges), np.sin(edges)])
    handle = 4.0 / 3.0 * math.tan(sweep / parts / 4.0) * radius
    return np.array(centre) + radius * spokes, handle * turned_left(spokes)


def between_nodes(nodes: Points, handles: Vectors) -> Controls:
    """The cubics between neighbouring nodes (k, 2), whose handles on both sides are alike."""
    first, last = nodes[:-1], nodes[1:]
    return np.stack([first, first + handles[:-1], last - handles[1:], last], axis=1)

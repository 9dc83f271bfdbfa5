"""Patches: what columns leave open, a line along its edge and satin across it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from ulvent.core.base.arrays import Integers, Points, counted_up
from ulvent.core.base.trees import point_tree
from ulvent.core.outlines import Polyline
from ulvent.core.shapes import Region, least_box
from ulvent.core.stitches import underlay
from ulvent.core.stitches.cloths import Cloth
from ulvent.core.stitches.column import Column
from ulvent.core.stitches.thread import Thread, What
from ulvent.core.stitches.threads import filled, row_sections, satin

if TYPE_CHECKING:
    from ulvent.core.base.trees import PointTree

_LEFT_OPEN = 0.02
"""mm²: what columns leave open, and is less, is no hole that is seen."""
_GROWN = 0.15
"""mm by which a patch lies under what is beside it."""

_ACROSS = np.linspace(0.1, 0.9, 9)
"""Places of a rung from which a patch is seen to be far."""
_STEP, _APART = 0.05, 0.35
"""mm between places round a small patch at which a needle point is tried, and between those."""
_OFF_RING = 0.05
"""mm that a run round a larger one is off its ring at most."""


class Patch(NamedTuple):
    """One of them: it begins and ends near a column, at a place of it.

    column
        which of those that it lies beside
    """

    column: int
    place: int
    thread: Thread


def patches(part: Region, columns: Sequence[Column], cloth: Cloth) -> list[Patch]:
    """Of a connected shape what its columns leave open."""
    if not columns:
        return []
    swept = Region.joined(one.swept for one in columns)
    # Thread covers half its own width beside a column.
    rest = part.minus(swept.offset(cloth.thread / 2.0))
    open_ = [one for one in rest.parts if one.area > _LEFT_OPEN]
    if not open_:
        return []
    edges = [_edge(one) for one in columns]
    whose, places = counted_up(np.array([len(points) for points, _ in edges]))
    near = point_tree(np.concatenate([points for points, _ in edges]))
    found = []
    for one in open_:
        angle = float(np.degrees(np.arctan2(*(least_box(one).way * (1.0, -1.0)))))
        thread = Thread.joined(_sewn(one.offset(_GROWN).meet(part), angle, near, cloth))
        if len(thread):
            index = int(near.query(thread.points[0])[1])
            column = int(whose[index])
            found.append(Patch(column, int(edges[column][1][places[index]]), thread))
    return found


def _edge(column: Column) -> tuple[Points, Integers]:
    """(k, 2) points of its rails and of the rungs at its ends, and (k,) the place of each."""
    every = np.arange(len(column.axis))
    ends = np.repeat(every[[0, -1]], len(_ACROSS))
    across = np.tile(_ACROSS, 2)[:, None]
    rungs = column.left[ends] + across * (column.right - column.left)[ends]
    return np.concatenate([column.left, column.right, rungs]), np.concatenate([every, every, ends])


def _sewn(area: Region, angle: float, near: PointTree, cloth: Cloth) -> Iterator[Thread]:
    inset = max(0.0, cloth.thread / 2.0 - cloth.pull)
    rings = [_from_nearest(ring, near) for ring in area.offset(-inset).rings]
    if area.offset(-inset - cloth.thread / 2.0).area < _LEFT_OPEN:
        for ring in rings:
            yield Thread.of(_round(ring, near), What.ROWS)
        return
    for ring in rings:
        # Its rows do not end at an edge that is not quite along them: there this covers.
        yield Thread.of(underlay.along(ring, _OFF_RING), What.UNDER)
    for rows in row_sections(area, cloth, angle, to_edges=True):
        # What is a single row has no rails to go between.
        alone = len(rows.axis) == 1
        points = (
            filled(rows, cloth, rows.right[-1]) if alone else satin(rows, cloth, straight_from=0.0)
        )
        if rings and np.hypot(*(points[[0, -1]] - rings[0][0]).T).argmin() == 0:
            points = points[::-1]
        yield Thread.of(points, What.ROWS)


def _from_nearest(ring: Points, near: PointTree) -> Points:
    """Gone round from where it is nearest to the columns."""
    nearest = int(np.argmin(near.query(ring)[0]))
    return np.concatenate([ring[nearest:], ring[: nearest + 1]])


def _round(ring: Points, near: PointTree) -> Points:
    """(k, 2) needle points round what is small: those farthest from the columns, and others that
    are not too near to them."""
    walk = Polyline(ring, False).walk()
    places = walk.at(np.arange(0.0, walk.length, _STEP))
    kept: list[int] = []
    for index in np.argsort(-near.query(places)[0], kind="stable").tolist():
        if (np.hypot(*(places[kept] - places[index]).T) >= _APART).all():
            kept.append(index)
    found: Points = places[sorted(kept)]
    return found

"""Outlines: the drawn shape of a glyph or a cluster, flat and immutable.

An outline is a string of operations and one array of points, so that moving a
whole letter is one matrix product:

    M  start a contour         1 point
    L  straight line           1 point
    Q  quadratic Bezier        2 points
    C  cubic Bezier            3 points
    Z  close the contour       no point

Contours of outline faces are closed; those of single-stroke faces are open.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
import pathops
from fontTools.misc.bezierTools import calcCubicBounds, calcQuadraticBounds

from ulvent.core.base.arrays import Booleans, Controls, Floats, Matrices, Points
from ulvent.core.curves.cubics import along
from ulvent.core.outlines.polyline import Polyline

_PEN_METHODS = {"M": "moveTo", "L": "lineTo", "Q": "qCurveTo", "C": "curveTo"}
_SPECK = 1.0
"""Area, square font units, under which a contour is a crumb of the computation."""

POINTS_OF = {"M": 1, "L": 1, "Q": 2, "C": 3, "Z": 0}


_SAME = 1e-9
"""Points of a contour nearer than this share of its size are one point."""


@dataclass(frozen=True, eq=False)
class Contour:
    """One contour as cubics (k, 4, 2), in order of travel, and which of them are straight."""

    cubics: Floats
    straight: Booleans
    closed: bool


@dataclass(frozen=True, eq=False)
class Outline:
    """Operations and their points, (n, 2), in whatever unit the owner states."""

    operations: str
    points: Points

    @classmethod
    def empty(cls) -> Outline:
        return cls("", np.empty((0, 2)))

    @classmethod
    def joined(cls, outlines: Iterable[Outline]) -> Outline:
        """All outlines as one, in order."""
        parts = [outline for outline in outlines if outline.operations]
        if not parts:
            return cls.empty()
        return cls(
            "".join(part.operations for part in parts),
            np.concatenate([part.points for part in parts]),
        )

    def __bool__(self) -> bool:
        return bool(self.operations)

    def moved(self, dx: float, dy: float) -> Outline:
        return Outline(self.operations, self.points + (dx, dy))

    def transformed(self, matrix: Matrices) -> Outline:
        """Under the affine `matrix` (2, 3): linear part, then translation."""
        return Outline(self.operations, self.points @ matrix[:, :2].T + matrix[:, 2])

    def steps(self) -> Iterator[tuple[str, Floats]]:
        """Each operation with its points, (k, 2)."""
        at = 0
        for operation in self.operations:
            count = POINTS_OF[operation]
            yield operation, self.points[at : at + count]
            at += count

    def draw(self, pen: Any) -> None:
        """Draw into a pen of fontTools' protocol, one that takes quadratics singly."""
        for operation, points in self.steps():
            if operation == "Z":
                pen.closePath()
            else:
                method = getattr(pen, _PEN_METHODS[operation])
                method(*(tuple(point) for point in points.tolist()))

    @cached_property
    def polylines(self) -> list[Polyline]:
        """Each contour flattened, with whether it is closed; see `flattened`."""
        return self.flattened(16)

    @property
    def all_closed(self) -> bool:
        """Whether every contour is closed."""
        return self.operations.count("M") == self.operations.count("Z")

    @property
    def cubics(self) -> Floats:
        """All segments as cubics, (k, 4, 2), lines that close contours included."""
        contours = self.contours
        return np.concatenate([c.cubics for c in contours]) if contours else np.empty((0, 4, 2))

    @cached_property
    def contours(self) -> tuple[Contour, ...]:
        """Each contour as cubics; the line that closes one is among them where it has length."""
        found: list[Contour] = []
        cubics: list[Floats] = []
        straight: list[bool] = []
        start = at = np.zeros(2)
        same = _SAME * (float(np.abs(self.points).max()) if len(self.points) else 0.0)

        def finish(closed: bool) -> None:
            if cubics:
                found.append(Contour(np.array(cubics), np.array(straight), closed))
            cubics.clear()
            straight.clear()

        for operation, points in self.steps():
            if operation == "M":
                finish(closed=False)
                start = at = points[0]
                continue
            closes = operation == "Z"
            if not closes or np.abs(at - start).max() > same:
                ends = start[None] if closes else points
                cubics.append(_cubic(at, ends))
                straight.append(closes or operation == "L")
            if closes:
                finish(closed=True)
            at = start if closes else points[-1]
        finish(closed=False)
        return tuple(found)

    def flattened(self, steps: int) -> list[Polyline]:
        """Each contour as points (k, 2), curves in `steps` equal parameter steps."""
        t = np.linspace(0.0, 1.0, steps + 1)[1:]
        found: list[Polyline] = []
        line: list[Floats] = []
        for operation, points in self.steps():
            if operation == "M":
                if line:
                    found.append(Polyline(np.concatenate(line), False))
                line = [points]
            elif operation == "L":
                line.append(points)
            elif operation in "QC":
                line.append(along(np.concatenate([line[-1][-1:], points]), t))
            else:
                found.append(Polyline(np.concatenate(line), True))
                line = []
        if line:
            found.append(Polyline(np.concatenate(line), False))
        return found

    def bounds(self) -> tuple[float, float, float, float]:
        """Least x, least y, greatest x, greatest y of the curves, not of their handles."""
        return self._bounds

    @cached_property
    def _bounds(self) -> tuple[float, float, float, float]:
        boxes: list[tuple[float, float, float, float]] = []
        at = (0.0, 0.0)
        for operation, points in self.steps():
            ends = [(x, y) for x, y in points.tolist()]
            if operation == "Q":
                boxes.append(calcQuadraticBounds(at, *ends))
            elif operation == "C":
                boxes.append(calcCubicBounds(at, *ends))
            boxes.extend((x, y, x, y) for x, y in ends[-1:])
            at = ends[-1] if ends else at
        low_x, low_y, high_x, high_y = zip(*boxes, strict=True)
        return min(low_x), min(low_y), max(high_x), max(high_y)


def _cubic(at: Points, ends: Points) -> Controls:
    """A line, a quadratic or a cubic from `at` on, as the cubic that it is.

    As `raised` makes them but for the last digit, on which files that are written hang.
    """
    *controls, end = ends
    if not controls:
        way = (end - at) / 3.0
        return np.stack([at, at + way, end - way, end])
    if len(controls) == 1:
        (control,) = controls
        ways = (control - at) * (2.0 / 3.0), (control - end) * (2.0 / 3.0)
        return np.stack([at, at + ways[0], end + ways[1], end])
    return np.stack([at, *ends])


class OutlinePen:
    """Collects an `Outline`; speaks the pen protocol of fontTools and HarfBuzz."""

    def __init__(self) -> None:
        self._operations: list[str] = []
        self._points: list[tuple[float, float]] = []

    def moveTo(self, point: tuple[float, float]) -> None:  # noqa: N802
        self._add("M", point)

    def lineTo(self, point: tuple[float, float]) -> None:  # noqa: N802
        self._add("L", point)

    def qCurveTo(self, *points: tuple[float, float]) -> None:  # noqa: N802
        self._add("Q", *points)

    def curveTo(self, *points: tuple[float, float]) -> None:  # noqa: N802
        self._add("C", *points)

    def closePath(self) -> None:  # noqa: N802
        self._operations.append("Z")

    endPath = closePath  # noqa: N815

    def _add(self, operation: str, *points: tuple[float, float]) -> None:
        if len(points) != POINTS_OF[operation]:
            raise ValueError(f"{operation} takes {POINTS_OF[operation]} points, not {len(points)}")
        self._operations.append(operation)
        self._points.extend(points)

    def outline(self) -> Outline:
        """What was drawn; contours of a single point are nothing."""
        drawn = _CONTOUR.findall("".join(self._operations))
        operations, points, at = "", [], 0
        for contour in drawn:
            count = sum(POINTS_OF.get(operation, 0) for operation in contour)
            if len(contour.rstrip("Z")) > 1:
                operations += contour
                points += self._points[at : at + count]
            at += count
        if not points:
            return Outline.empty()
        return Outline(operations, np.array(points, dtype=float))


_CONTOUR = re.compile("M[^M]*")


def without_overlaps(outline: Outline) -> Outline:
    """The same ink with contours that no longer cross or cover each other.

    Outlines that have no overlap are returned as they are, so that the face's own
    curves are kept. Computed by Skia's path operations in font units.
    """
    before = _as_path(outline)
    after = pathops.Path(before)
    after.simplify(fix_winding=True, keep_starting_points=True)
    if _same_ink_by_contour(before, after):
        return outline
    return _from_path(after)


_OPERATION_OF = {
    pathops.PathVerb.MOVE: "M",
    pathops.PathVerb.LINE: "L",
    pathops.PathVerb.QUAD: "Q",
    pathops.PathVerb.CUBIC: "C",
    pathops.PathVerb.CLOSE: "Z",
}


def _from_path(path: pathops.Path) -> Outline:
    operations: list[str] = []
    points: list[tuple[float, float]] = []
    for contour in path.contours:
        if abs(contour.area) < _SPECK:
            continue
        for verb, ends in contour:
            operations.append(_OPERATION_OF[verb])
            points.extend(ends)
    return Outline("".join(operations), np.array(points, dtype=float).reshape(-1, 2))


def _as_path(outline: Outline) -> pathops.Path:
    path = pathops.Path()
    outline.draw(path.getPen())
    return path


def _same_ink_by_contour(before: pathops.Path, after: pathops.Path) -> bool:
    """Overlaps removed always change the number of contours or their areas."""
    one = sorted(abs(contour.area) for contour in before.contours)
    two = sorted(abs(contour.area) for contour in after.contours)
    if len(one) != len(two):
        return False
    return all(abs(a - b) <= 1e-4 * max(a, b, 1.0) for a, b in zip(one, two, strict=True))

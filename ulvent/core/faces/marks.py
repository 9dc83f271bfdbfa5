"""Marks that stand among words: dots, stars, leaves, letters, and outlines from files.

A mark is drawn in font units with its left edge at 0. Its height is a share of the
capitals' height, and its middle stands at a share of it.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ulvent.core.base.tolerances import NIL
from ulvent.core.outlines import Outline

MarkKind = Literal["dot", "ring", "diamond", "star", "leaf", "letter", "outline"]

_QUARTER = 4.0 / 3.0 * (math.sqrt(2.0) - 1.0)
"""Handles of the cubic that stands for a quarter of a circle; standard result."""
_RING_STROKE = 0.62
_STAR_VALLEY = math.sin(math.radians(18.0)) / math.sin(math.radians(54.0))
"""Inner radius over outer of the five-pointed star whose edges are in line."""


@dataclass(frozen=True)
class MarkShape:
    """What a mark looks like.

    letter
        the characters, for a mark that is a letter of the face
    outline
        operations and points, y up, for a mark from a file
    size, raised
        its height and where its middle stands, in capitals' heights
    """

    kind: MarkKind
    letter: str = ""
    outline: tuple[str, tuple[tuple[float, float], ...]] = ("", ())
    size: float = 0.4
    raised: float = 0.5


def mark_outline(mark: MarkShape, cap_height: float, letter: Outline) -> Outline:
    """The outline of a mark for letters `cap_height` font units high.

    `letter` is the outline of `mark.letter` in its face. A letter keeps the face's own size
    where `size` is 1, and stands on the baseline like its neighbours.
    """
    if mark.kind == "letter":
        if not letter:
            return letter
        scaled = _scaled(letter, mark.size)
        low, high = scaled.bounds()[1], scaled.bounds()[3]
        lift = mark.raised * cap_height - (low + high) / 2.0 if mark.size != 1.0 else 0.0
        return scaled.moved(-scaled.bounds()[0], lift)
    if mark.kind == "outline":
        operations, points = mark.outline
        drawn = Outline(operations, np.array(points, dtype=float).reshape(-1, 2))
    else:
        drawn = _DRAWN[mark.kind]()
    if not drawn:
        return drawn
    _, low, _, high = drawn.bounds()
    drawn = _scaled(drawn, mark.size * cap_height / max(high - low, NIL))
    x, low, _, high = drawn.bounds()
    return drawn.moved(-x, mark.raised * cap_height - (low + high) / 2.0)


def _scaled(outline: Outline, factor: float) -> Outline:
    return Outline(outline.operations, outline.points * factor)


def _circle(radius: float, clockwise: bool = False) -> Outline:
    corners = [(1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0), (1.0, 0.0)]
    if clockwise:
        corners = [(x, -y) for x, y in corners]
    way = -1.0 if clockwise else 1.0
    points: list[tuple[float, float]] = [corners[0]]
    for (ax, ay), (bx, by) in zip(corners[:-1], corners[1:], strict=True):
        points.append((ax - way * _QUARTER * ay, ay + way * _QUARTER * ax))
        points.append((bx + way * _QUARTER * by, by - way * _QUARTER * bx))
        points.append((bx, by))
    return Outline("MCCCCZ", np.array(points) * radius)


def _ring() -> Outline:
    return Outline.joined([_circle(1.0), _circle(_RING_STROKE, clockwise=True)])


def _polygon(points: list[tuple[float, float]]) -> Outline:
    return Outline("M" + "L" * (len(points) - 1) + "Z", np.array(points))


def _diamond() -> Outline:
    return _polygon([(0.7, 0.0), (0.0, 1.0), (-0.7, 0.0), (0.0, -1.0)])


def _star() -> Outline:
    radii = [1.0 if corner % 2 == 0 else _STAR_VALLEY for corner in range(10)]
    angles = [math.radians(90.0 + 36.0 * corner) for corner in range(10)]
    return _polygon(
        [(r * math.cos(a), r * math.sin(a)) for r, a in zip(radii, angles, strict=True)]
    )


def _leaf() -> Outline:
    """Two curves from stalk to tip, and a stalk: an orchard leaf leaning to the right."""
    points = [
        (-1.0, -0.5),
        *[(-1.0, 0.25), (-0.3, 0.72), (1.0, 0.62)],
        *[(1.0, -0.3), (0.25, -0.75), (-0.62, -0.38)],
        (-1.12, -0.86),
        (-1.24, -0.74),
    ]
    return Outline("MCCLLZ", np.array(points))


_DRAWN = {"dot": lambda: _circle(1.0), "ring": _ring, "diamond": _diamond, "star": _star,
          "leaf": _leaf}  # fmt: skip

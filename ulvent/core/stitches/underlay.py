"""Underlay: what lies under satin and carries it, and takes the needle to where satin begins."""

from __future__ import annotations

from typing import Literal

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.base.tolerances import JOINT
from ulvent.core.recipe.sewing import Underlay
from ulvent.core.runs.few_moves import thinned
from ulvent.core.stitches.column import Column
from ulvent.core.stitches.thread import Thread, What
from ulvent.core.stitches.threads import split_long, without_short, zigzag

_STITCH, _SHORTEST = 2.0, 0.5
"""mm: what is not seen goes round no corner for a shorter stitch."""
_OFF, _OFF_SHARE = 0.15, 0.2
"""mm, and share of a column's width, that a stitch may be off the line that it follows."""
INSET, _INSET_SHARE = 0.4, 0.35
"""mm from the edges of a column, and at most that share of its width."""
_ZIGZAG_SPACING, _ZIGZAG_SHARE = 2.0, 0.6
_EDGES_FROM, _ZIGZAG_FROM = 1.6, 4.0
"""mm: columns that are wider get edge runs, and zig-zag as well. Common practice, no source."""

Plain = Literal["none", "centre", "edge", "zigzag"]


def plain(wish: Underlay, column: Column) -> Plain:
    """What is meant by a wish for a column: by itself it goes by the width."""
    if wish != "auto":
        return wish
    width = column.width
    return "centre" if width < _EDGES_FROM else "edge" if width < _ZIGZAG_FROM else "zigzag"


def centre(column: Column) -> Points:
    """(k, 2) a run along the middle."""
    return along(column.middles, _off(column))


def edge(column: Column) -> Points:
    """(k, 2) a run a little inside the left rail: the right one of the column reversed."""
    inset = np.minimum(INSET / np.maximum(column.widths, JOINT), _INSET_SHARE)[:, None]
    return along(column.left + inset * (column.right - column.left), _off(column))


def along(points: Points, off: float = _OFF) -> Points:
    """(k, 2) a run along a line, under what is sewn over it, nowhere farther `off` it, mm."""
    line = Thread.of(thinned(points, off), What.UNDER)
    return without_short(split_long(line, _STITCH).points, _SHORTEST)


def _off(column: Column) -> float:
    return min(_OFF, _OFF_SHARE * column.width)


def wide(column: Column) -> Points:
    """(k, 2) zig-zag."""
    return zigzag(column, _ZIGZAG_SPACING, _ZIGZAG_SHARE)

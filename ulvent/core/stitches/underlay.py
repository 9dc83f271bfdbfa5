"""Underlay: what lies under satin and carries it, and takes the needle to where satin begins."""

from __future__ import annotations

from typing import Literal

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.base.tolerances import JOINT
from ulvent.core.recipe.sewing import Underlay
from ulvent.core.stitches.column import Column
from ulvent.core.stitches.threads import running, zigzag

_STITCH = 2.0
_INSET, _INSET_SHARE = 0.4, 0.35
_ZIGZAG_SPACING, _ZIGZAG_SHARE = 2.0, 0.6
_EDGES_FROM, _ZIGZAG_FROM = 1.6, 4.0
"""mm: columns that are wider get edge runs, and zig-zag as well. Common practice, no source."""

Plain = Literal["none", "centre", "edge", "zigzag"]


def plain(wish: Underlay, column: Column) -> Plain:
    """What is meant by a wish for a column: by itself it goes by the width."""
    if wish != "auto":
        return wish
    width = float(np.median(column.widths))
    return "centre" if width < _EDGES_FROM else "edge" if width < _ZIGZAG_FROM else "zigzag"


def centre(column: Column) -> Points:
    """(k, 2) a run along the middle."""
    return running(column.middles, _STITCH)


def edge(column: Column) -> Points:
    """(k, 2) a run a little inside the left rail: the right one of the column reversed."""
    inset = np.minimum(_INSET / np.maximum(column.widths, JOINT), _INSET_SHARE)[:, None]
    return running(column.left + inset * (column.right - column.left), _STITCH)


def wide(column: Column) -> Points:
    """(k, 2) zig-zag."""
    return zigzag(column, _ZIGZAG_SPACING, _ZIGZAG_SHARE)

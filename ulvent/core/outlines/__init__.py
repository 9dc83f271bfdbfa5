"""Outlines: drawn shapes of letters, and lines of segments from files.

An `Outline` is flat and immutable, as letters are drawn; a `FileOutline` is one line of exact
segments with its edges, from which guides and blanks are taken.
"""

from ulvent.core.outlines.edges import (
    TOUCHING,
    FileOutline,
    curve_of,
    ends_of,
    in_line,
    laid_segment,
    moved_segment,
)
from ulvent.core.outlines.even_places import EvenPlaces, even_places
from ulvent.core.outlines.outline import Contour, Outline, OutlinePen
from ulvent.core.outlines.polyline import Polyline, Walk

__all__ = [
    "TOUCHING",
    "Contour",
    "EvenPlaces",
    "FileOutline",
    "Outline",
    "OutlinePen",
    "Polyline",
    "Walk",
    "curve_of",
    "ends_of",
    "even_places",
    "in_line",
    "laid_segment",
    "moved_segment",
]

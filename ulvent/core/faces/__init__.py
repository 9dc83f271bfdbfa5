"""Faces: from words to clusters and outlines, in font units.

`OutlineFace` reads TrueType and OpenType through HarfBuzz; `StrokeFace` holds
single-stroke letters. Both answer to `Face`.
"""

from ulvent.core.faces.face import (
    Cluster,
    Face,
    Metrics,
    MissingCharacter,
    PlacedGlyph,
    ShapedText,
)
from ulvent.core.faces.outline import Outline, OutlinePen
from ulvent.core.faces.outline_face import OutlineFace
from ulvent.core.faces.stroke_face import StrokeFace, StrokeGlyph

__all__ = [
    "Cluster",
    "Face",
    "Metrics",
    "MissingCharacter",
    "Outline",
    "OutlineFace",
    "OutlinePen",
    "PlacedGlyph",
    "ShapedText",
    "StrokeFace",
    "StrokeGlyph",
]

"""Faces: from words to clusters and outlines, in font units.

`OutlineFace` reads TrueType and OpenType through HarfBuzz; `StrokeFace` holds
single-stroke letters. Both answer to `Face`.
"""

from ulvent.core.faces.face import (
    Axis,
    Cluster,
    Face,
    FeatureChoice,
    Metrics,
    MissingCharacter,
    PlacedGlyph,
    ShapedText,
)
from ulvent.core.faces.marks import MarkKind, MarkShape
from ulvent.core.faces.outline_face import OutlineFace
from ulvent.core.faces.stroke_face import StrokeFace, StrokeGlyph
from ulvent.core.faces.styled import Style, StyledFace, styled

__all__ = [
    "Axis",
    "Cluster",
    "Face",
    "FeatureChoice",
    "MarkKind",
    "MarkShape",
    "Metrics",
    "MissingCharacter",
    "OutlineFace",
    "PlacedGlyph",
    "ShapedText",
    "StrokeFace",
    "StrokeGlyph",
    "Style",
    "StyledFace",
    "styled",
]

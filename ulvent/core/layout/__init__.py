"""A whole piece laid out, and measured."""

from ulvent.core.layout.layout import (
    FaceNamed,
    LaidGuide,
    Layout,
    lay_out,
    standing_of,
    with_solved,
)

__all__ = ["FaceNamed", "LaidGuide", "Layout", "lay_out", "standing_of", "with_solved"]

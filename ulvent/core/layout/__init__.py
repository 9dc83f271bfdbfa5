"""A whole piece laid out, and measured."""

from ulvent.core.layout.layout import (
    FaceNamed,
    LaidGuide,
    Layout,
    lay_out,
    solved,
    standing_of,
)

__all__ = ["FaceNamed", "LaidGuide", "Layout", "lay_out", "solved", "standing_of"]

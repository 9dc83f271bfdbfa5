"""A guide of any kind made a drawn one that follows the same line."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import GuideAct
from ulvent.core.curves import ArcSegment, LineSegment
from ulvent.core.guides import guide_curves
from ulvent.core.guides.fewer_points import fewer_points
from ulvent.core.guides.kinds import AnyGuide
from ulvent.core.guides.nodes import drawn_from
from ulvent.core.recipe import Piece


class MakeDrawn(GuideAct):
    """A guide of any kind made a drawn one that follows the same line."""

    act: Literal["make-drawn"]

    def changed(self, guide: AnyGuide, piece: Piece) -> AnyGuide:
        curve = guide_curves(piece.guides)[guide.id]
        exact = drawn_from(guide, curve)
        if all(isinstance(segment, LineSegment | ArcSegment) for segment in curve.segments()):
            return exact
        fewer = fewer_points(curve, _WITHIN)
        if len(fewer.nodes) >= len(exact.nodes):
            return exact
        return exact.model_copy(update={"nodes": fewer.nodes, "centre": (0.0, 0.0)})


_WITHIN = 0.05
"""How far the line through few points may be from a line of many curves, mm."""

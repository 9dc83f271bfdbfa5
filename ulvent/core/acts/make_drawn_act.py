"""A guide of any kind made a drawn one that follows the same line."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import GuideAct
from ulvent.core.guides import guide_curves
from ulvent.core.guides.kinds import AnyGuide
from ulvent.core.guides.nodes import drawn_from
from ulvent.core.recipe import Piece


class MakeDrawn(GuideAct):
    """A guide of any kind made a drawn one that follows the same line."""

    act: Literal["make-drawn"]

    def changed(self, guide: AnyGuide, piece: Piece) -> AnyGuide:
        return drawn_from(guide, guide_curves(piece.guides)[guide.id])

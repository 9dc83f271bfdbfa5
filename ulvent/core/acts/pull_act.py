"""A grip of a guide pulled."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import ActPoint, GuideAct
from ulvent.core.acts.grips import pulled
from ulvent.core.guides.kinds import AnyGuide
from ulvent.core.recipe import Piece


class Pull(GuideAct):
    """A grip of a guide pulled."""

    act: Literal["pull"]
    grip: str
    start: ActPoint
    end: ActPoint

    def changed(self, guide: AnyGuide, piece: Piece) -> AnyGuide:
        return pulled(piece, guide, self.grip, self.start, self.end)

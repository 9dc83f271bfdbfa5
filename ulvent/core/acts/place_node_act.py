"""A placed point put where its coordinates say."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import ActPoint, GuideAct, Index
from ulvent.core.base.errors import wrong_field
from ulvent.core.guides.kinds import AnyGuide, kind_of
from ulvent.core.recipe import Piece


class PlaceNode(GuideAct):
    """A placed point put where its coordinates say."""

    act: Literal["place-node"]
    index: Index
    at: ActPoint

    def changed(self, guide: AnyGuide, piece: Piece) -> AnyGuide:
        placed = kind_of(guide).placed
        if placed is None:
            raise wrong_field("guide", "only a drawn guide has points; make it a drawn one first")
        return placed(guide, self.index, self.at)

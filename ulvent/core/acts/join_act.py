"""Two open drawn guides made one; lettering on the other goes over to it."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import Done, GuideAct, drawn, guide_of, with_guide, with_guides
from ulvent.core.base.errors import wrong_field
from ulvent.core.guides.nodes import joined
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece


class JoinGuides(GuideAct):
    """Two open drawn guides made one; lettering on the other goes over to it."""

    act: Literal["join"]
    other: str

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        guide = drawn(guide_of(piece, self.guide))
        if self.other == guide.id:
            raise wrong_field("other", "is the guide itself; close it to join its ends")
        merged = joined(guide, drawn(guide_of(piece, self.other)))
        letterings = tuple(
            one.model_copy(update={"guide": guide.id}) if one.guide == self.other else one
            for one in piece.letterings
        )
        others = [one for one in piece.guides if one.id != self.other]
        piece = with_guides(piece.model_copy(update={"letterings": letterings}), others)
        return Done(with_guide(piece, guide, merged))

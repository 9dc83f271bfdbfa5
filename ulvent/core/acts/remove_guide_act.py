"""A guide deleted. What stands on it keeps its place: the line is then kept for it."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import Done, GuideAct, guide_of, with_guide
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece


class RemoveGuide(GuideAct):
    """A guide deleted. What stands on it keeps its place: the line is then kept for it."""

    act: Literal["remove-guide"]

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        guide = guide_of(piece, self.guide)
        needed = {one.guide for one in piece.letterings}
        needed.update(name for one in piece.guides for name in one.leans_on)
        needed.update(shape for _, shape in piece.shapes if shape is not None)
        if guide.id not in needed:
            return Done(with_guide(piece, guide))
        return Done(with_guide(piece, guide, guide.model_copy(update={"removed": True})))

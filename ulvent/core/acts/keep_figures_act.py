"""What a lettering's fit came to kept as plain figures, and the fit ended."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import (
    Act,
    Done,
    guide_of,
    lettering_of,
    with_guide,
    with_lettering,
)
from ulvent.core.guides.scaling import real_figures
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece


class KeepFigures(Act):
    """What a lettering's fit came to kept as plain figures, and the fit ended."""

    act: Literal["keep-figures"]
    lettering: str

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        lettering = lettering_of(piece, self.lettering)
        guide = guide_of(piece, lettering.guide)
        piece = with_lettering(piece, lettering.model_copy(update={"fit": None}))
        return Done(with_guide(piece, guide, real_figures(guide)))

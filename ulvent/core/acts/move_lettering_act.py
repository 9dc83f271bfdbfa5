"""Words moved to another guide."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import (
    Act,
    Done,
    Made,
    guide_of,
    lettering_of,
    with_lettering,
    without_orphans,
)
from ulvent.core.guides import guide_curves
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece


class MoveLettering(Act):
    """Words moved to another guide, to the same place along it."""

    act: Literal["move-lettering"]
    lettering: str
    guide: str

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        lettering, guide = lettering_of(piece, self.lettering), guide_of(piece, self.guide)
        curves = guide_curves(piece.guides)
        changed = _placed(lettering, curves[lettering.guide].length).model_copy(
            update={"guide": guide.id}
        )
        moved = without_orphans(with_lettering(piece, changed))
        return Done(moved, (Made("lettering", lettering.id),))


def _placed(lettering: Lettering, length: float) -> Lettering:
    """A station in mm means another place on another guide: the share of the line is kept."""
    if lettering.at_in != "mm":
        return lettering
    share = round(lettering.at / length, 6)
    return lettering.model_copy(update={"at_in": "share", "at": share})

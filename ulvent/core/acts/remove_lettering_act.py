"""A lettering deleted, and with it a line that was kept only for it."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import Act, Done, without_orphans
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece


class RemoveLettering(Act):
    """A lettering deleted, and with it a line that was kept only for it."""

    act: Literal["remove-lettering"]
    lettering: str

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        letterings = tuple(one for one in piece.letterings if one.id != self.lettering)
        return Done(without_orphans(piece.model_copy(update={"letterings": letterings})))

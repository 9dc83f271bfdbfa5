"""The place of a lettering kept in another way, without moving it."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import LetteringAct
from ulvent.core.acts.slide import kept_as
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece, PlaceKind


class KeepPlaceAs(LetteringAct):
    """The place of a lettering kept in another way, without moving it."""

    act: Literal["keep-place-as"]
    at_in: PlaceKind

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        return kept_as(lettering, curve, self.at_in)

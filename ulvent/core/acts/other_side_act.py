"""A lettering put on the other side of its guide, reading the same way."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import LetteringAct
from ulvent.core.acts.band_sides import on_other_side
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece


class OtherSide(LetteringAct):
    """A lettering put on the other side of its guide, reading the same way."""

    act: Literal["other-side"]

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        return on_other_side(lettering, curve, faces(lettering.face))

"""What was done by hand taken back, from some letters or from all."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.by_hand import HandAct, Letters, put_back
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece


class PutBack(HandAct):
    """What was done by hand taken back, from some letters or from all."""

    act: Literal["put-back"]
    letters: Letters | None = None

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        return put_back(lettering, self.letters)

"""A made-up act: words in capitals."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import LetteringAct
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece


class Shout(LetteringAct):
    """Words in capitals."""

    act: Literal["shout"]

    def changed(
        self, lettering: Lettering, _curve: Curve, _piece: Piece, _faces: FaceNamed
    ) -> Lettering:
        return lettering.model_copy(update={"text": lettering.text.upper()})

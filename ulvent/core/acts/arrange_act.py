"""How the words of a lettering stand: once, again and again, in laps, as a dial, or filling."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import LetteringAct
from ulvent.core.base.errors import wrong_field
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece
from ulvent.core.recipe.arrangements import ARRANGEMENTS, arranged


class Arrange(LetteringAct):
    """How the words of a lettering stand: once, again and again, in laps, as a dial, or filling."""

    act: Literal["arrange"]
    way: str

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        if self.way not in ARRANGEMENTS:
            raise wrong_field("way", f"is none of {', '.join(ARRANGEMENTS)}")
        return arranged(lettering, self.way, curve.closed)

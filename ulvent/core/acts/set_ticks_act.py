"""Ticks of a dial, in proportion to its labels, or none."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import LetteringAct
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece
from ulvent.core.recipe.arrangements import with_ticks


class SetTicks(LetteringAct):
    """Ticks of a dial, in proportion to its labels, or none."""

    act: Literal["set-ticks"]
    on: bool

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        return with_ticks(lettering, self.on)

"""A lettering turned head down where it stands."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import LetteringAct
from ulvent.core.acts.band_sides import turned_over
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece


class TurnOver(LetteringAct):
    """A lettering turned head down where it stands."""

    act: Literal["turn-over"]

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        return turned_over(lettering, curve, faces(lettering.face))

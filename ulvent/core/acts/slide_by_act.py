"""A lettering slid along its guide by a length, in its reading direction."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import Finite, LetteringAct
from ulvent.core.acts.slide import slid_along
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece


class SlideBy(LetteringAct):
    """A lettering slid along its guide by a length, in its reading direction."""

    act: Literal["slide-by"]
    by: Finite

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        return slid_along(lettering, curve, self.by)

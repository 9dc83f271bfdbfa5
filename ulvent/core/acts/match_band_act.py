"""A lettering fitted between the same two parallels as another one of its guide."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import LetteringAct, lettering_of
from ulvent.core.acts.band_sides import matched_to
from ulvent.core.base.errors import wrong_field
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece


class MatchBand(LetteringAct):
    """A lettering fitted between the same two parallels as another one of its guide."""

    act: Literal["match-band"]
    other: str

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        other = lettering_of(piece, self.other)
        if other.guide != lettering.guide:
            raise wrong_field("other", "stands on another guide")
        return matched_to(lettering, faces(lettering.face), other, faces(other.face), curve)

"""The places of a dial's labels said another way: by number, by distance, by what the guide has."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from ulvent.core.acts.act import LetteringAct
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece
from ulvent.core.recipe.arrangements import PLACINGS, placed_by
from ulvent.core.setting.letters.sequences import label_texts

if TYPE_CHECKING:
    Placing = str
else:
    Placing = Literal[tuple(PLACINGS)]


class PlaceLabels(LetteringAct):
    """The places of a dial's labels said another way, for as many labels as before."""

    act: Literal["place-labels"]
    way: Placing

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        count = 0
        if lettering.dial is not None:
            own = label_texts(lettering.dial.labels, words=lettering.text)
            count = len(own) or lettering.dial.divisions or 1
        return placed_by(lettering, self.way, count, curve.length, curve.closed)

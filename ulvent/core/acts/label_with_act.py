"""The labels of a dial made another sequence, its guide divided as that asks."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import LetteringAct
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece
from ulvent.core.recipe.arrangements import relabelled


class LabelWith(LetteringAct):
    """The labels of a dial made another sequence, its guide divided as that asks."""

    act: Literal["label-with"]
    kind: str

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        return relabelled(lettering, self.kind)

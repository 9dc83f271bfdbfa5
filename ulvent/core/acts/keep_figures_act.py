"""What a lettering's fit came to kept as plain figures, and the fit ended."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import LetteringAct
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece


class KeepFigures(LetteringAct):
    """What a lettering's fit came to kept as plain figures, and the fit ended."""

    act: Literal["keep-figures"]

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        return lettering.model_copy(update={"fit": None})

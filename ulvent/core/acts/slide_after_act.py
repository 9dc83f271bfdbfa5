"""A lettering slid along its guide after a pointer."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import ActPoint, LetteringAct
from ulvent.core.acts.slide import slid_after
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece


class SlideAfter(LetteringAct):
    """A lettering slid along its guide after a pointer."""

    act: Literal["slide-after"]
    start: ActPoint
    end: ActPoint

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        return slid_after(lettering, curve, self.start, self.end)

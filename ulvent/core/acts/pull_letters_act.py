"""Letters moved as far as a pointer went, along the line and across it."""

from __future__ import annotations

from typing import Literal

import numpy as np

from ulvent.core.acts.act import ActPoint
from ulvent.core.acts.by_hand import HandAct, Letters, changed_letters, known_letters, nudged
from ulvent.core.base.errors import wrong_field
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed, standing_of
from ulvent.core.recipe import Lettering, Piece
from ulvent.core.setting import set_lettering


class PullLetters(HandAct):
    """Letters moved as far as a pointer went, along the line and across it."""

    act: Literal["pull-letters"]
    letters: Letters
    start: ActPoint
    end: ActPoint

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        standing = standing_of(piece.guide(lettering.guide), curve)
        way = np.array(self.end) - np.array(self.start)
        for line in set_lettering(lettering, standing, faces(lettering.face)):
            for index in np.flatnonzero(np.isin(line.places, self.letters)).tolist():
                # Along and across as the first of the letters stands.
                along = float(way @ line.frames.tangents[index])
                across = float(way @ line.frames.normals[index])
                letters = known_letters(lettering, self.letters)
                change = nudged(along=round(along, 3), across=round(across, 3))
                return changed_letters(lettering, letters, change)
        raise wrong_field("letters", "none of these letters stands on the drawing")

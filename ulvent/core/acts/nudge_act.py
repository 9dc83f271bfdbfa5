"""Letters moved, turned, sized, or the gaps after them opened, on top of what is there."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.acts.act import Finite
from ulvent.core.acts.by_hand import HandAct, Letters, changed_letters, known_letters, nudged
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece


class NudgeLetters(HandAct):
    """Letters moved, turned, sized, or the gaps after them opened, on top of what is there."""

    act: Literal["nudge"]
    letters: Letters
    along: Finite = 0.0
    across: Finite = 0.0
    turn: Finite = 0.0
    size: Annotated[float, Field(gt=0.0, allow_inf_nan=False)] = 1.0
    gap: Finite = 0.0

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        change = nudged(self.along, self.across, self.turn, self.size, self.gap)
        return changed_letters(lettering, known_letters(lettering, self.letters), change)

"""What was done to letters by hand, typed: what is left out stays as it is."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import Finite
from ulvent.core.acts.by_hand import HandAct, Letters, changed_letters, known_letters
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Nudge, Piece


class SetNudge(HandAct):
    """What was done to letters by hand, typed: what is left out stays as it is."""

    act: Literal["set-nudge"]
    letters: Letters
    along: Finite | None = None
    across: Finite | None = None
    turn: Finite | None = None
    size: Finite | None = None
    gap: Finite | None = None

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        fields = {name: value for name, value in self.model_dump().items()
                  if name in Nudge.model_fields and value is not None}  # fmt: skip

        def change(nudge: Nudge) -> Nudge:
            return Nudge.model_validate(nudge.model_dump() | fields)

        return changed_letters(lettering, known_letters(lettering, self.letters), change)

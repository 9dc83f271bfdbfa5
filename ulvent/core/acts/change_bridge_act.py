"""A bridge set at an angle, or taken away."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import Act, Done, Finite, Index
from ulvent.core.acts.bridges import with_bridge
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece


class ChangeBridge(Act):
    """A bridge set at an angle, degrees in its letter's own frame, or taken away."""

    act: Literal["change-bridge"]
    lettering: str
    letter: Index
    bridge: Index
    removed: bool = False
    angle: Finite | None = None

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        return Done(
            with_bridge(piece, self.lettering, self.letter, self.bridge, self.angle, self.removed)
        )

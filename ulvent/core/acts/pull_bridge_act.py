"""A bridge pulled round the counter that it ties."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import Act, ActPoint, Done, Finite, Index
from ulvent.core.acts.bridges import with_bridge
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece
from ulvent.core.steps.bridge_search import angle_toward


class PullBridge(Act):
    """A bridge pulled toward a point; `about` and `axes` are those that the bridge has."""

    act: Literal["pull-bridge"]
    lettering: str
    letter: Index
    bridge: Index
    about: ActPoint
    axes: tuple[Finite, Finite, Finite, Finite]
    to: ActPoint

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        angle = round(angle_toward(self.to, self.about, self.axes), 1)
        return Done(with_bridge(piece, self.lettering, self.letter, self.bridge, angle))

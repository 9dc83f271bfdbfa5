"""A new drawn guide through placed points."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.acts.act import Act, ActPoint, Done, with_new_guide
from ulvent.core.acts.sketches import about_their_middle, new_drawn
from ulvent.core.guides.drawn import Node
from ulvent.core.guides.frame import rounded_point
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece


class DrawThrough(Act):
    """A new drawn guide through placed points."""

    act: Literal["draw-through"]
    points: Annotated[tuple[ActPoint, ...], Field(min_length=2, max_length=1000)]
    closed: bool = False

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        centre, own = about_their_middle(self.points)
        nodes = tuple(Node(at=rounded_point(point)) for point in own.tolist())
        return with_new_guide(piece, new_drawn(centre, nodes, self.closed))

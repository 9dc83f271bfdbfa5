"""A new drawn guide, fitted to a pointer's way within a tolerance, mm."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.acts.act import MOST_SAMPLES, Act, ActPoint, Done, with_new_guide
from ulvent.core.acts.sketches import about_their_middle, new_drawn
from ulvent.core.guides.drawn import Node
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece


class DrawFreehand(Act):
    """A new drawn guide, fitted to a pointer's way within a tolerance, mm."""

    act: Literal["draw-freehand"]
    points: Annotated[tuple[ActPoint, ...], Field(min_length=2, max_length=MOST_SAMPLES)]
    tolerance: Annotated[float, Field(gt=0.0, le=1000.0, allow_inf_nan=False)]

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        # Imported when it is needed: SciPy would double the start of the command line.
        from ulvent.core.guides.freehand import fitted_nodes

        centre, own = about_their_middle(self.points)
        nodes = tuple(Node(**found) for found in fitted_nodes(own, self.tolerance))
        return with_new_guide(piece, new_drawn(centre, nodes, closed=False))

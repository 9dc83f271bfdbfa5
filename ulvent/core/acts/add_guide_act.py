"""A new guide from a recipe, under its id or one like it; what is left out is as usual."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import Act, Done, with_new_guide
from ulvent.core.guides.kinds import Guide
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece


class AddGuide(Act):
    """A new guide from a recipe, under its id or one like it; what is left out is as usual."""

    act: Literal["add-guide"]
    recipe: Guide

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        return with_new_guide(piece, self.recipe)

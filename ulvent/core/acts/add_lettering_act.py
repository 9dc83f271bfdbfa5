"""New words on a guide, beside those that stand there already."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from ulvent.core.acts.act import Act, Done, Made, with_new_lettering
from ulvent.core.acts.first_words import first_words
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece


class AddLettering(Act):
    """New words on a guide, beside those that stand there already."""

    act: Literal["add-lettering"]
    guide: str
    choices: Annotated[dict[str, Any], Field(default_factory=dict)]

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        lettering = first_words(piece, self.guide, self.choices, faces)
        return Done(with_new_lettering(piece, lettering), (Made("lettering", lettering.id),))

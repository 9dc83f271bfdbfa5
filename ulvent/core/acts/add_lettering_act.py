"""New words on a guide, beside those that stand there already."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from ulvent.core.acts.act import Act, Done, Made, free_id, guide_of
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece, parsed_lettering
from ulvent.core.recipe.first import USUAL_CHOICES


class AddLettering(Act):
    """New words on a guide, beside those that stand there already."""

    act: Literal["add-lettering"]
    guide: str
    choices: Annotated[dict[str, Any], Field(default_factory=dict)]

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        guide = guide_of(piece, self.guide)
        others = sum(one.guide == guide.id for one in piece.letterings)
        lettering = parsed_lettering(
            {
                **USUAL_CHOICES,
                **self.choices,
                "id": free_id("lettering", piece.letterings),
                "guide": guide.id,
                "text": "Your words",
                "at": _SHARES[others % len(_SHARES)],
                "at_in": "share",
            }
        )
        changed = piece.model_copy(update={"letterings": (*piece.letterings, lettering)})
        return Done(changed, Made("lettering", lettering.id))


_SHARES = (0.25, 0.75, 0.5, 0.0)
"""Where words are put first: top, bottom, then the sides of a ring that starts at its left."""

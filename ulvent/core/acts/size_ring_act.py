"""A ring made for a finger of a size."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.acts.act import Act, Done
from ulvent.core.base.errors import wrong_field
from ulvent.core.guides.round_blanks import BandBlank, SignetBlank
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece
from ulvent.core.solids.ring_sizes import Scale, inner_of


class SizeRing(Act):
    """The inner diameter of a ring as a size says it.

    scale, size
        the inner circumference in mm (`iso`), or a size of a common scale, as it is typed
    """

    act: Literal["size-ring"]
    scale: Scale = "iso"
    size: Annotated[str, Field(max_length=12)]

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        if not isinstance(piece.blank, BandBlank | SignetBlank):
            raise wrong_field("blank", "is no ring")
        inner = round(inner_of(self.scale, self.size), 4)
        return Done(
            piece.model_copy(update={"blank": piece.blank.model_copy(update={"inner": inner})})
        )

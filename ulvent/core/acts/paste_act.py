"""Guides and letterings taken over from another piece, or from this one."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.acts.act import Act, Done
from ulvent.core.acts.copies import with_copies
from ulvent.core.guides.kinds import Guide
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece


class Paste(Act):
    """Guides with letterings on them; a lettering alone goes on the guide that is named.

    on
        the guide for letterings whose own guide is not among those that come
    """

    act: Literal["paste"]
    guides: Annotated[tuple[Guide, ...], Field(max_length=200)] = ()
    letterings: Annotated[tuple[Lettering, ...], Field(max_length=400)] = ()
    on: str = ""

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        return with_copies(piece, self.guides, self.letterings, self.on)

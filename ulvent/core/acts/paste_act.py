"""Guides and letterings taken over from another piece, or from this one."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.acts.act import Act, Done, Made, free_id, with_new_lettering
from ulvent.core.base.errors import wrong_field
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
        names: dict[str, str] = {}
        made: Made | None = None
        taken = list(piece.guides)
        for guide in self.guides:
            names[guide.id] = free_id(guide.id, taken)
            taken.append(guide.model_copy(update={"id": names[guide.id]}))
        for guide in self.guides:
            others = {field: names.get(getattr(guide, field)) for field in guide.leaning_fields}
            if not all(others.values()):
                raise wrong_field("guides", f"“{guide.id}” is made from a guide that is missing")
            copy = guide.model_copy(update={"id": names[guide.id], **others})
            piece = piece.model_copy(update={"guides": (*piece.guides, copy)})
            made = Made("guide", copy.id)
        for lettering in self.letterings:
            guide_id = names.get(lettering.guide, self.on)
            if all(one.id != guide_id for one in piece.guides):
                raise wrong_field("on", "is missing: choose the guide that the words go on")
            name = free_id(lettering.id, piece.letterings)
            mine = lettering.model_copy(update={"id": name, "guide": guide_id})
            piece = with_new_lettering(piece, mine)
            made = Made("lettering", mine.id)
        return Done(piece, made)

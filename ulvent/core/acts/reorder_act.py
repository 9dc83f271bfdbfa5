"""A guide or a lettering put elsewhere in its list: what comes later is cut later."""

from __future__ import annotations

from typing import Literal, TypeVar

from ulvent.core.acts.act import Act, Done, guide_of, lettering_of
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece

Entry = TypeVar("Entry")


class Reorder(Act):
    """A guide moved by some places among guides, or a lettering among those of its guide."""

    act: Literal["reorder"]
    of: Literal["lettering", "guide"]
    id: str
    by: Literal[-1, 1]

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        if self.of == "guide":
            guide = guide_of(piece, self.id)
            guides = list(piece.guides)
            _swap(guides, guides.index(guide), [one.id for one in guides], self.by)
            return Done(piece.model_copy(update={"guides": tuple(guides)}))
        lettering = lettering_of(piece, self.id)
        letterings = list(piece.letterings)
        mine = [one.id if one.guide == lettering.guide else "" for one in letterings]
        _swap(letterings, letterings.index(lettering), mine, self.by)
        return Done(piece.model_copy(update={"letterings": tuple(letterings)}))


def _swap(entries: list[Entry], index: int, names: list[str], by: int) -> None:
    """Exchange an entry with the next one in a direction that has a name, if there is one."""
    other = index + by
    while 0 <= other < len(entries) and not names[other]:
        other += by
    if 0 <= other < len(entries):
        entries[index], entries[other] = entries[other], entries[index]

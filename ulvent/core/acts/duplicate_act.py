"""A lettering, or a guide with all that stands on it, a second time."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import (
    Act,
    Done,
    Made,
    free_id,
    guide_of,
    lettering_of,
    with_new_lettering,
)
from ulvent.core.acts.first_words import first_words
from ulvent.core.base.arrays import extent
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.guides import guide_curves
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece

_ASIDE = 0.1
"""How far a second guide lies from the first, of its larger side: so that both are seen."""


class Duplicate(Act):
    """A lettering at a free place of its guide, or a guide beside itself with its lettering."""

    act: Literal["duplicate"]
    of: Literal["lettering", "guide"]
    id: str

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        if self.of == "lettering":
            return self._lettering(piece, faces)
        return self._guide(piece)

    def _lettering(self, piece: Piece, faces: FaceNamed) -> Done:
        lettering = lettering_of(piece, self.id)
        free = first_words(piece, lettering.guide, {"face": lettering.face}, faces)
        place = {name: getattr(free, name) for name in ("at", "at_in", "align", "reading")}
        # What runs along the whole guide has no other place on it.
        place = {} if lettering.dial or lettering.fill or lettering.repeat else place
        copy = lettering.model_copy(
            update={"id": free_id(lettering.id, piece.letterings), "name": "", **place}
        )
        return Done(with_new_lettering(piece, copy), Made("lettering", copy.id))

    def _guide(self, piece: Piece) -> Done:
        guide = guide_of(piece, self.id)
        aside = _ASIDE * max(extent(curve_bounds(guide_curves(piece.guides)[guide.id])))
        x, y = guide.centre
        copy = guide.model_copy(
            update={
                "id": free_id(guide.id, piece.guides),
                "name": "",
                "removed": False,
                "centre": (round(x + aside, 3), round(y - aside, 3)),
            }
        )
        changed = piece.model_copy(update={"guides": (*piece.guides, copy)})
        for lettering in (one for one in piece.letterings if one.guide == guide.id):
            name = free_id(lettering.id, changed.letterings)
            mine = lettering.model_copy(update={"id": name, "guide": copy.id})
            changed = with_new_lettering(changed, mine)
        return Done(changed, Made("guide", copy.id))

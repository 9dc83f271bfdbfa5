"""Letterings, and guides with all that stands on them, a second time."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.acts.act import Act, Done, guide_of, lettering_of
from ulvent.core.acts.copies import with_copies
from ulvent.core.acts.first_words import first_words
from ulvent.core.base.arrays import extent, united
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.guides import guide_curves
from ulvent.core.guides.kinds import AnyGuide
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece

_ASIDE = 0.1
"""How far second guides lie from the first, of their larger side: so that both are seen."""


class Duplicate(Act):
    """Letterings at free places of their guides; guides beside themselves with their lettering."""

    act: Literal["duplicate"]
    guides: Annotated[tuple[str, ...], Field(max_length=200)] = ()
    letterings: Annotated[tuple[str, ...], Field(max_length=400)] = ()

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        guides = _aside([guide_of(piece, name) for name in self.guides], piece)
        named = [lettering_of(piece, name) for name in self.letterings]
        standing = [one for one in piece.letterings if one.guide in self.guides]
        done = with_copies(piece, guides, standing)
        for lettering in (one for one in named if one.guide not in self.guides):
            again = _placed_freely(lettering, done.piece, faces)
            more = with_copies(done.piece, (), (again,), on=lettering.guide)
            done = Done(more.piece, (*done.made, *more.made))
        return done


def _placed_freely(lettering: Lettering, piece: Piece, faces: FaceNamed) -> Lettering:
    """The lettering where its guide has room; what runs along all of it has no other place."""
    free = first_words(piece, lettering.guide, {"face": lettering.face}, faces)
    place = {name: getattr(free, name) for name in ("at", "at_in", "align", "reading")}
    runs_along = lettering.dial or lettering.fill or lettering.repeat
    return lettering.model_copy(update={"name": "", **({} if runs_along else place)})


def _aside(guides: list[AnyGuide], piece: Piece) -> list[AnyGuide]:
    """The guides moved aside together; one that is made from another of them moves with it."""
    if not guides:
        return []
    curves = guide_curves(piece.guides)
    aside = _ASIDE * max(extent(united([curve_bounds(curves[one.id]) for one in guides])))
    names = {one.id for one in guides}
    moved = []
    for guide in guides:
        x, y = guide.centre
        off = 0.0 if names.intersection(guide.leans_on) else aside
        centre = (round(x + off, 3), round(y - off, 3))
        moved.append(guide.model_copy(update={"name": "", "removed": False, "centre": centre}))
    return moved

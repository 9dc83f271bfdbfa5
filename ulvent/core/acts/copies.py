"""Guides and letterings a second time, in the same piece or in another."""

from __future__ import annotations

from collections.abc import Sequence

from ulvent.core.acts.act import Done, Made, free_id, with_new_guide, with_new_lettering
from ulvent.core.base.errors import wrong_field
from ulvent.core.guides.kinds import AnyGuide
from ulvent.core.recipe import Lettering, Piece


def with_copies(
    piece: Piece, guides: Sequence[AnyGuide], letterings: Sequence[Lettering], on: str = ""
) -> Done:
    """The piece with copies under ids of their own, on and made from the copies beside them.

    on
        the guide for letterings whose own guide is not among those that come

    Raises
    ------
    PieceError
        Where a guide is made from one that is neither among them nor in the piece, or a
        lettering has no guide to go on.
    """
    names: dict[str, str] = {}
    taken = list(piece.guides)
    for guide in guides:
        names[guide.id] = free_id(guide.id, taken)
        taken.append(guide.model_copy(update={"id": names[guide.id]}))
    there = {one.id for one in taken}
    made: list[Made] = []
    for guide in guides:
        bases = {name: getattr(guide, name) for name in guide.leaning_fields}
        if not there.issuperset(bases.values()):
            raise wrong_field("guides", f"“{guide.id}” is made from a guide that is missing")
        own = {name: names.get(base, base) for name, base in bases.items()}
        done = with_new_guide(piece, guide.model_copy(update={"id": names[guide.id], **own}))
        piece, made = done.piece, [*made, *done.made]
    # What stands on a copy is not apart from it: the guide is what was made.
    for lettering in letterings:
        guide_id = names.get(lettering.guide, on)
        if guide_id not in there:
            raise wrong_field("on", "is missing: choose the guide that the words go on")
        name = free_id(lettering.id, piece.letterings)
        mine = lettering.model_copy(update={"id": name, "guide": guide_id})
        piece = with_new_lettering(piece, mine)
        if lettering.guide not in names:
            made.append(Made("lettering", name))
    return Done(piece, tuple(made))

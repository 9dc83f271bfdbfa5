"""What names guides and letterings lets go of those that are gone."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from ulvent.core.recipe.run_sheet import RunPass

if TYPE_CHECKING:
    from ulvent.core.recipe.piece import Piece
    from ulvent.core.recipe.sewing import Sewing
    from ulvent.core.recipe.solid import Solid


def without_lost_works(piece: Piece) -> Piece:
    """A piece whose passes work on what is there; one that has nothing left is gone too."""
    if piece.run is None:
        return piece
    there = {
        "guide": {guide.id for guide in piece.guides},
        "letters": {lettering.id for lettering in piece.letterings},
    }
    there["ticks"] = there["letters"]
    passes: list[RunPass] = []
    for one in piece.run.passes:
        works = tuple(it for it in one.works if it.of in there.get(it.what, {it.of}))
        kerf = tuple(it for it in one.kerf if not it.of or it.of in there["letters"])
        if (len(works), len(kerf)) == (len(one.works), len(one.kerf)):
            passes.append(one)
        elif works:
            passes.append(one.model_copy(update={"works": works, "kerf": kerf}))
    run = piece.run.model_copy(update={"passes": tuple(passes)})
    return piece.model_copy(update={"run": run}) if run != piece.run else piece


def without_lost_letterings(piece: Piece) -> Piece:
    """A piece that says how letterings are sewn, or stand out of a part, that are there."""
    there = {lettering.id for lettering in piece.letterings}
    changed: dict[str, Any] = {}
    for name in ("sewing", "solid"):
        recipe: Sewing | Solid | None = getattr(piece, name)
        kept = tuple(one for one in recipe.letterings if one.of in there) if recipe else ()
        if recipe is not None and len(kept) < len(recipe.letterings):
            changed[name] = recipe.model_copy(update={"letterings": kept})
    return piece.model_copy(update=changed) if changed else piece

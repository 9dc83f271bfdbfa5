"""Changing one bridge, in the recipe that it comes from."""

from __future__ import annotations

from ulvent.core.acts.act import with_lettering
from ulvent.core.base.errors import wrong_field
from ulvent.core.recipe import Piece
from ulvent.core.steps.bridge_search import BridgeChange
from ulvent.core.steps.bridge_step import Bridges


def with_bridge(
    piece: Piece,
    lettering: str,
    letter: int,
    bridge: int,
    angle: float | None = None,
    removed: bool = False,
) -> Piece:
    """The piece with a bridge at another angle, degrees, or without it.

    The lettering's own recipe is changed where it has bridges, or else the whole piece's.

    Raises
    ------
    PieceError
        When neither has bridges.
    """
    owner = next((one for one in piece.letterings if one.id == lettering), None)
    own = owner is not None and owner.prepare is not None and owner.prepare.bridges is not None
    recipe = owner.prepare if own and owner else piece.prepare
    if recipe is None or recipe.bridges is None:
        raise wrong_field("lettering", "has no bridges to change")
    change = BridgeChange(
        lettering="" if own else lettering,
        letter=letter,
        bridge=bridge,
        removed=removed,
        angle=angle,
    )
    changed = recipe.model_copy(update={"bridges": _changed(recipe.bridges, change)})
    if own and owner:
        return with_lettering(piece, owner.model_copy(update={"prepare": changed}))
    return piece.model_copy(update={"prepare": changed})


def _changed(bridges: Bridges, change: BridgeChange) -> Bridges:
    which = (change.lettering, change.letter, change.bridge)
    others = tuple(
        one for one in bridges.changes if (one.lettering, one.letter, one.bridge) != which
    )
    before = next((one for one in bridges.changes if one not in others), None)
    if change.angle is None and before is not None:
        change = change.model_copy(update={"angle": before.angle})
    return bridges.model_copy(update={"changes": (*others, change)})

"""A bridge moved or taken away by hand, in the recipe that it comes from."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import Act, Done, Finite, Index, with_lettering
from ulvent.core.base.errors import wrong_field
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe.piece import Piece
from ulvent.core.steps.bridge_search import BridgeChange
from ulvent.core.steps.bridge_step import Bridges


class ChangeBridge(Act):
    """A bridge moved or taken away by hand, in the recipe that it comes from."""

    act: Literal["change-bridge"]
    lettering: str
    letter: Index
    bridge: Index
    removed: bool = False
    angle: Finite | None = None

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        owner = next((one for one in piece.letterings if one.id == self.lettering), None)
        own = owner is not None and owner.prepare is not None and owner.prepare.bridges is not None
        recipe = owner.prepare if own and owner else piece.prepare
        if recipe is None or recipe.bridges is None:
            raise wrong_field("lettering", "has no bridges to change")
        changed = recipe.model_copy(update={"bridges": self._changed(recipe.bridges, own)})
        if own and owner:
            prepared = owner.model_copy(update={"prepare": changed})
            return Done(with_lettering(piece, prepared))
        return Done(piece.model_copy(update={"prepare": changed}))

    def _changed(self, bridges: Bridges, own: bool) -> Bridges:
        """The bridges of a recipe, its lettering's `own` or the whole piece's."""
        name = "" if own else self.lettering
        which = (name, self.letter, self.bridge)
        others = tuple(
            one for one in bridges.changes if (one.lettering, one.letter, one.bridge) != which
        )
        before = next((one for one in bridges.changes if one not in others), None)
        angle = self.angle if self.angle is not None else before and before.angle
        change = BridgeChange(
            lettering=name, letter=self.letter, bridge=self.bridge, removed=self.removed,
            angle=angle,
        )  # fmt: skip
        return bridges.model_copy(update={"changes": (*others, change)})

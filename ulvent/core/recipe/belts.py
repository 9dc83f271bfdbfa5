"""Lines round a part are as long as the part that is the piece's blank is round there."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ulvent.core.guides.kinds.belt_guide import BeltGuide
from ulvent.core.guides.round_blanks import RoundBlank
from ulvent.core.guides.rounds import RoundSide

if TYPE_CHECKING:
    from ulvent.core.recipe.piece import Piece


def with_belts_of_the_blank(piece: Piece) -> Piece:
    """The piece with lines round a part as long as the part that is its blank is round there."""
    if not isinstance(piece.blank, RoundBlank):
        return piece
    side = piece.blank.round_side
    guides = tuple(_round(one, side) if isinstance(one, BeltGuide) else one for one in piece.guides)
    return piece if guides == piece.guides else piece.model_copy(update={"guides": guides})


def width_shares(piece: Piece, guide: BeltGuide) -> tuple[float, ...]:
    """How wide the band is that a line goes round, as `RoundSide.width_shares` has it."""
    if not isinstance(piece.blank, RoundBlank):
        return ()
    side = piece.blank.round_side
    return side.width_shares(guide.centre[1] - side.middle[1], _SHARES)


_SHARES = 721


def _round(guide: BeltGuide, side: RoundSide) -> BeltGuide:
    level = guide.centre[1] - side.middle[1]
    girth = side.girth(level)
    # Beyond the apex of a cone there is nothing: the line stays what it was, and far out.
    there = girth > 0.0
    return guide.model_copy(
        update={
            "girth": girth if there else guide.girth,
            "lean": side.lean,
            "scaled": 1.0,
            "turned": 0.0,
            "centre": (side.middle[0] if side.lean else guide.centre[0], guide.centre[1]),
        }
    )

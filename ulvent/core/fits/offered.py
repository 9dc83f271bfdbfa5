"""Which fits go together with how a lettering stands: what a person is offered."""

from __future__ import annotations

from typing import get_args

from pydantic import ValidationError

from ulvent.core.guides.kinds import kind_of
from ulvent.core.recipe import Fit, Lettering, Piece

_NOTHING_TO_DO_WITH_IT = {"fit", "hand", "hand_words", "prepare", "features", "axes"}

KINDS_OF_FIT: tuple[str, ...] = get_args(Fit.model_fields["kind"].annotation)


def fits_offered(lettering: Lettering) -> tuple[str, ...]:
    """The kinds of fits that a lettering can have as it stands."""
    return tuple(kind for kind in KINDS_OF_FIT if _goes_together(lettering, kind))


def _goes_together(lettering: Lettering, kind: str) -> bool:
    recipe = lettering.model_dump(exclude=_NOTHING_TO_DO_WITH_IT) | {"fit": {"kind": kind}}
    try:
        Lettering.model_validate(recipe)
    except ValidationError:
        return False
    return True


def keeps_offered(lettering: Lettering, piece: Piece) -> tuple[str, ...]:
    """What letters whose height is fitted can be kept inside of, as `within` of a fit names it."""
    kind = kind_of(piece.guide(lettering.guide))
    there = {
        "blank": piece.blank is not None,
        "edges": kind.between,
        "turns": kind.winds or "\n" in lettering.text,
    }
    return tuple(bound for bound, is_there in there.items() if is_there)

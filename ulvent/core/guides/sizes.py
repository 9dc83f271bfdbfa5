"""Giving the size of a guide by other figures, so that the line stays what it is."""

from __future__ import annotations

from ulvent.core.base.errors import wrong_field
from ulvent.core.guides.kinds import AnyGuide, kind_of

_DECIMALS = 6


def given_as(guide: AnyGuide, figures: tuple[str, ...]) -> AnyGuide:
    """The same line with its size given by `figures`, and by no others.

    Raises
    ------
    PieceError
        When the guide cannot be given by them.
    """
    restated = kind_of(guide).restated
    known = restated(guide) if restated else {}
    if not known or not set(figures) <= set(known):
        raise wrong_field("figures", "this guide is not given by such figures")
    changed = {name: round(known[name], _DECIMALS) if name in figures else None for name in known}
    try:
        return type(guide).model_validate({**guide.model_dump(), **changed})
    except ValueError as error:
        raise wrong_field("figures", "these figures do not go together") from error

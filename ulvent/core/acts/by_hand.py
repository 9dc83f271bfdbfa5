"""Letters changed by hand: moved, turned, sized, one gap opened; and all of it taken back.

What is done by hand is kept with the words that it was done to, so that it finds its
letters again when the words change (`setting.words.place_map`).
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Annotated

from pydantic import Field

from ulvent.core.acts.act import LetteringAct
from ulvent.core.base.errors import wrong_field
from ulvent.core.recipe import MOST_LETTERS, Lettering, Nudge, Place
from ulvent.core.setting import nudges_on

_DECIMALS = 4


class HandAct(LetteringAct):
    """An act on letters of one lettering, which leaves all else of it as it is."""


Change = Callable[[Nudge], Nudge]
Letters = Annotated[tuple[Place, ...], Field(max_length=MOST_LETTERS)]
"""Letters by their places in the words."""


def known_letters(lettering: Lettering, letters: tuple[int, ...]) -> tuple[int, ...]:
    """Letters that are there.

    Raises
    ------
    PieceError
        When one is not.
    """
    if any(letter >= len(lettering.text) for letter in letters):
        raise wrong_field("letters", "there is no such letter")
    return letters


def changed_letters(lettering: Lettering, letters: Sequence[int], change: Change) -> Lettering:
    """The lettering with `change` done to each of its `letters`, by their places in the words."""
    nudges = nudges_on(lettering)
    for letter in letters:
        nudges[letter] = change(nudges.get(letter, Nudge(letter=letter)))
    return _with(lettering, nudges)


def nudged(
    along: float = 0.0, across: float = 0.0, turn: float = 0.0, size: float = 1.0, gap: float = 0.0
) -> Change:
    """A change on top of what is there: sizes multiply, all else adds up."""

    def change(nudge: Nudge) -> Nudge:
        return Nudge(
            letter=nudge.letter,
            along=round(nudge.along + along, _DECIMALS),
            across=round(nudge.across + across, _DECIMALS),
            turn=round(nudge.turn + turn, _DECIMALS),
            size=round(nudge.size * size, _DECIMALS),
            gap=round(nudge.gap + gap, _DECIMALS),
        )

    return change


def put_back(lettering: Lettering, letters: Sequence[int] | None) -> Lettering:
    """The lettering as it is without what was done to `letters`, or to any of them."""
    if letters is None:
        return _with(lettering, {})
    nudges = nudges_on(lettering)
    return _with(lettering, {at: nudge for at, nudge in nudges.items() if at not in letters})


def _with(lettering: Lettering, nudges: dict[int, Nudge]) -> Lettering:
    """With exactly these nudges, on the words as they are now."""
    kept = tuple(
        nudge for _, nudge in sorted(nudges.items()) if nudge != Nudge(letter=nudge.letter)
    )
    words = lettering.text if kept else ""
    return lettering.model_copy(update={"hand": kept, "hand_words": words})

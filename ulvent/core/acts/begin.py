"""A piece to begin with: a blank, a guide that suits it, and words."""

from __future__ import annotations

from typing import Any

from ulvent.core.acts.first_words import first_words
from ulvent.core.acts.start_guide_act import across
from ulvent.core.base.errors import wrong_field
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.guides import guide_curves
from ulvent.core.guides.blanks import AnyBlank, blank_curves
from ulvent.core.guides.kind import Sizes
from ulvent.core.guides.kinds import STARTS, AnyGuide, started_guide
from ulvent.core.guides.taken import edge_guides, fitted_to
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import VERSION, Piece, checked, parse_piece


def piece_on(
    words: str,
    blank: AnyBlank | None,
    guides: tuple[AnyGuide, ...],
    choices: dict[str, Any],
    faces: FaceNamed,
) -> Piece:
    """A piece of a blank, guides, and words on the last of these.

    Raises
    ------
    PieceError
        Naming every wrong field.
    """
    empty = parse_piece({"ulvent": VERSION, "title": words.strip() or "New piece"})
    piece = checked(empty.model_copy(update={"blank": blank, "guides": guides}), empty)
    lettering = first_words(piece, guides[-1].id, choices, faces, words.strip())
    return checked(piece.model_copy(update={"letterings": (lettering,)}), piece)


def started_on(start: str, blank: AnyBlank | None) -> tuple[AnyGuide, ...]:
    """A guide as it is offered to begin with, no larger than the blank has room for.

    Raises
    ------
    PieceError
        When there is no such guide that is made from no other.
    """
    found = STARTS.get(start)
    if found is None or found.needs:
        raise wrong_field("guide", f"there is no guide “{start}” to begin with")
    return (within(started_guide(found, Sizes(across(blank))), blank),)


def within(guide: AnyGuide, blank: AnyBlank | None) -> AnyGuide:
    """A guide as it is where the blank has room for it; otherwise as large as there is."""
    if blank is None:
        return guide
    x0, y0, x1, y1 = curve_bounds(blank_curves(blank)[0])
    a0, b0, a1, b1 = curve_bounds(guide_curves((guide,))[guide.id])
    fits = a0 >= x0 and b0 >= y0 and a1 <= x1 and b1 <= y1
    return guide if fits else fitted_to(guide, blank)


def on_edge(blank: AnyBlank | None, distance: float) -> tuple[AnyGuide, ...]:
    """The blank's own edge, so far inside of it.

    Raises
    ------
    PieceError
        Where there is no blank, or no room for such a line.
    """
    if blank is None:
        raise wrong_field("blank", "is missing: there is no edge to follow")
    return edge_guides(blank, distance)

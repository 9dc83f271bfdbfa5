"""What a new piece and new words begin with."""

from __future__ import annotations

from typing import Any

from ulvent.core.recipe.piece import VERSION, Piece, parse_piece

USUAL_CHOICES: dict[str, Any] = {"face": "lato-bold", "height": 10.0, "align": "centre"}
"""Of new words, where nobody has chosen otherwise; all else is as a lettering leaves it out."""

REMEMBERED = (
    "face", "height", "measured", "touch", "spacing", "tracking", "word_space", "align", "shape",
    "width", "slant", "features", "axes",
)  # fmt: skip
"""Fields of a lettering that the next one begins with."""

FIRST_MARKS: dict[str, dict[str, Any]] = {
    "letter": {"letter": "·", "size": 1.0},
    "dot": {"size": 0.25},
    "outline": {"size": 0.8},
}
"""Marks to begin with, by their kinds, where they differ from most."""

_MOST_MARKS: dict[str, Any] = {"letter": "", "size": 0.6, "raised": 0.5}

FIRSTS: dict[str, float] = {
    "disc": 300.0,
    "ring": 240.0,
    "corner_radius": 5.0,
    "reach_width": 300.0,
    "reach_height": 200.0,
}
"""Figures to begin with, mm: a blank and its ring, corners that are rounded, a tool's reach."""


def first_mark(kind: str) -> dict[str, Any]:
    """A mark of a kind to begin with, as its recipe."""
    return {"kind": kind} | _MOST_MARKS | FIRST_MARKS.get(kind, {})


def first_piece(words: str, disc: float, ring: float, choices: dict[str, Any]) -> Piece:
    """A round blank with words on a ring, mm.

    Raises
    ------
    PieceError
        Naming every wrong field.
    """
    words = words.strip()
    return parse_piece(
        {
            "ulvent": VERSION,
            "title": words or "New piece",
            "blank": {"kind": "disc", "diameter": disc},
            "guides": [{"id": "ring", "kind": "circle", "diameter": ring, "start": 180}],
            "letterings": [
                {
                    **USUAL_CHOICES,
                    **choices,
                    "id": "words",
                    "guide": "ring",
                    "text": words or "Your words",
                    "at": 0.25,
                    "at_in": "share",
                }
            ],
        }
    )

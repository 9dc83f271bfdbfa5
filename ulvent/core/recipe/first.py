"""What a new piece and new words begin with."""

from __future__ import annotations

from typing import Any

USUAL_CHOICES: dict[str, Any] = {"face": "lato-bold", "height": 10.0, "align": "centre"}
"""Of new words, where nobody has chosen otherwise; all else is as a lettering leaves it out."""

REMEMBERED = ("face", "measured", "width", "slant", "features", "axes")
"""Fields of a lettering that the next one begins with: what its letters are, not how they stand."""

FIRST_WORDS = "Your words"
"""What new words say until others are typed."""

FIRST_MARKS: dict[str, dict[str, Any]] = {
    "letter": {"letter": "·", "size": 1.0},
    "dot": {"size": 0.25},
    "outline": {"size": 0.8},
}
"""Marks to begin with, by their kinds, where they differ from most."""

_MOST_MARKS: dict[str, Any] = {"letter": "", "size": 0.6, "raised": 0.5}

FIRSTS: dict[str, float] = {
    "edge": 15.0,
    "smooth": 0.2,
    "corner_radius": 5.0,
    "reach_width": 300.0,
    "reach_height": 200.0,
}
"""Figures to begin with, mm: from a blank's edge, off a line that is
smoothed, corners that are rounded, a tool's reach."""


def first_mark(kind: str) -> dict[str, Any]:
    """A mark of a kind to begin with, as its recipe."""
    return {"kind": kind} | _MOST_MARKS | FIRST_MARKS.get(kind, {})

"""Pieces to begin from: each a document of its own, at a common size, with words to be replaced."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ulvent.core.recipe.piece import VERSION, Piece, parse_piece


@dataclass(frozen=True)
class Beginning:
    """A piece to begin from.

    title, hint
        what it is called, and what it is for
    parts
        its blank, guides and letterings, as a piece file has them; the first lettering has the
        words that a person types
    """

    name: str
    title: str
    hint: str
    parts: dict[str, Any]

    @property
    def says(self) -> bool:
        """Whether it has words that a person types."""
        return "dial" not in self.parts["letterings"][0]

    @property
    def blank(self) -> Any:
        """The recipe of its blank."""
        return self.piece("").blank

    def piece(self, words: str) -> Piece:
        """The piece, with words in place of those of its first lettering.

        Raises
        ------
        PieceError
            Where the words may not be.
        """
        first, *others = self.parts["letterings"]
        if words and self.says:
            first = {**first, "text": words}
        title = words or self.title
        letterings = [first, *others]
        return parse_piece(
            {"ulvent": VERSION, "title": title, **self.parts, "letterings": letterings}
        )


def _words(**changed: Any) -> dict[str, Any]:
    return {"id": "words", "guide": "line", "face": "lato-bold", "text": "YOUR WORDS",
            "align": "centre"} | changed  # fmt: skip


def _ring(name: str, diameter: float, **more: Any) -> dict[str, Any]:
    return {"id": name, "kind": "circle", "diameter": diameter, "start": 180, **more}


_LONG = (
    "Pick them dry and store them cool, turn them once a week and eat the ripest first; "
    "what is bruised goes into the press."
)

_HOURS = ["12", *map(str, range(1, 12))]

BEGINNINGS = {
    one.name: one
    for one in (
        Beginning(
            "ring",
            "Two lines on a ring",
            "for badges, lids and barrel heads: one line over the top, one along the bottom",
            {
                "blank": {"kind": "disc", "diameter": 300},
                "guides": [_ring("line", 244)],
                "letterings": [
                    _words(height=22, at_in="top", touch="middle", spacing="even"),
                    _words(id="lower", text="AND A SECOND LINE", height=15, at_in="bottom",
                           reading="against", touch="middle", spacing="even"),
                ],
            },
        ),
        Beginning(
            "arch",
            "One line on an arch",
            "for signs and plates: words that rise over the middle",
            {
                "blank": {"kind": "rectangle", "width": 300, "height": 160, "radius": 12},
                "guides": [{"id": "line", "kind": "arch", "chord": 240, "rise": 50,
                            "centre": [0, -20]}],
                "letterings": [_words(height=24, at_in="middle", spacing="even")],
            },
        ),
        Beginning(
            "frame",
            "Words round a rectangle",
            "for frames and trays: again and again, the same gap at each joint",
            {
                "blank": {"kind": "rectangle", "width": 300, "height": 200, "radius": 40},
                "guides": [{"id": "line", "kind": "rectangle", "width": 260, "height": 160,
                            "radius": 30}],
                "letterings": [
                    _words(height=11, touch="middle", spacing="even", at_in="top",
                           repeat={"separator": {"kind": "dot", "size": 0.25}})
                ],
            },
        ),
        Beginning(
            "dial",
            "A dial",
            "for clocks and gauges: figures and ticks at equal steps",
            {
                "blank": {"kind": "disc", "diameter": 240},
                "guides": [_ring("line", 190, start=90)],
                "letterings": [
                    _words(text="", height=14, touch="middle",
                           dial={"labels": {"kind": "list", "words": _HOURS},
                                 "stand": "upright",
                                 "ticks": {"major": {"length": 8, "width": 2},
                                           "minor": {"length": 4, "width": 0}, "parts": 5,
                                           "side": "outside"}})
                ],
            },
        ),
        Beginning(
            "spiral",
            "Words on a spiral",
            "for plates and letters: many words, from the outside in",
            {
                "blank": {"kind": "disc", "diameter": 300},
                "guides": [{"id": "line", "kind": "spiral", "inner": 60, "gain": 24, "turns": 4,
                            "inward": True}],
                "letterings": [
                    _words(text=_LONG, height=11, align="start", face="lato-bold",
                           fit={"kind": "gap"})
                ],
            },
        ),
        Beginning(
            "shape",
            "A filled shape",
            "for name trees and cards: the words again until the shape is full",
            {
                "blank": {"kind": "rectangle", "width": 240, "height": 180, "radius": 8},
                "guides": [{"id": "line", "kind": "ellipse", "width": 200, "height": 140}],
                "letterings": [_words(text="your words ", height=7, fill={"again": True})],
            },
        ),
        Beginning(
            "banner",
            "A banner",
            "for ribbons and tables: words along the middle, as high as there is room",
            {
                "blank": {"kind": "banner", "width": 400, "height": 90, "notch": 25, "rise": 50},
                "guides": [{"id": "line", "kind": "arch", "chord": 400, "rise": 50,
                            "centre": [0, -25]}],
                "letterings": [
                    _words(height=40, touch="middle", at_in="middle", spacing="even",
                           fit={"kind": "height", "within": ["blank"], "clear": 10})
                ],
            },
        ),
    )
}  # fmt: skip
"""All by their names, in the order in which they are offered."""

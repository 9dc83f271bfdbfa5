"""Cloth and thread: how closely, how long and how wide stitches are made for them."""

from __future__ import annotations

from typing import NamedTuple

from ulvent.core.recipe.sewing import ClothName, Sewing


class Cloth(NamedTuple):
    """Figures of one cloth, mm; common practice, no source, for a thread of 40 weight.

    spacing
        between stitches of the same side of a satin column, and between rows of a filling; the
        threads of a column lie half of it apart
    pull
        that columns are made wider on each side, since thread draws the cloth together
    narrowest, widest
        satin columns: what is narrower is a running line, what is wider is filled in rows
    split
        a satin stitch that is longer is made in parts
    run
        length of running stitches
    row
        length of stitches in rows
    trim
        a jump that is longer is cut
    """

    title: str
    spacing: float = 0.4
    pull: float = 0.15
    narrowest: float = 1.0
    widest: float = 9.0
    split: float = 7.0
    run: float = 2.2
    row: float = 3.5
    trim: float = 3.0


CLOTHS: dict[ClothName, Cloth] = {
    "woven-cotton": Cloth("Woven cotton"),
    "knit": Cloth("Knit", pull=0.3),
    "felt": Cloth("Felt", pull=0.1),
    "canvas": Cloth("Canvas", spacing=0.42, pull=0.12),
    "towelling": Cloth("Towelling", spacing=0.36, pull=0.3, narrowest=1.4),
}
"""The first is what a piece is sewn on that says nothing."""


def cloth_of(recipe: Sewing) -> Cloth:
    """The cloth of a piece, with figures of its own."""
    cloth = CLOTHS[recipe.cloth]
    spacing = cloth.spacing if recipe.spacing is None else recipe.spacing
    pull = cloth.pull if recipe.pull is None else recipe.pull
    return cloth._replace(spacing=spacing, pull=pull)

"""Cloth and thread: how closely, how long and how wide stitches are made for them."""

from __future__ import annotations

from typing import NamedTuple

from ulvent.core.recipe.sewing import ClothName, Sewing, ThreadName

SOURCE = "common practice, no source"
"""Of all figures here."""


class Cloth(NamedTuple):
    """Figures of one cloth and one thread, mm.

    thread
        how wide a laid thread is
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
    least_height
        of capitals that can be read
    """

    title: str
    thread: float = 0.4
    spacing: float = 0.4
    pull: float = 0.15
    narrowest: float = 1.0
    widest: float = 9.0
    split: float = 7.0
    run: float = 2.2
    row: float = 3.5
    trim: float = 3.0
    least_height: float = 5.0


CLOTHS: dict[ClothName, Cloth] = {
    "woven-cotton": Cloth("Woven cotton"),
    "knit": Cloth("Knit", pull=0.3, least_height=6.0),
    "felt": Cloth("Felt", pull=0.1, least_height=6.0),
    "canvas": Cloth("Canvas", spacing=0.42, pull=0.12),
    "towelling": Cloth("Towelling", spacing=0.36, pull=0.3, narrowest=1.4, least_height=10.0),
}
"""With thread of 40 weight; the first is what a piece is sewn on that says nothing."""


class ThreadUse(NamedTuple):
    """How a thread differs from one of 40 weight: it is `finer` or thicker by a factor."""

    title: str
    finer: float = 1.0
    run: float | None = None


THREADS: dict[ThreadName, ThreadUse] = {
    "40": ThreadUse("40 weight"),
    "60": ThreadUse("60 weight", 0.75),
    "quilting": ThreadUse("Quilting thread", 1.25, 25.4 / 11.0),
}
"""Eleven stitches an inch are what quilters usually sew."""


def cloth_of(recipe: Sewing) -> Cloth:
    """The cloth and thread of a piece, with figures of its own."""
    cloth, thread = CLOTHS[recipe.cloth], THREADS[recipe.thread]
    finer = thread.finer
    cloth = cloth._replace(
        thread=cloth.thread * finer,
        spacing=cloth.spacing * finer,
        narrowest=cloth.narrowest * finer,
        least_height=cloth.least_height * finer,
        run=thread.run or cloth.run,
    )
    return cloth._replace(
        spacing=cloth.spacing if recipe.spacing is None else recipe.spacing,
        pull=cloth.pull if recipe.pull is None else recipe.pull,
        run=cloth.run if recipe.length is None else recipe.length,
    )

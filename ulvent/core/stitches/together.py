"""Several embroideries in one hoop, colour after colour, so that thread is changed least."""

from __future__ import annotations

from collections.abc import Sequence

from ulvent.core.base.arrays import Matrices
from ulvent.core.stitches.embroidery import Colour, Embroidery


def together(parts: Sequence[tuple[Embroidery, Matrices]]) -> Embroidery:
    """Embroideries where they lie, by maps (2, 3), as one.

    What a part sews first is sewn in all parts before what any sews second; within that, what
    has one thread comes together. On what is sewn is that of the first; needs one part at least.
    """
    colours: list[Colour] = []
    for place in range(max(len(one.colours) for one, _ in parts)):
        alike: dict[tuple[str, str], list[Colour]] = {}
        for one, matrix in parts:
            if place < len(one.colours):
                colour = one.colours[place]
                alike.setdefault((colour.colour, colour.asks), []).append(_moved(colour, matrix))
        for (colour_name, asks), every in alike.items():
            sewn = tuple(one for colour in every for one in colour.sewn)
            colours.append(Colour(colour_name, sewn, asks))
    return Embroidery(parts[0][0].cloth, tuple(colours), {})


def _moved(colour: Colour, matrix: Matrices) -> Colour:
    sewn = tuple(one._replace(thread=one.thread.placed(matrix)) for one in colour.sewn)
    return Colour(colour.colour, sewn, colour.asks)

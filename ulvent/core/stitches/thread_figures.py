"""What an embroidery comes to: stitches, time at a speed, and thread."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ulvent.core.stitches.embroidery import Colour, Embroidery, Sewn

TRIM_SECONDS = 6.0
STOP_SECONDS = 30.0
"""For cutting a jump, and for another thread or what a stop asks for.

Common practice, no source.
"""
_THROUGH = 1.0
"""mm of needle thread that a stitch takes through the cloth. Common practice, no source."""


@dataclass(frozen=True)
class ColourFigures:
    """Of one thread.

    begins, seconds
        when its first stitch is sewn, and how long it takes
    metres
        of needle thread
    """

    stitches: int
    trims: int
    begins: float
    seconds: float
    metres: float


@dataclass(frozen=True)
class Figures:
    """Of an embroidery.

    jumps
        moves with the needle up; those that are longer than the cloth's bound are trimmed
    begins
        seconds at which each thread that is sewn begins
    """

    colours: tuple[ColourFigures, ...]
    begins: tuple[float, ...]
    jumps: int
    trims: int
    stitches: int
    seconds: float
    metres: float


def figures(embroidery: Embroidery, speed: float) -> Figures:
    """What an embroidery comes to at `speed` stitches a minute."""
    at = 0.0
    colours: list[ColourFigures] = []
    begins: list[float] = []
    before: Sewn | None = None
    jumps = 0
    for number, colour in enumerate(embroidery.colours):
        at += STOP_SECONDS if number else 0.0
        first, trims = at, 0
        for one in colour.sewn:
            if before is not None:
                jumps += 1
                if math.dist(before.points[-1], one.points[0]) > embroidery.cloth.trim:
                    trims += 1
                    at += TRIM_SECONDS
            begins.append(at)
            at += (len(one.points) - 1) * 60.0 / speed
            before = one
        stitches = sum(len(one.points) for one in colour.sewn)
        colours.append(ColourFigures(stitches, trims, first, at - first, thread_length(colour)))
    return Figures(
        tuple(colours),
        tuple(begins),
        jumps,
        sum(one.trims for one in colours),
        sum(one.stitches for one in colours),
        at,
        sum(one.metres for one in colours),
    )


def thread_length(colour: Colour) -> float:
    """Needle thread that a colour takes, m."""
    return (
        sum(
            float(np.hypot(*np.diff(one.points, axis=0).T).sum()) + _THROUGH * len(one.points)
            for one in colour.sewn
        )
        / 1000.0
    )

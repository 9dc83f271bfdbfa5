"""The sides of letters, softened: how far a recess counts as white.

See `gaps` for what is made of them.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ulvent.core.base.arrays import Floats
from ulvent.core.base.remembered import remembered
from ulvent.core.faces import Face, PlacedGlyph
from ulvent.core.faces.sides import ROWS, Band, Sides, band_height, letter_sides, stem_white

RECESS_SLOPE = 1.0
RECESS = 1.4
"""How deep a recess counts, in the white between stems."""
EASING: dict[Band, float] = {"capital": 0.5, "x": 1.2}
"""How little the rows that are nearest count more than the others, in the same."""
_REMEMBERED = 16384


@dataclass(frozen=True)
class Softening:
    """How a face softens sides in a band; font units.

    white
        between two of its straight stems
    """

    band_height: float
    white: float
    recess: float
    easing: float


@remembered(_REMEMBERED)
def softening(face: Face, band: Band) -> Softening:
    """The softening of `face` in `band`, from its own white between stems."""
    white = stem_white(face, band)
    return Softening(band_height(face, band), white, RECESS * white, EASING[band] * white)


@remembered(_REMEMBERED)
def softened_sides(face: Face, glyphs: tuple[PlacedGlyph, ...], band: Band) -> Sides:
    """Both softened sides of a cluster; computed once per face and cluster."""
    how = softening(face, band)
    edges = letter_sides(face, glyphs, how.band_height)
    rows = row_heights(how.band_height)
    return Sides(
        left=-softened(-edges.left, rows, how.recess),
        right=softened(edges.right, rows, how.recess),
    )


def row_heights(height: float) -> Floats:
    """The middles of the rows of a band, from the baseline up."""
    return (np.arange(ROWS) + 0.5) / ROWS * height


def softened(edge: Floats, rows: Floats, recess: float) -> Floats:
    """A right side, as far out as it counts in each of `rows`."""
    reach = RECESS_SLOPE * np.abs(rows[:, None] - rows[None, :])
    eased = (edge[None, :] - reach).max(axis=1)
    farthest = eased.max()
    eased_off: Floats = farthest - recess * (1.0 - np.exp(-(farthest - eased) / recess))
    return eased_off

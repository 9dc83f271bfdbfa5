"""The sides of letters, softened: how far a recess counts as white.

See `gaps` for what is made of them.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, NamedTuple

import numpy as np

from ulvent.core.base.arrays import Floats
from ulvent.core.faces import Cluster, Face, PlacedGlyph
from ulvent.core.outlines import Outline

Band = Literal["capital", "x"]
BANDS: tuple[Band, ...] = ("capital", "x")

ROWS = 20
RECESS_SLOPE = 1.0
RECESS = 1.4
"""How deep a recess counts, in the white between stems."""
EASING: dict[Band, float] = {"capital": 0.5, "x": 1.2}
"""How little the rows that are nearest count more than the others, in the same."""
STEM_SHARE = 0.3
"""Stems are measured at this share of the band, where serifs do not count."""
NO_STEM_WHITE = 0.30
"""The white between stems, of the band's height, for a face without H or n."""
_REMEMBERED = 16384


class Sides(NamedTuple):
    """Softened sides of a cluster over the rows of a band, font units from its start."""

    left: Floats
    right: Floats


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


@lru_cache(_REMEMBERED)
def softening(face: Face, band: Band) -> Softening:
    """The softening of `face` in `band`, from its own white between stems."""
    metrics = face.metrics
    height = metrics.cap_height if band == "capital" else metrics.x_height
    white = _stem_white(face, "HH" if band == "capital" else "nn", height)
    if white is None:
        white = NO_STEM_WHITE * height
    return Softening(height, white, RECESS * white, EASING[band] * white)


def _stem_white(face: Face, pair: str, height: float) -> float | None:
    """The white between two stems of a face that has them, font units."""
    stem = face.shape(pair)
    if stem.missing or len(stem.clusters) != 2:
        return None
    edges = _edges(face, stem.clusters[0].glyphs, height)
    row = int(STEM_SHARE * ROWS)
    white = stem.clusters[0].advance - edges.right[row] + edges.left[row]
    return float(white) if np.isfinite(white) and white > 0.0 else None


@lru_cache(_REMEMBERED)
def softened_sides(face: Face, glyphs: tuple[PlacedGlyph, ...], band: Band) -> Sides:
    """Both softened sides of a cluster; computed once per face and cluster."""
    how = softening(face, band)
    edges = _edges(face, glyphs, how.band_height)
    rows = row_heights(how.band_height)
    return Sides(
        left=-softened(-edges.left, rows, how.recess),
        right=softened(edges.right, rows, how.recess),
    )


def row_heights(height: float) -> Floats:
    """The middles of the rows of a band, from the baseline up."""
    return (np.arange(ROWS) + 0.5) / ROWS * height


def band_of(one: Cluster, two: Cluster) -> Band:
    """The band in which two neighbours are compared."""
    return "x" if one.text.islower() and two.text.islower() else "capital"


def _edges(face: Face, glyphs: tuple[PlacedGlyph, ...], height: float) -> Sides:
    """Outermost ink in each row of the band; letters that slant are sheared upright first."""
    outline = face.cluster_outline(glyphs)
    if face.slant:
        lean = math.tan(math.radians(face.slant))
        outline = outline.transformed(np.array([[1.0, -lean, 0.0], [0.0, 1.0, 0.0]]))
    return edges_of(outline, 0.0, height)


def edges_of(outline: Outline, low: float, high: float) -> Sides:
    """Outermost ink in each row from `low` to `high`: ∞ and −∞ where a row is empty."""
    left, right = np.full(ROWS, np.inf), np.full(ROWS, -np.inf)
    step = (high - low) / ROWS
    floors = low + np.arange(ROWS) * step
    ceilings = floors + step
    for points, closed in outline.polylines:
        ends = np.roll(points, -1, axis=0) if closed else points[1:]
        starts = points if closed else points[:-1]
        (x0, y0), (x1, y1) = starts.T[:, :, None], ends.T[:, :, None]
        rise = np.where(y1 == y0, np.inf, y1 - y0)
        first = np.clip((np.where(rise > 0, floors, ceilings) - y0) / rise, 0.0, 1.0)
        last = np.clip((np.where(rise > 0, ceilings, floors) - y0) / rise, 0.0, 1.0)
        last = np.where(y1 == y0, 1.0, last)
        inside = (np.maximum(y0, y1) >= floors) & (np.minimum(y0, y1) <= ceilings)
        one, two = x0 + first * (x1 - x0), x0 + last * (x1 - x0)
        left = np.minimum(left, np.where(inside, np.minimum(one, two), np.inf).min(axis=0))
        right = np.maximum(right, np.where(inside, np.maximum(one, two), -np.inf).max(axis=0))
    if not np.isfinite(right).any() and outline:
        # All of its ink is outside the band (an underscore): its box stands for it.
        x_low, _, x_high, _ = outline.bounds()
        left[:], right[:] = x_low, x_high
    return Sides(left, right)


def softened(edge: Floats, rows: Floats, recess: float) -> Floats:
    """A right side, as far out as it counts in each of `rows`."""
    reach = RECESS_SLOPE * np.abs(rows[:, None] - rows[None, :])
    eased = (edge[None, :] - reach).max(axis=1)
    farthest = eased.max()
    eased_off: Floats = farthest - recess * (1.0 - np.exp(-(farthest - eased) / recess))
    return eased_off

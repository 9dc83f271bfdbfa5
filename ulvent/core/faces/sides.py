"""The sides of letters: their outermost ink in the rows of a band, and the white between stems."""

from __future__ import annotations

import math
from typing import Literal, NamedTuple

import numpy as np

from ulvent.core.base.arrays import Floats
from ulvent.core.base.remembered import remembered
from ulvent.core.faces.face import Cluster, Face, PlacedGlyph
from ulvent.core.outlines import Outline

Band = Literal["capital", "x"]

ROWS = 20
STEM_SHARE = 0.3
"""Stems are measured at this share of the band, where serifs do not count."""
NO_STEM_WHITE = 0.30
"""The white between stems, of the band's height, for a face without H or n."""
_REMEMBERED = 256


class Sides(NamedTuple):
    """Sides of a cluster over the rows of a band, font units from its start."""

    left: Floats
    right: Floats


def band_height(face: Face, band: Band) -> float:
    """Height of a band, font units."""
    return face.metrics.cap_height if band == "capital" else face.metrics.x_height


@remembered(_REMEMBERED)
def stem_white(face: Face, band: Band) -> float:
    """The white between two straight stems of a face, font units; a usual one without stems."""
    height = band_height(face, band)
    stem = face.shape("HH" if band == "capital" else "nn")
    if not stem.missing and len(stem.clusters) == 2:
        edges = letter_sides(face, stem.clusters[0].glyphs, height)
        row = int(STEM_SHARE * ROWS)
        white = float(stem.clusters[0].advance - edges.right[row] + edges.left[row])
        if np.isfinite(white) and white > 0.0:
            return white
    return NO_STEM_WHITE * height


def band_of(one: Cluster, two: Cluster) -> Band:
    """The band in which two neighbours are compared."""
    return "x" if one.text.islower() and two.text.islower() else "capital"


def letter_sides(face: Face, glyphs: tuple[PlacedGlyph, ...], height: float) -> Sides:
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

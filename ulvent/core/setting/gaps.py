"""The gap between two neighbouring letters: one figure, in mm, for the white between them.

The gap is a harmonic mean of the white between the letters' softened sides over
the band of their height, as they stand on the curve. Softened means that a recess
counts only where it opens at a slope, and never deeper than a typical gap. For
two straight stems the gap is their distance.

For a side, over rows y of the band, with R(y) the outermost ink (−∞ where there is none):

    E(y) = max over rows y′ of R(y′) − k·|y − y′|                k = 0.8
    X    = max E,   P(y) = X − c·(1 − exp(−(X − E(y))/c))        c = g

and for the white w(y) between two sides

    G = 1 / mean[1 / (w + e)] − e                                e = g/5

g is the face's own white between two straight stems. `docs/even-gaps.md` says
how the constants were found and how well the measure does.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from ulvent.core.curves import Frames
from ulvent.core.faces import Cluster, Face, PlacedGlyph

Floats = NDArray[np.float64]
Band = Literal["capital", "x"]

ROWS = 20
RECESS_SLOPE = 0.8
STEM_SHARE = 0.3
"""Stems are measured at this share of the band, where serifs do not count."""
NO_STEM_WHITE = (0.30, 0.06)
"""c and e, of the band's height, for a face without H or n."""
DEEPEST_OVERLAP = 0.6
"""Letters that overlap count as overlapping by at most this much of e."""
_STRAIGHT = 1e-12
_REMEMBERED = 16384


class Sides(NamedTuple):
    """Softened sides of a cluster over the rows of a band, font units from its start."""

    left: Floats
    right: Floats


@dataclass(frozen=True)
class Softening:
    """How a face softens sides in a band; font units."""

    band_height: float
    recess: float
    easing: float


@dataclass(frozen=True)
class Gaps:
    """Gaps after each cluster but the last, mm, and what their designer gave them.

    `nan` where the guide is too tight for the letters to be measured on it.
    """

    found: Floats
    designed: Floats


@lru_cache(_REMEMBERED)
def softening(face: Face, band: Band) -> Softening:
    """The softening of `face` in `band`, from its own white between stems."""
    metrics = face.metrics
    height = metrics.cap_height if band == "capital" else metrics.x_height
    stem = face.shape("HH" if band == "capital" else "nn")
    shares = NO_STEM_WHITE
    fallback = Softening(height, shares[0] * height, shares[1] * height)
    if stem.missing or len(stem.clusters) != 2:
        return fallback
    edges = _edges(face, stem.clusters[0].glyphs, height)
    row = int(STEM_SHARE * ROWS)
    white = stem.clusters[0].advance - edges.right[row] + edges.left[row]
    if not (np.isfinite(white) and white > 0.0):
        return fallback
    return Softening(height, float(white), float(white) / 5.0)


@lru_cache(_REMEMBERED)
def softened_sides(face: Face, glyphs: tuple[PlacedGlyph, ...], band: Band) -> Sides:
    """Both softened sides of a cluster; computed once per face and cluster."""
    how = softening(face, band)
    edges = _edges(face, glyphs, how.band_height)
    return Sides(
        left=-_softened(-edges.left, how),
        right=_softened(edges.right, how),
    )


def row_heights(height: float) -> Floats:
    """The middles of the rows of a band, from the baseline up."""
    return (np.arange(ROWS) + 0.5) / ROWS * height


def measure_gaps(
    face: Face,
    clusters: tuple[Cluster, ...],
    scales: Floats,
    straight_starts: Floats,
    middles: Floats,
    frames: Frames,
) -> Gaps:
    """The gap after each cluster with ink, as the clusters stand on their baseline.

    Parameters
    ----------
    clusters
        with ink, in the order in which they stand
    scales
        (n,) mm per font unit
    straight_starts
        (n,) where each would start on a straight line as its designer spaced it, mm
    middles, frames
        (n,) stations of the middles of their advances on the baseline, and its frames there
    """
    count = max(len(clusters) - 1, 0)
    found, designed = np.full((2, count), np.nan)
    bands = [_band(one, two) for one, two in zip(clusters, clusters[1:], strict=False)]
    for band in ("capital", "x"):
        pairs = np.array([index for index in range(count) if bands[index] == band], dtype=int)
        if not len(pairs):
            continue
        how = softening(face, band)
        one, two = scales[pairs, None], scales[pairs + 1, None]
        # Where letters differ in size, the band is that of the smaller one.
        least = np.minimum(one, two)
        rows = row_heights(how.band_height)
        easing = how.easing * least[:, 0]
        halves = np.array([cluster.advance for cluster in clusters]) * scales / 2.0
        sides = [softened_sides(face, cluster.glyphs, band) for cluster in clusters]
        rights = np.stack([sides[i].right for i in pairs]) * one
        lefts = np.stack([sides[i + 1].left for i in pairs]) * two
        apart = straight_starts[pairs + 1] - straight_starts[pairs]
        common = rows * least
        straight = (
            _interpolated(common, rows * two, lefts) - _interpolated(common, rows * one, rights)
            if (one != two).any()
            else lefts - rights
        )
        designed[pairs] = _gap(apart[:, None] + straight, easing)
        ends = _on_curve(rights - halves[pairs, None], rows * one, common, frames, middles, pairs)
        starts = _on_curve(
            lefts - halves[pairs + 1, None], rows * two, common, frames, middles, pairs + 1
        )
        white = (starts.stations - ends.stations) - common * (starts.turnings - ends.turnings)
        found[pairs] = _gap(white, easing)
    return Gaps(found, designed)


class _RowPoints(NamedTuple):
    """Where the sides of letters cross rows of height: stations and turnings, (n, ROWS)."""

    stations: Floats
    turnings: Floats


def _on_curve(
    x: Floats, rows: Floats, at: Floats, frames: Frames, middles: Floats, which: Floats
) -> _RowPoints:
    """Sides given in the letters' own frames, by the circle of curvature at their middles.

    `x` is (n, ROWS), from the middle, at the heights `rows`; they are asked for at the
    heights `at`, (n, ROWS) both. With κ positive where the guide bulges toward
    the letters' heads, a point goes to

        s = atan2(κx, 1 + κy)/κ,   height = (hypot(κx, 1 + κy) − 1)/κ
    """
    bulge = -frames.curvatures[which][:, None]
    bent = np.where(np.abs(bulge) < _STRAIGHT, np.nan, bulge)
    below = 1.0 + bulge * rows
    with np.errstate(invalid="ignore"):
        stations = np.where(np.isnan(bent), x, np.arctan2(bent * x, below) / bent)
        heights = np.where(np.isnan(bent), rows, (np.hypot(bent * x, below) - 1.0) / bent)
    stations = np.where((below <= 0.0).any(axis=1)[:, None], np.nan, stations)
    at_rows = _interpolated(at, heights, stations)
    turnings = frames.turnings[which][:, None] + frames.curvatures[which][:, None] * at_rows
    return _RowPoints(middles[which][:, None] + at_rows, turnings)


def _interpolated(at: Floats, x: Floats, y: Floats) -> Floats:
    """Linear interpolation at `at` in every row of rising `x` and their `y`, (n, k) all.

    Beyond the ends the end values hold, as with `numpy.interp`, which takes one row only.
    """
    after = (x[:, None, :] <= at[:, :, None]).sum(axis=2).clip(1, x.shape[1] - 1)
    x0, x1 = (np.take_along_axis(x, index, axis=1) for index in (after - 1, after))
    y0, y1 = (np.take_along_axis(y, index, axis=1) for index in (after - 1, after))
    with np.errstate(invalid="ignore", divide="ignore"):
        share = np.minimum(np.maximum((at - x0) / (x1 - x0), 0.0), 1.0)
    interpolated: Floats = y0 + share * (y1 - y0)
    return interpolated


def _gap(white: Floats, easing: Floats) -> Floats:
    """The harmonic mean of the white over the rows, (n, ROWS), eased by (n,), → (n,)."""
    eased = np.maximum(white, -DEEPEST_OVERLAP * easing[:, None]) + easing[:, None]
    gap: Floats = 1.0 / (1.0 / eased).mean(axis=1) - easing
    return gap


def _band(one: Cluster, two: Cluster) -> Band:
    return "x" if one.text.islower() and two.text.islower() else "capital"


def _edges(face: Face, glyphs: tuple[PlacedGlyph, ...], height: float) -> Sides:
    """Outermost ink in each row of the band: ∞ and −∞ where a row is empty."""
    left, right = np.full(ROWS, np.inf), np.full(ROWS, -np.inf)
    floors = np.arange(ROWS) / ROWS * height
    ceilings = floors + height / ROWS
    outline = face.cluster_outline(glyphs)
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
        low = np.where(inside, np.minimum(one, two), np.inf)
        high = np.where(inside, np.maximum(one, two), -np.inf)
        left = np.minimum(left, low.min(axis=0))
        right = np.maximum(right, high.max(axis=0))
    if not np.isfinite(right).any() and outline:
        # All of its ink is outside the band (an underscore): its box stands for it.
        x_low, _, x_high, _ = outline.bounds()
        left[:], right[:] = x_low, x_high
    return Sides(left, right)


def _softened(edge: Floats, how: Softening) -> Floats:
    rows = row_heights(how.band_height)
    reach = RECESS_SLOPE * np.abs(rows[:, None] - rows[None, :])
    eased = (edge[None, :] - reach).max(axis=1)
    farthest = eased.max()
    softened: Floats = farthest - how.recess * (1.0 - np.exp(-(farthest - eased) / how.recess))
    return softened

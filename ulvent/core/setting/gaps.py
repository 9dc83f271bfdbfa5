"""The gap between two neighbouring letters: one figure, in mm, for the white between them.

The gap is a harmonic mean of the white between the letters' softened sides over
the band of their height, as they stand on the curve. Softened means that a recess
counts only where it opens at a slope, and the less the deeper it is: once for each
side by itself, and once for both together, so that letters that lie in each other,
as A and V do, are not taken to be far apart. For two straight stems the gap is their
distance.

For a side, over rows y of the band, with R(y) the outermost ink (−∞ where there is none):

    E(y) = max over rows y′ of R(y′) − k·|y − y′|                k = 1
    X    = max E,   P(y) = X − c·(1 − exp(−(X − E(y))/c))        c = 1.4 g

for the white w(y) between two such sides

    m    = min w,   v(y) = m + c·(1 − exp(−(w(y) − m)/c))

and for the gap

    G = 1 / mean[1 / (v + e)] − e                   e = g/2, between small letters 1.2 g

g is the face's own white between two straight stems. `docs/even-gaps.md` says
how the constants were found and how well the measure does.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from ulvent.core.curves import Frames
from ulvent.core.faces import Cluster, Face, Outline, PlacedGlyph

Floats = NDArray[np.float64]
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
    """How a face softens sides in a band; font units.

    white
        between two of its straight stems
    """

    band_height: float
    white: float
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
        left=-_softened(-edges.left, rows, how.recess),
        right=_softened(edges.right, rows, how.recess),
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
    bent: bool = False,
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
    bent
        whether the letters follow the curve
    """
    meter = GapMeter(face, clusters, scales, bent)
    return Gaps(meter.on_curve(middles, frames)[0], meter.on_straight(straight_starts))


def gap_as_they_stand(
    face: Face,
    texts: tuple[Cluster, Cluster],
    outlines: tuple[Outline, Outline],
    scale: float,
    middles: Floats,
    frames: Frames,
    upright: bool,
) -> float:
    """The gap of two letters that do not stand on their baseline as letters do on a line, mm.

    Parameters
    ----------
    outlines
        as they stand, in the frames of the baseline at their middles, mm
    scale
        mm per font unit, of the smaller one
    middles, frames
        (2,) of both
    upright
        whether their feet are on the baseline, so that the band is that of other letters; it is
        what both reach across otherwise, as with letters that are stacked
    """
    how = softening(face, band_of(*texts))
    low, high = 0.0, how.band_height * scale
    if not upright:
        reaches = [outline.bounds() for outline in outlines]
        low, high = max(box[1] for box in reaches), min(box[3] for box in reaches)
        if high <= low:
            return math.nan
    rows = low + (np.arange(ROWS) + 0.5) / ROWS * (high - low)
    recess = how.recess * scale
    right = _softened(_edges_of(outlines[0], low, high).right, rows, recess)
    left = -_softened(-_edges_of(outlines[1], low, high).left, rows, recess)
    pair = _Pairs(
        which=np.array([0]),
        recess=np.array([[recess]]),
        easing=np.array([how.easing * scale]),
        one_rows=rows[None],
        two_rows=rows[None],
        rows=rows[None],
        rights=right[None],
        lefts=left[None],
        bent=False,
    )
    return float(pair.on_curve(middles, frames, np.zeros(2))[0][0])


class GapMeter:
    """Measures the gaps of one row of letters, wherever on a curve they are put.

    What does not depend on where they stand is worked out once.
    """

    def __init__(
        self, face: Face, clusters: tuple[Cluster, ...], scales: Floats, bent: bool = False
    ) -> None:
        self._count = max(len(clusters) - 1, 0)
        self._halves = np.array([cluster.advance for cluster in clusters]) * scales / 2.0
        bands = [band_of(one, two) for one, two in zip(clusters, clusters[1:], strict=False)]
        self._pairs = [
            _Pairs.of(face, clusters, scales, band, bent) for band in BANDS if band in bands
        ]

    def on_straight(self, starts: Floats) -> Floats:
        """(n − 1,) gaps of letters that begin at `starts` on a straight line, mm."""
        found = np.full(self._count, np.nan)
        for pairs in self._pairs:
            found[pairs.which] = pairs.on_straight(starts)
        return found

    def on_curve(self, middles: Floats, frames: Frames) -> tuple[Floats, Floats]:
        """(n − 1,) gaps, and how fast each opens as its second letter moves on."""
        found, slopes = np.full((2, self._count), np.nan)
        for pairs in self._pairs:
            found[pairs.which], slopes[pairs.which] = pairs.on_curve(middles, frames, self._halves)
        return found, slopes


@dataclass(frozen=True, eq=False)
class _Pairs:
    """The pairs of a row that are measured in one band. Arrays run over them.

    which
        the first letter of each
    rows
        heights of the band's rows on first and second letter, and those that are compared
    rights, lefts
        softened sides from the letters' own starts, (n, ROWS)
    """

    which: NDArray[np.int_]
    recess: Floats
    easing: Floats
    one_rows: Floats
    two_rows: Floats
    rows: Floats
    rights: Floats
    lefts: Floats
    bent: bool

    @classmethod
    def of(
        cls, face: Face, clusters: tuple[Cluster, ...], scales: Floats, band: Band, bent: bool
    ) -> _Pairs:
        which = np.array(
            [
                index
                for index in range(len(clusters) - 1)
                if band_of(clusters[index], clusters[index + 1]) == band
            ],
            dtype=int,
        )
        how = softening(face, band)
        one, two = scales[which, None], scales[which + 1, None]
        # Where letters differ in size, the band is that of the smaller one.
        least = np.minimum(one, two)
        rows = row_heights(how.band_height)
        sides = [softened_sides(face, cluster.glyphs, band) for cluster in clusters]
        return cls(
            which=which,
            recess=how.recess * least,
            easing=how.easing * least[:, 0],
            one_rows=rows * one,
            two_rows=rows * two,
            rows=rows * least,
            rights=np.stack([sides[index].right for index in which]) * one,
            lefts=np.stack([sides[index + 1].left for index in which]) * two,
            bent=bent,
        )

    def on_straight(self, starts: Floats) -> Floats:
        apart = starts[self.which + 1] - starts[self.which]
        white = self.lefts - self.rights
        if (self.one_rows != self.two_rows).any():
            white = _interpolated(self.rows, self.two_rows, self.lefts) - _interpolated(
                self.rows, self.one_rows, self.rights
            )
        return _gap(self._softened(apart[:, None] + white), self.easing)

    def _softened(self, white: Floats) -> Floats:
        """White that is counted the less the more it is than in the nearest row."""
        least = white.min(axis=1, keepdims=True)
        softened: Floats = least - self.recess * np.expm1(-(white - least) / self.recess)
        return softened

    def on_curve(self, middles: Floats, frames: Frames, halves: Floats) -> tuple[Floats, Floats]:
        # Both sides of all pairs together: what takes time is the number of steps, not their size.
        first, second = self.which, self.which + 1
        count, letters = len(first), np.concatenate([first, second])
        sides = np.concatenate([self.rights, self.lefts]) - halves[letters, None]
        found = _on_curve(
            sides,
            np.concatenate([self.one_rows, self.two_rows]),
            np.concatenate([self.rows, self.rows]),
            frames,
            middles,
            letters,
            self.bent,
        )
        apart = found.stations[count:] - found.stations[:count]
        turned = found.turnings[count:] - found.turnings[:count]
        white = apart - self.rows * turned
        softened = self._softened(white)
        # As the second letter moves on, rows open by more the higher they are, and what is
        # softened follows its nearest row.
        opening = 1.0 - self.rows * frames.curvatures[second][:, None]
        nearest = np.nan_to_num(white, nan=np.inf).argmin(axis=1)
        at_nearest = opening[np.arange(count), nearest][:, None]
        kept = np.exp(-(white - white.min(axis=1, keepdims=True)) / self.recess)
        rates = at_nearest + kept * (opening - at_nearest)
        return _gap(softened, self.easing), _slope(softened, rates, self.easing)


class _RowPoints(NamedTuple):
    """Where the sides of letters cross rows of height: stations and turnings, (n, ROWS)."""

    stations: Floats
    turnings: Floats


def _on_curve(
    x: Floats,
    rows: Floats,
    at: Floats,
    frames: Frames,
    middles: Floats,
    which: NDArray[np.int_],
    bent: bool,
) -> _RowPoints:
    """Sides given in the letters' own frames, by the circle of curvature at their middles.

    `x` is (n, ROWS), from the middle, at the heights `rows`; they are asked for at the
    heights `at`, (n, ROWS) both. With κ positive where the guide bulges toward
    the letters' heads, a point goes to

        s = atan2(κx, 1 + κy)/κ,   height = (hypot(κx, 1 + κy) − 1)/κ

    Bent letters have their points at station x and height y already.
    """
    bulge = -frames.curvatures[which][:, None]
    curved = np.where((np.abs(bulge) < _STRAIGHT) | bent, np.nan, bulge)
    below = 1.0 + bulge * rows
    with np.errstate(invalid="ignore"):
        stations = np.where(np.isnan(curved), x, np.arctan2(curved * x, below) / curved)
        heights = np.where(np.isnan(curved), rows, (np.hypot(curved * x, below) - 1.0) / curved)
    too_tight = np.less_equal(below, 0.0).any(axis=1, keepdims=True)
    stations = np.where(too_tight, np.nan, stations)
    at_rows = _interpolated(at, heights, stations)
    turnings = frames.turnings[which][:, None] + frames.curvatures[which][:, None] * at_rows
    return _RowPoints(middles[which][:, None] + at_rows, turnings)


def _interpolated(at: Floats, x: Floats, y: Floats) -> Floats:
    """Linear interpolation at `at` in every row of rising `x` and their `y`, (n, k) all.

    Beyond the ends the end values hold, as with `numpy.interp`, which takes one row only.
    """
    count, width = x.shape
    after = (x[:, None, :] <= at[:, :, None]).sum(axis=2).clip(1, width - 1)
    after += np.arange(count)[:, None] * width
    every_x, every_y = x.ravel(), y.ravel()
    x0, x1 = every_x[after - 1], every_x[after]
    y0, y1 = every_y[after - 1], every_y[after]
    with np.errstate(invalid="ignore", divide="ignore"):
        share = np.minimum(np.maximum((at - x0) / (x1 - x0), 0.0), 1.0)
    interpolated: Floats = y0 + share * (y1 - y0)
    return interpolated


def _gap(white: Floats, easing: Floats) -> Floats:
    """The harmonic mean of the white over the rows, (n, ROWS), eased by (n,), → (n,)."""
    eased = np.maximum(white, -DEEPEST_OVERLAP * easing[:, None]) + easing[:, None]
    gap: Floats = 1.0 / (1.0 / eased).mean(axis=1) - easing
    return gap


def _slope(white: Floats, opening: Floats, easing: Floats) -> Floats:
    """dG/ds where the white of each row opens by `opening` a mm: (n, ROWS) → (n,)."""
    floor = -DEEPEST_OVERLAP * easing[:, None]
    eased = np.maximum(white, floor) + easing[:, None]
    rate = np.where(white > floor, opening, 0.0)
    slope: Floats = (rate / eased**2).mean(axis=1) / (1.0 / eased).mean(axis=1) ** 2
    return slope


def band_of(one: Cluster, two: Cluster) -> Band:
    return "x" if one.text.islower() and two.text.islower() else "capital"


def _edges(face: Face, glyphs: tuple[PlacedGlyph, ...], height: float) -> Sides:
    """Outermost ink in each row of the band; letters that slant are sheared upright first."""
    outline = face.cluster_outline(glyphs)
    if face.slant:
        lean = math.tan(math.radians(face.slant))
        outline = outline.transformed(np.array([[1.0, -lean, 0.0], [0.0, 1.0, 0.0]]))
    return _edges_of(outline, 0.0, height)


def _edges_of(outline: Outline, low: float, high: float) -> Sides:
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


def _softened(edge: Floats, rows: Floats, recess: float) -> Floats:
    reach = RECESS_SLOPE * np.abs(rows[:, None] - rows[None, :])
    eased = (edge[None, :] - reach).max(axis=1)
    farthest = eased.max()
    softened: Floats = farthest - recess * (1.0 - np.exp(-(farthest - eased) / recess))
    return softened

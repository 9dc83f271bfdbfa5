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
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ulvent.core.curves import Frames
from ulvent.core.faces import Cluster, Face, Outline
from ulvent.core.setting.sides import (
    BANDS,
    ROWS,
    Band,
    band_of,
    edges_of,
    row_heights,
    softened,
    softened_sides,
    softening,
)

Floats = NDArray[np.float64]
DEEPEST_OVERLAP = 0.6
"""Letters that overlap count as overlapping by at most this much of e."""
_STRAIGHT = 1e-12
_ROWS_REMEMBERED = 128


@dataclass(frozen=True)
class Gaps:
    """Gaps after each cluster but the last, mm, and what their designer gave them.

    `nan` where the guide is too tight for the letters to be measured on it.
    """

    found: Floats
    designed: Floats


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
    meter = gap_meter(face, clusters, scales, bent)
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
    right = softened(edges_of(outlines[0], low, high).right, rows, recess)
    left = -softened(-edges_of(outlines[1], low, high).left, rows, recess)
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


def gap_meter(
    face: Face, clusters: tuple[Cluster, ...], scales: Floats, bent: bool = False
) -> GapMeter:
    """The meter of a row of letters; remembered, since a row that is pulled stays what it is."""
    return _gap_meter(face, clusters, scales.tobytes(), bent)


@lru_cache(_ROWS_REMEMBERED)
def _gap_meter(
    face: Face, clusters: tuple[Cluster, ...], scale_bytes: bytes, bent: bool
) -> GapMeter:
    return GapMeter(face, clusters, np.frombuffer(scale_bytes), bent)


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
        counted: Floats = least - self.recess * np.expm1(-(white - least) / self.recess)
        return counted

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
        counted = self._softened(white)
        # As the second letter moves on, rows open by more the higher they are, and what is
        # softened follows its nearest row.
        opening = 1.0 - self.rows * frames.curvatures[second][:, None]
        nearest = np.nan_to_num(white, nan=np.inf).argmin(axis=1)
        at_nearest = opening[np.arange(count), nearest][:, None]
        kept = np.exp(-(white - white.min(axis=1, keepdims=True)) / self.recess)
        rates = at_nearest + kept * (opening - at_nearest)
        return _gap(counted, self.easing), _slope(counted, rates, self.easing)


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

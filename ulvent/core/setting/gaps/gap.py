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

import numpy as np

from ulvent.core.base.arrays import Floats, Lengths, Scales, Stations
from ulvent.core.base.remembered import remembered
from ulvent.core.curves import Frames
from ulvent.core.faces import Cluster, Face
from ulvent.core.faces.sides import ROWS, band_of, edges_of
from ulvent.core.outlines import Outline
from ulvent.core.setting.gaps.profiles import row_heights, softened, softened_sides, softening

DEEPEST_OVERLAP = 0.6
"""Letters that overlap count as overlapping by at most this much of e."""
_ROWS_REMEMBERED = 128


@dataclass(frozen=True)
class Gaps:
    """Gaps after each cluster but the last, mm, and what their designer gave them.

    `nan` where the guide is too tight for the letters to be measured on it.
    """

    found: Floats
    designed: Lengths


def measure_gaps(
    face: Face,
    clusters: tuple[Cluster, ...],
    scales: Scales,
    straight_starts: Floats,
    middles: Stations,
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
    return Gaps(meter.on_curve(middles, frames), meter.on_straight(straight_starts))


def gap_as_they_stand(
    face: Face,
    texts: tuple[Cluster, Cluster],
    outlines: tuple[Outline, Outline],
    scale: float,
    middles: Stations,
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
        recess=np.array([[recess]]),
        easing=np.array([how.easing * scale]),
        one_rows=rows[None],
        two_rows=rows[None],
        rows=rows[None],
        rights=right[None],
        lefts=left[None],
        bent=False,
    )
    return float(pair.on_curve(middles, frames, np.zeros(2))[0])


def gap_meter(
    face: Face, clusters: tuple[Cluster, ...], scales: Scales, bent: bool = False
) -> GapMeter:
    """The meter of a row of letters; remembered, since a row that is pulled stays what it is."""
    return _gap_meter(face, clusters, scales.tobytes(), bent)


@remembered(_ROWS_REMEMBERED)
def _gap_meter(
    face: Face, clusters: tuple[Cluster, ...], scale_bytes: bytes, bent: bool
) -> GapMeter:
    return GapMeter(face, clusters, np.frombuffer(scale_bytes), bent)


class GapMeter:
    """Measures the gaps of one row of letters, wherever on a curve they are put.

    What does not depend on where they stand is worked out once.
    """

    def __init__(
        self, face: Face, clusters: tuple[Cluster, ...], scales: Scales, bent: bool = False
    ) -> None:
        self._halves = np.array([cluster.advance for cluster in clusters]) * scales / 2.0
        self._pairs = _Pairs.of(face, clusters, scales, bent) if len(clusters) > 1 else None

    def on_straight(self, starts: Floats) -> Floats:
        """(n − 1,) gaps of letters that begin at `starts` on a straight line, mm."""
        return self._pairs.on_straight(starts) if self._pairs else np.empty(0)

    def on_curve(self, middles: Stations, frames: Frames) -> Floats:
        """(n − 1,) gaps of letters whose middles are at stations `middles`, with `frames` there."""
        return self._pairs.on_curve(middles, frames, self._halves) if self._pairs else np.empty(0)

    def slopes(self, middles: Stations, frames: Frames) -> Floats:
        """(n − 1,) how fast each gap opens as its second letter moves on, by and large.

        What the guide does to the letter's own turn is left out.
        """
        return self._pairs.slopes(middles, frames, self._halves) if self._pairs else np.empty(0)


@dataclass(frozen=True, eq=False)
class _Pairs:
    """The pairs of a row, each in its band. Arrays run over them, (n,) or (n, ROWS).

    one_rows, two_rows, rows
        heights of the band's rows on first and second letter, and those that are compared
    rights, lefts
        softened sides from the letters' own starts
    """

    recess: Floats
    easing: Floats
    one_rows: Floats
    two_rows: Floats
    rows: Floats
    rights: Floats
    lefts: Floats
    bent: bool

    @classmethod
    def of(cls, face: Face, clusters: tuple[Cluster, ...], scales: Scales, bent: bool) -> _Pairs:
        bands = [band_of(one, two) for one, two in zip(clusters, clusters[1:], strict=False)]
        how = [softening(face, band) for band in bands]
        rows = np.stack([row_heights(each.band_height) for each in how])
        one, two = scales[:-1, None], scales[1:, None]
        # Where letters differ in size, the band is that of the smaller one.
        least = np.minimum(one, two)
        rights, lefts = (
            np.stack([
                getattr(softened_sides(face, cluster.glyphs, band), side)
                for cluster, band in zip(letters, bands, strict=True)
            ])
            for letters, side in ((clusters[:-1], "right"), (clusters[1:], "left"))
        )  # fmt: skip
        return cls(
            recess=np.array([[each.recess] for each in how]) * least,
            easing=np.array([each.easing for each in how]) * least[:, 0],
            one_rows=rows * one,
            two_rows=rows * two,
            rows=rows * least,
            rights=rights * one,
            lefts=lefts * two,
            bent=bent,
        )

    def on_straight(self, starts: Floats) -> Floats:
        white = self.lefts - self.rights
        if (self.one_rows != self.two_rows).any():
            white = _interpolated(self.rows, self.two_rows, self.lefts) - _interpolated(
                self.rows, self.one_rows, self.rights
            )
        white += np.diff(starts)[:, None]
        return _gap(self._counted(white, white.min(axis=1, keepdims=True)), self.easing)

    def on_curve(self, middles: Stations, frames: Frames, halves: Floats) -> Floats:
        white = self._white(middles, frames, halves)
        return _gap(self._counted(white, white.min(axis=1, keepdims=True)), self.easing)

    def slopes(self, middles: Stations, frames: Frames, halves: Floats) -> Floats:
        white = self._white(middles, frames, halves)
        least = white.min(axis=1, keepdims=True)
        # As the second letter moves on, rows open by more the higher they are, and what is
        # softened follows its nearest row.
        opening = 1.0 - self.rows * frames.curvatures[1:, None]
        nearest = np.nan_to_num(white, nan=np.inf).argmin(axis=1)
        at_nearest = opening[np.arange(len(white)), nearest][:, None]
        kept = np.exp((least - white) / self.recess)
        rates = at_nearest + kept * (opening - at_nearest)
        return _slope(self._counted(white, least), rates, self.easing)

    def _counted(self, white: Floats, least: Floats) -> Floats:
        """White that is counted the less the more it is than in the nearest row."""
        counted: Floats = least - self.recess * np.expm1((least - white) / self.recess)
        return counted

    def _white(self, middles: Stations, frames: Frames, halves: Floats) -> Floats:
        """The white of each pair in its rows, as the letters stand."""
        # Both sides of all pairs together: what takes time is the number of steps, not their size.
        count, halves = len(self.rows), halves[:, None]
        rows = np.concatenate([self.one_rows, self.two_rows])
        at = np.concatenate([self.rows, self.rows])
        letters = np.concatenate([np.arange(count), np.arange(count) + 1])
        bends = frames.curvatures[letters][:, None]
        x = np.concatenate([self.rights - halves[:-1], self.lefts - halves[1:]])
        found = _straightened(x, rows, at, -bends, self.bent)
        # From each letter's own middle to its side, and by how much the guide turns meanwhile.
        own = found[count:] - found[:count]
        turned = (bends * found)[count:] - (bends * found)[:count]
        turned += np.diff(frames.turnings)[:, None]
        white: Floats = np.diff(middles)[:, None] + own - self.rows * turned
        return white


def _straightened(x: Floats, rows: Floats, at: Floats, bulge: Floats, bent: bool) -> Floats:
    """Stations, from the letters' middles, of sides where they cross heights, (n, ROWS).

    Sides are given in the letters' own frames: `x` from the middle at the heights `rows`. They
    are asked for at the heights `at`. Under one letter the guide is taken for its circle of
    curvature. With κ, the `bulge` (n, 1), positive where the guide bulges toward the letters'
    heads, a point goes to

        s = atan2(κx, 1 + κy)/κ,   height = (hypot(κx, 1 + κy) − 1)/κ

    Bent letters have their points at station x and height y already.
    """
    if bent or not bulge.any():
        return x if rows is at or (rows == at).all() else _interpolated(at, rows, x)
    across, below = bulge * x, 1.0 + bulge * rows
    stations = np.arctan2(across, below) / np.where(bulge == 0.0, 1.0, bulge)
    # The height without the difference of two like figures, so that κ may be nil.
    heights = (across * x + rows * (1.0 + below)) / (1.0 + np.hypot(across, below))
    straight = bulge[:, 0] == 0.0
    stations[straight] = x[straight]
    stations[below.min(axis=1) <= 0.0] = np.nan
    return _interpolated(at, heights, stations)


def _interpolated(at: Floats, x: Floats, y: Floats) -> Floats:
    """Linear interpolation at `at` in every row of rising `x` and their `y`, (n, k) all.

    Beyond the ends the end values hold, as with `numpy.interp`, which takes one row only: rows
    are laid one after the other, each with room on both sides.
    """
    count, width = x.shape
    low, high = min(x.min(), at.min()) - 1.0, max(x.max(), at.max()) + 1.0
    shifts = np.arange(count)[:, None] * (high - low)
    every_x, every_y = np.empty((2, count, width + 2))
    every_x[:, 1:-1], every_x[:, :1], every_x[:, -1:] = x + shifts, low + shifts, high + shifts
    every_y[:, 1:-1], every_y[:, 0], every_y[:, -1] = y, y[:, 0], y[:, -1]
    found: Floats = np.interp((at + shifts).ravel(), every_x.ravel(), every_y.ravel())
    return found.reshape(at.shape)


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

"""Setting a lettering on a curve: where every letter stands.

A cluster of advance a whose start is at s along the baseline curve has its middle
(s + a/2) on that curve, turned to the tangent there: the rule of SVG 2 for text on
a path. The baseline curve is the parallel of the guide at the distance that touch
line and standoff give; stations are carried over from the guide, advances are
measured on the baseline curve.

On a closed guide letters pass the seam as if it were not there, for one lap. On an
open guide letters beyond its ends are placed on its straight continuation, so that
they can be shown, and marked as having no room.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from itertools import compress, groupby

import numpy as np
from numpy.typing import NDArray

from ulvent.core.curves import Curve, Frames, Parallel
from ulvent.core.faces import Cluster, Face, MissingCharacter, Outline
from ulvent.core.piece import Lettering
from ulvent.core.setting.corners import corner_zones, pushed
from ulvent.core.setting.gaps import Gaps, measure_gaps
from ulvent.core.setting.touch import touch_height
from ulvent.core.tolerances import JOINT

Floats = NDArray[np.float64]

_SHARE_BEFORE = {"start": 0.0, "centre": 0.5, "end": 1.0}


@dataclass(frozen=True, eq=False)
class Setting:
    """A lettering as it stands. Arrays run over the clusters with ink, as they are read.

    scale
        mm per font unit
    middles
        (n,) stations of the middles on the baseline curve, in reading direction
    frames
        of the baseline curve at `middles`
    advances
        (n,) mm
    places
        (n,) how many clusters, inkless ones included, stand before each
    starts
        (n,) distance of each cluster's start from the lettering's start, mm, as shaped
    pushes
        (n,) how far each was pushed along the baseline to keep off a corner, mm
    has_room
        (n,) whether the whole advance lies on the guide, within its lap
    drawn
        (n,) whether the middle lies on the guide, within its lap
    """

    lettering: Lettering
    face: Face
    guide: Curve
    baseline: Parallel
    scale: float
    clusters: tuple[Cluster, ...]
    missing: tuple[MissingCharacter, ...]
    length: float
    start: float
    places: Floats
    starts: Floats
    pushes: Floats
    advances: Floats
    middles: Floats
    frames: Frames
    has_room: NDArray[np.bool_]
    drawn: NDArray[np.bool_]

    @property
    def overhang(self) -> float:
        """How much of the lettering has no guide under it, mm; 0 where all of it fits."""
        if self.baseline.closed:
            return max(0.0, self.length - self.baseline.length)
        before = max(0.0, -self.start)
        after = max(0.0, self.start + self.length - self.baseline.length)
        return min(before, self.length) + min(after, self.length)

    @property
    def room(self) -> float:
        """What is left on the baseline curve, mm; negative by what overflows."""
        overhang = self.overhang
        return -overhang if overhang > JOINT else max(0.0, self.baseline.length - self.length)

    @property
    def stations(self) -> Floats:
        """(n,) stations of the middles on the baseline curve, in the guide's direction, mm."""
        along = self.middles
        if self.lettering.reading == "against":
            along = self.baseline.length - along
        return np.mod(along, self.baseline.length) if self.baseline.closed else along

    @property
    def feet(self) -> Floats:
        """(n,) stations on the guide below or above the middles, in the guide's direction, mm."""
        feet = self.baseline.foot(self.middles)
        if self.lettering.reading == "against":
            feet = self.guide.length - feet
        return np.mod(feet, self.guide.length) if self.guide.closed else feet

    @property
    def angles(self) -> Floats:
        """(n,) reading directions of the letters, degrees."""
        return np.degrees(np.arctan2(self.frames.tangents[:, 1], self.frames.tangents[:, 0]))

    @cached_property
    def matrices(self) -> Floats:
        """(n, 2, 3) from each cluster's outline, font units, to the piece, mm."""
        tangents, normals = self.frames.tangents, self.frames.normals
        origins = self.frames.points - tangents * (self.advances / 2.0)[:, None]
        return np.stack([tangents * self.scale, normals * self.scale, origins], axis=2)

    @cached_property
    def gaps(self) -> Gaps:
        """The gap after each cluster but the last, as it stands and as it was designed."""
        designed = self.starts - self.lettering.tracking * self.places
        gaps = measure_gaps(
            self.face, self.clusters, self.scale, designed, self.middles, self.frames
        )
        # Between letters on two sides of a corner there is no gap to be judged.
        found = np.where(np.diff(self.pushes) == 0.0, gaps.found, np.nan)
        return Gaps(found, gaps.designed + self.lettering.tracking * np.diff(self.places))

    def outline(self, index: int) -> Outline:
        """The outline of a cluster in its own frame, font units."""
        return self.face.cluster_outline(self.clusters[index].glyphs)

    def placed_outline(self, index: int) -> Outline:
        """The outline of a cluster where it stands, mm."""
        return self.outline(index).transformed(self.matrices[index])

    def reach(self) -> tuple[float, float, float, float] | None:
        """A box that holds all letters, from their own turned boxes: quick, and a little large.

        Least x, least y, greatest x, greatest y, mm; nothing where no letter has ink.
        """
        if not self.clusters:
            return None
        boxes = np.array([self.outline(index).bounds() for index in range(len(self.clusters))])
        corners = boxes[:, [[0, 1], [0, 3], [2, 1], [2, 3]]]
        placed = corners @ self.matrices[:, :, :2].transpose(0, 2, 1) + self.matrices[:, None, :, 2]
        (x0, y0), (x1, y1) = placed.min(axis=(0, 1)), placed.max(axis=(0, 1))
        return float(x0), float(y0), float(x1), float(y1)

    def letters_without_room(self) -> list[str]:
        """The clusters whose advance is not wholly on the guide, as they are read."""
        return [
            cluster.text
            for cluster, fits in zip(self.clusters, self.has_room, strict=True)
            if not fits
        ]

    def words_without_room(self) -> list[str]:
        """The same letters as the stretches of words that they are."""
        stretches: list[str] = []
        by_room = zip(self.has_room, self.clusters, strict=True)
        for fits, members in groupby(by_room, key=lambda pair: bool(pair[0])):
            if not fits:
                places = [(c.place, c.place + len(c.text)) for _, c in members]
                first, last = min(place[0] for place in places), max(place[1] for place in places)
                stretches.append(self.lettering.text[first:last])
        return stretches


def set_lettering(
    lettering: Lettering, guide: Curve, face: Face, keep_off: bool = False
) -> Setting:
    """Place every letter of `lettering` on `guide`; with `keep_off`, none across a corner.

    Raises
    ------
    CurveError
        Where the guide bends too tightly for the touch line and standoff.
    """
    scale = lettering.height / face.metrics.cap_height
    shaped = face.shape(lettering.text)
    advances = np.array([cluster.advance for cluster in shaped.clusters]) * scale
    steps = advances + lettering.tracking
    starts = np.concatenate([[0.0], np.cumsum(steps)])[: len(advances)]
    length = float(starts[-1] + advances[-1]) if len(advances) else 0.0

    baseline = baseline_curve(lettering, guide, face)
    before = _SHARE_BEFORE[lettering.align] * length
    anchor = float(baseline.carry(np.array([_reading_station(lettering, guide)]))[0])
    start = anchor - before
    inked = np.array([bool(face.cluster_outline(c.glyphs)) for c in shaped.clusters], dtype=bool)
    shifts = np.zeros(len(advances))
    if keep_off:
        zones = corner_zones(baseline.base, baseline, lettering.height)
        lap = baseline.length if baseline.closed else None
        begins = start + starts
        shifts = pushed(begins, begins + advances, inked, zones, lap, anchor)
    if len(shifts):
        start, length = start + float(shifts[0]), length + float(shifts[-1] - shifts[0])
    places = np.flatnonzero(inked).astype(float)
    begins = anchor - before + (starts + shifts)[inked]
    starts, advances = starts[inked], advances[inked]
    ends, middles = begins + advances, begins + advances / 2.0
    window = _window(lettering, baseline, anchor)
    return Setting(
        lettering=lettering,
        face=face,
        guide=guide,
        baseline=baseline,
        scale=scale,
        clusters=tuple(compress(shaped.clusters, inked)),
        missing=shaped.missing,
        length=length,
        start=start,
        places=places,
        starts=starts,
        pushes=shifts[inked],
        advances=advances,
        middles=middles,
        frames=baseline.frames(middles),
        has_room=(begins >= window[0] - JOINT) & (ends <= window[1] + JOINT),
        drawn=(middles >= window[0] - JOINT) & (middles <= window[1] + JOINT),
    )


def baseline_curve(lettering: Lettering, guide: Curve, face: Face) -> Parallel:
    """The line on which the feet of the letters stand, in reading direction."""
    scale = lettering.height / face.metrics.cap_height
    reading = guide if lettering.reading == "along" else guide.reversed()
    return reading.parallel(
        lettering.standoff - scale * touch_height(lettering.touch, face.metrics)
    )


def _reading_station(lettering: Lettering, guide: Curve) -> float:
    """Where the lettering is anchored, as a station in reading direction."""
    at = lettering.at * guide.length if lettering.at_in == "share" else lettering.at
    return at if lettering.reading == "along" else guide.length - at


def _window(lettering: Lettering, baseline: Parallel, anchor: float) -> tuple[float, float]:
    """The stretch of baseline that the lettering may use: all of it, or one lap."""
    if not baseline.closed:
        return 0.0, baseline.length
    first = anchor - _SHARE_BEFORE[lettering.align] * baseline.length
    return first, first + baseline.length

"""Setting a lettering on a curve: where every letter stands.

A cluster of advance a whose start is at s along the baseline curve has its middle
(s + a/2) on that curve, turned to the tangent there: the rule of SVG 2 for text on
a path. The baseline curve is the parallel of the guide at the distance that touch
line and standoff give; stations are carried over from the guide, advances are
measured on the baseline curve.

On a closed guide letters pass the seam as if it were not there, for one lap. On an
open guide letters beyond its ends are placed on its straight continuation, so that
they can be shown, and marked as having no room.

A lettering of several lines, or of several laps, is several settings: one a line.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from itertools import groupby

import numpy as np
from numpy.typing import NDArray

from ulvent.core.curves import Curve, Frames, Parallel
from ulvent.core.faces import Cluster, Face, MissingCharacter, Outline
from ulvent.core.lettering import Lettering, Nudge
from ulvent.core.setting.arrange import SHARE_BEFORE, Row
from ulvent.core.setting.bent import bent_outlines
from ulvent.core.setting.corners import corner_zones, pushed
from ulvent.core.setting.dials import Label, TickLines
from ulvent.core.setting.gaps import GapMeter, Gaps, measure_gaps, softening
from ulvent.core.setting.outcome import Fitted
from ulvent.core.setting.spacing import FLOOR, NEAR_AS_DESIGNED, Hold, Spacing, gap_targets, spaced
from ulvent.core.setting.stance import Stances, on_baseline, stacked, turned_by_hand
from ulvent.core.setting.touch import touch_height
from ulvent.core.setting.words import scale_of
from ulvent.core.tolerances import JOINT

Floats = NDArray[np.float64]
Stretch = tuple[float, float]


@dataclass(frozen=True, eq=False)
class Setting:
    """One line of a lettering as it stands. Arrays run over the clusters with ink, as read.

    lettering
        as this line has it: its own words, height, standoff and alignment
    line
        which line of its lettering it is
    scale
        mm per font unit at the line's height
    scales
        (n,) mm per font unit of each letter
    places
        (n,) where each stands in the words of the whole lettering; -1 for a mark
    runs
        (n,) which run of words each belongs to: a repeat, a label, or the one there is
    advances
        (n,) mm of baseline that each takes up
    middles
        (n,) stations of their middles on the baseline curve, in reading direction
    frames
        of the baseline curve at `middles`
    stances
        where each stands and how it is turned
    natural, meant
        (n,) mm from its run's start: as designed, and with tracking and word spaces
    pushes
        (n,) how far each was pushed along the baseline to keep off a corner, mm
    has_room
        (n,) whether the whole advance lies on the guide, within its lap
    drawn
        (n,) whether the middle lies on the guide, within its lap
    stretches
        of the baseline that the runs take up, as pairs of stations
    length, overhang
        of the words; how much of them has no guide under it, mm
    targets, at_floor, too_near
        (n − 1,) gaps that were solved for, mm, nan for those that were not; which of them
        stand at the least distance instead; and which are nearer, since that would tear
        them apart
    ticks, labels
        of a dial; `runs` count its labels
    fitted
        what came of the lettering's fit; `lettering` has the solved figure
    nudges
        what was done by hand, by the letters' places in the words of the whole lettering
    """

    lettering: Lettering
    line: int
    face: Face
    guide: Curve
    baseline: Parallel
    scale: float
    clusters: tuple[Cluster, ...]
    missing: tuple[MissingCharacter, ...]
    scales: Floats
    places: NDArray[np.int_]
    runs: NDArray[np.int_]
    advances: Floats
    middles: Floats
    frames: Frames
    stances: Stances
    natural: Floats
    meant: Floats
    pushes: Floats
    has_room: NDArray[np.bool_]
    drawn: NDArray[np.bool_]
    stretches: tuple[Stretch, ...]
    length: float
    overhang: float
    targets: Floats
    at_floor: NDArray[np.bool_]
    too_near: NDArray[np.bool_]
    ticks: TickLines | None = None
    labels: tuple[Label, ...] = ()
    nudges: Mapping[int, Nudge] = field(default_factory=dict)
    fitted: Fitted | None = None

    @property
    def start(self) -> float:
        """Where the first run begins on the baseline, mm."""
        return min((begin for begin, _ in self.stretches), default=0.0)

    @property
    def end(self) -> float:
        """Where the last run ends on the baseline, mm."""
        return max((end for _, end in self.stretches), default=0.0)

    @property
    def capital(self) -> float:
        """Height of a flat capital, mm, whatever the lettering's height measures."""
        return self.scale * self.face.metrics.cap_height

    @property
    def room(self) -> float:
        """What is left on the baseline curve, mm; negative by what overflows."""
        if self.overhang > JOINT:
            return -self.overhang
        return max(0.0, self.baseline.length - self.length)

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
        return np.degrees(np.arctan2(self.stances.rights[:, 1], self.stances.rights[:, 0]))

    @property
    def bent(self) -> bool:
        """Whether outlines follow the curve, so that no matrix gives them."""
        dial = self.lettering.dial
        return self.lettering.shape == "bent" and (
            dial is None or (dial.stand == "on-guide" and dial.curved)
        )

    @cached_property
    def widths(self) -> Floats:
        """(n,) the letters' own advances, mm."""
        return np.array([cluster.advance for cluster in self.clusters]) * self.scales

    @cached_property
    def matrices(self) -> Floats:
        """(n, 2, 3) from each cluster's outline, font units, to the piece, mm."""
        stances = self.stances
        origins = stances.feet - stances.rights * (self.widths / 2.0)[:, None]
        scales = self.scales[:, None]
        return np.stack([stances.rights * scales, stances.ups * scales, origins], axis=2)

    @cached_property
    def gaps(self) -> Gaps:
        """The gap after each cluster but the last, as it stands and as it was designed.

        Between runs, and where letters do not stand on the baseline, nothing was designed.
        """
        gaps = measure_gaps(
            self.face, self.clusters, self.scales, self.meant, self.middles, self.frames, self.bent
        )
        designed = np.where(np.isfinite(self.targets), self.targets, gaps.designed)
        # Between letters on two sides of a corner there is no gap to be judged.
        judged = np.diff(self.pushes) == 0.0
        if not self.stances.on_baseline:
            judged[:] = False
        joints = np.diff(self.runs) != 0
        if self.lettering.dial is not None:
            judged &= ~joints
        found = np.where(judged, gaps.found, np.nan)
        if joints.any() and judged[joints].any():
            designed = np.where(joints, np.nanmean(found[joints & judged]), designed)
        return Gaps(found, designed)

    def outline(self, index: int) -> Outline:
        """The outline of a cluster in its own frame, font units."""
        return self.face.cluster_outline(self.clusters[index].glyphs)

    def placed_outline(self, index: int) -> Outline:
        """The outline of a cluster where it stands, mm."""
        if self.bent:
            return self._bent_outlines[index]
        return self.outline(index).transformed(self.matrices[index])

    @cached_property
    def _bent_outlines(self) -> list[Outline]:
        """All outlines bent along the baseline, mm, made together."""
        axes = np.stack([self.frames.tangents, self.frames.normals], axis=1)
        placing = axes @ self.matrices
        placing[:, :, 2] -= np.einsum("nij,nj->ni", axes, self.frames.points)
        placing[:, 0, 2] += self.middles
        return bent_outlines(
            [self.outline(index) for index in range(len(self.clusters))], placing, self.baseline
        )

    def reach(self) -> tuple[float, float, float, float] | None:
        """A box that holds all letters, from their own turned boxes: quick, and a little large.

        Least x, least y, greatest x, greatest y, mm; nothing where no letter has ink.
        """
        boxes: list[Floats] = []
        if self.clusters:
            own = np.array([self.outline(index).bounds() for index in range(len(self.clusters))])
            corners = own[:, [[0, 1], [0, 3], [2, 1], [2, 3]]]
            linear, moved = self.matrices[:, :, :2], self.matrices[:, None, :, 2]
            boxes.append((corners @ linear.transpose(0, 2, 1) + moved).reshape(-1, 2))
        for ticks, _ in self.tick_outlines():
            boxes.append(ticks.points)
        if not boxes:
            return None
        points = np.concatenate(boxes)
        (x0, y0), (x1, y1) = points.min(axis=0), points.max(axis=0)
        return float(x0), float(y0), float(x1), float(y1)

    def tick_outlines(self) -> list[tuple[Outline, bool]]:
        """The ticks, mm, where there are any; whether they are areas or single strokes."""
        if self.ticks is None:
            return []
        both = ((self.ticks.areas, True), (self.ticks.strokes, False))
        return [(outline, areas) for outline, areas in both if outline]

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
                places = [(c.place, c.place + len(c.text)) for _, c in members if c.text]
                if places:
                    first, last = min(p[0] for p in places), max(p[1] for p in places)
                    stretches.append(self.lettering.text[first:last])
        return stretches


def place_row(
    lettering: Lettering,
    line: int,
    face: Face,
    guide: Curve,
    baseline: Parallel,
    row: Row,
    anchor: float,
    keep_off: bool,
) -> Setting:
    """Every letter of a row of words on its baseline, held at `anchor`.

    With `keep_off`, no letter stands across a corner.
    """
    scale = scale_of(lettering, face)
    runs = row.runs
    clusters = [cluster for words in runs for cluster in words.clusters]
    begins = _joined(words.starts + at for words, at in zip(runs, row.begins, strict=True))
    extents = _joined(words.extents for words in runs)
    inked = np.array([bool(face.cluster_outline(c.glyphs)) for c in clusters], dtype=bool)
    shifts = np.zeros(len(begins))
    if keep_off:
        zones = corner_zones(baseline.base, baseline, scale * face.metrics.cap_height)
        lap = baseline.length if baseline.closed else None
        shifts = pushed(begins, begins + extents, inked, zones, lap, anchor)
    counts = [len(words.clusters) for words in runs]
    stretches = _stretches(row, shifts, counts)
    over, length = row.over, row.used
    if len(shifts):
        length += float(shifts[-1] - shifts[0])
    if not row.goes_round:
        over = _overhang(baseline, stretches, length)

    kept = tuple(c for c, wanted in zip(clusters, inked, strict=True) if wanted)
    extents = extents[inked]
    by_hand = [
        _joined(getattr(words, name) for words in runs)[inked]
        for name in ("along", "across", "turns", "scales", "starts", "natural", "meant")
    ]
    along, across, turns, scales, starts, natural, meant = by_hand
    run_of = np.repeat(np.arange(len(runs)), counts)[inked]
    middles = (begins + shifts)[inked] + extents / 2.0
    pairs = max(len(kept) - 1, 0)
    targets, floored = np.full(pairs, np.nan), np.zeros((2, pairs), dtype=bool)
    if lettering.spacing != "font" and len(kept) > 1 and _stands_on_baseline(lettering):
        spacing = _spacing(lettering, face, kept, scales, middles, run_of, shifts[inked], row,
                           (starts, natural), baseline)  # fmt: skip
        found = spaced(spacing, baseline)
        moved = found.middles - middles
        targets, floored = spacing.targets, np.stack([found.at_floor, found.too_near])
        middles = found.middles
        stretches = _moved_stretches(stretches, run_of, moved)
        ends = [moved[run_of == run][[0, -1]] for run in np.unique(run_of)]
        length += float(sum(last - first for first, last in ends))
        if not row.goes_round:
            over = _overhang(baseline, stretches, length)
    begins = middles - extents / 2.0
    middles = middles + along
    frames = baseline.frames(middles)
    low, high = _window(lettering, baseline, anchor, row)
    # What is larger or smaller than its line keeps to the touch line, not to the feet.
    across = across - touch_height(lettering.touch, face.metrics) * (scales - scale)
    if lettering.shape.startswith("stacked"):
        stances = stacked(frames, face, kept, scales, lettering.shape == "stacked-upright")
    else:
        stances = on_baseline(frames)
    stances = turned_by_hand(stances, across, turns, scales * face.metrics.cap_height / 2.0)
    return Setting(
        lettering=lettering,
        line=line,
        face=face,
        guide=guide,
        baseline=baseline,
        scale=scale,
        clusters=kept,
        missing=_once(missing for words in runs for missing in words.missing),
        scales=scales,
        places=np.concatenate([words.places for words in runs])[inked]
        if runs
        else np.empty(0, int),
        runs=run_of,
        advances=extents,
        middles=middles,
        frames=frames,
        stances=stances,
        natural=natural,
        meant=meant,
        pushes=shifts[inked],
        has_room=(begins >= low - JOINT) & (begins + extents <= high + JOINT),
        drawn=(middles >= low - JOINT) & (middles <= high + JOINT),
        stretches=stretches,
        length=length,
        overhang=over,
        targets=targets,
        at_floor=floored[0],
        too_near=floored[1],
    )


def _stands_on_baseline(lettering: Lettering) -> bool:
    dial = lettering.dial
    on_guide = dial is None or (dial.stand == "on-guide" and dial.curved)
    return on_guide and not lettering.shape.startswith("stacked")


def _spacing(
    lettering: Lettering,
    face: Face,
    clusters: tuple[Cluster, ...],
    scales: Floats,
    middles: Floats,
    runs: NDArray[np.int_],
    pushes: Floats,
    row: Row,
    starts: tuple[Floats, Floats],
    baseline: Parallel,
) -> Spacing:
    """What a row is spaced by; `starts` are those with all that was added, and as designed."""
    with_all, natural = starts
    meter = GapMeter(face, clusters, scales)
    designed = meter.on_straight(with_all)
    extra = np.diff(with_all - natural)
    targets = gap_targets(face, clusters, scales, designed, extra, lettering.spacing == "same",
                          lettering.space_all)  # fmt: skip
    # Letters on two sides of a corner stay as they are.
    targets[(np.diff(pushes) != 0.0) | _parted(middles, baseline)] = np.nan
    hold: Hold = "row"
    if lettering.dial is not None:
        hold = "labels"
    elif row.goes_round:
        hold = "ring"
    targets[np.diff(runs) != 0] = np.nan
    white = softening(face, "capital").recess
    stems = white * np.minimum(scales[:-1], scales[1:])
    # What is near by design, as a tail under its neighbour, may be nearly so on the curve.
    designed_clear = meter.clear_straight(natural)
    designed_clear = np.minimum(designed_clear, NEAR_AS_DESIGNED * designed_clear)
    floor = np.minimum(FLOOR * stems, designed_clear)
    return Spacing(
        face=face,
        clusters=clusters,
        scales=scales,
        bent=lettering.shape == "bent",
        middles=middles,
        targets=targets,
        runs=runs if hold != "row" else np.zeros(len(clusters), dtype=int),
        hold=hold,
        share=SHARE_BEFORE[lettering.align],
        floor=floor,
        stems=stems,
    )


def _parted(middles: Floats, baseline: Parallel) -> NDArray[np.bool_]:
    """(n − 1,) which neighbours stand on two sides of a corner."""
    corners = np.array([sum(zone) / 2.0 for zone in corner_zones(baseline.base, baseline, 0.0)])
    if not len(corners):
        return np.zeros(len(middles) - 1, dtype=bool)
    if baseline.closed:
        # How many corners have been passed, laps and all.
        laps = np.floor(middles / baseline.length)
        passed = laps * len(corners) + np.searchsorted(
            np.sort(corners), middles - laps * baseline.length
        )
    else:
        passed = np.searchsorted(corners, middles)
    parted: NDArray[np.bool_] = np.diff(passed) != 0
    return parted


def _moved_stretches(
    stretches: tuple[Stretch, ...], runs: NDArray[np.int_], moved: Floats
) -> tuple[Stretch, ...]:
    """Stretches whose first and last letters were moved."""
    found: list[Stretch] = []
    with_ink = np.unique(runs).tolist()
    for (begin, end), run in zip(stretches, with_ink, strict=False):
        mine = moved[runs == run]
        found.append((begin + float(mine[0]), end + float(mine[-1])))
    return (*found, *stretches[len(found) :])


def baseline_curve(lettering: Lettering, guide: Curve, face: Face) -> Parallel:
    """The line on which the feet of the letters stand, in reading direction."""
    reading = guide if lettering.reading == "along" else guide.reversed()
    distance = lettering.standoff
    if not lettering.shape.startswith("stacked"):
        distance -= scale_of(lettering, face) * touch_height(lettering.touch, face.metrics)
    return reading.parallel(distance)


def _joined(arrays: Iterable[Floats]) -> Floats:
    parts = list(arrays)
    return np.concatenate(parts) if parts else np.empty(0)


def _once(missing: Iterable[MissingCharacter]) -> tuple[MissingCharacter, ...]:
    return tuple(dict.fromkeys(missing))


def _stretches(row: Row, shifts: Floats, counts: list[int]) -> tuple[Stretch, ...]:
    """The stretches that runs take up, those that touch made one."""
    found: list[Stretch] = []
    at = 0
    for words, begin, count in zip(row.runs, row.begins, counts, strict=True):
        first, last = (shifts[at], shifts[at + count - 1]) if count else (0.0, 0.0)
        if words.length > 0.0:
            found.append((begin + float(first), begin + words.length + float(last)))
        at += count
    return tuple(found)


def _overhang(baseline: Parallel, stretches: tuple[Stretch, ...], length: float) -> float:
    """How much of what is set has no baseline under it, mm."""
    if not stretches:
        return 0.0
    start, end = min(s[0] for s in stretches), max(s[1] for s in stretches)
    if baseline.closed:
        return max(0.0, end - start - baseline.length)
    before, after = max(0.0, -start), max(0.0, end - baseline.length)
    return min(before, length) + min(after, length)


def _window(
    lettering: Lettering, baseline: Parallel, anchor: float, row: Row
) -> tuple[float, float]:
    """The stretch of baseline that the lettering may use: all of it, or one lap."""
    if row.goes_round:
        return -math.inf, math.inf
    if not baseline.closed:
        return 0.0, baseline.length
    first = anchor - SHARE_BEFORE[lettering.align] * baseline.length
    return first, first + baseline.length

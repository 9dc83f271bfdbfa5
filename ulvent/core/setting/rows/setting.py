"""A lettering as it stands: one line of it, with all that can be asked of it.

A lettering of several lines, or of several laps, is several settings: one a line.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from itertools import groupby

import numpy as np

from ulvent.core.base.arrays import (
    Booleans,
    Floats,
    Integers,
    Lengths,
    Matrices,
    Points,
    Scales,
    Stations,
    Stretch,
)
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves import Curve, Frames, Parallel
from ulvent.core.faces import Cluster, Face, MissingCharacter
from ulvent.core.outlines import Outline
from ulvent.core.recipe import Lettering, Nudge
from ulvent.core.setting.gaps.gap import Gaps, gap_as_they_stand, measure_gaps
from ulvent.core.setting.letters.dials import Label, TickLines
from ulvent.core.setting.rows.outcome import Fitted
from ulvent.core.setting.rows.row_spacing import stands_side_by_side
from ulvent.core.stances import STANCES
from ulvent.core.stances.poses import Poses


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
    poses
        where each stands and how it is turned
    meant
        (n,) mm from its run's start on the straight, with tracking and word spaces
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
    spare
        of words that are repeated: how much longer the baseline is than they need with the
        joints that the face gives, mm
    ticks, labels, unplaced
        of a dial; `runs` count its labels; the words of those that have no place on the guide
    label_places
        how many places there are for labels
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
    scales: Scales
    places: Integers
    runs: Integers
    advances: Floats
    middles: Stations
    frames: Frames
    poses: Poses
    meant: Floats
    pushes: Lengths
    has_room: Booleans
    drawn: Booleans
    stretches: tuple[Stretch, ...]
    length: float
    overhang: float
    targets: Lengths
    at_floor: Booleans
    too_near: Booleans
    spare: float = math.nan
    ticks: TickLines | None = None
    labels: tuple[Label, ...] = ()
    unplaced: tuple[str, ...] = ()
    label_places: int = 0
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
        return np.degrees(np.arctan2(self.poses.rights[:, 1], self.poses.rights[:, 0]))

    @property
    def bent(self) -> bool:
        """Whether outlines follow the curve, so that no matrix gives them."""
        bending = STANCES[self.lettering.shape].bending
        return bending is not None and stands_side_by_side(self.lettering)

    @cached_property
    def widths(self) -> Floats:
        """(n,) the letters' own advances, mm."""
        return np.array([cluster.advance for cluster in self.clusters]) * self.scales

    @cached_property
    def matrices(self) -> Matrices:
        """(n, 2, 3) from each cluster's outline, font units, to the piece, mm."""
        poses = self.poses
        origins = poses.feet - poses.rights * (self.widths / 2.0)[:, None]
        scales = self.scales[:, None]
        return np.stack([poses.rights * scales, poses.ups * scales, origins], axis=2)

    @cached_property
    def gaps(self) -> Gaps:
        """The gap after each cluster but the last, as it stands and as it was designed.

        Between runs, and where letters are stacked, nothing was designed: the mean of all is
        what they are held against.
        """
        gaps = measure_gaps(
            self.face, self.clusters, self.scales, self.meant, self.middles, self.frames, self.bent
        )
        found = self._as_they_stand(gaps.found)
        designed = np.where(np.isfinite(self.targets), self.targets, gaps.designed)
        # Between letters on two sides of a corner there is no gap to be judged.
        judged = np.diff(self.pushes) == 0.0
        stacked = not STANCES[self.lettering.shape].side_by_side
        if not self.poses.on_baseline and not stacked:
            judged[:] = False
        joints = np.diff(self.runs) != 0
        if self.lettering.dial is not None:
            judged &= ~joints
        found = np.where(judged & np.isfinite(found), found, np.nan)
        by_mean = np.ones(len(found), dtype=bool) if stacked else joints
        if np.isfinite(found[by_mean]).any():
            designed = np.where(by_mean, np.nanmean(found[by_mean]), designed)
        return Gaps(found, designed)

    def _as_they_stand(self, found: Floats) -> Floats:
        """Gaps, those of letters that are turned, moved across or stacked measured anew."""
        if self.bent or not len(found):
            return found
        local = self._local_matrices
        usual = np.zeros_like(local)
        usual[:, 0, 0] = usual[:, 1, 1] = self.scales
        usual[:, 0, 2] = -self.widths / 2.0
        stray = np.abs(local - usual).max(axis=(1, 2)) > JOINT
        measured = found.copy()
        for pair in np.flatnonzero(stray[:-1] | stray[1:]).tolist():
            both = slice(pair, pair + 2)
            measured[pair] = gap_as_they_stand(
                self.face,
                (self.clusters[pair], self.clusters[pair + 1]),
                (
                    self.outline(pair).transformed(local[pair]),
                    self.outline(pair + 1).transformed(local[pair + 1]),
                ),
                float(self.scales[both].min()),
                self.middles[both],
                self.baseline.frames(self.middles[both]),
                self.poses.on_baseline,
            )
        return measured

    @property
    def _local_matrices(self) -> Matrices:
        """(n, 2, 3) from each cluster's outline to the baseline's frame at its middle, mm."""
        axes = np.stack([self.frames.tangents, self.frames.normals], axis=1)
        local: Floats = axes @ self.matrices
        local[:, :, 2] -= np.einsum("nij,nj->ni", axes, self.frames.points)
        return local

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
        bending = STANCES[self.lettering.shape].bending
        assert bending is not None
        placing = self._local_matrices
        placing[:, 0, 2] += self.middles
        outlines = [self.outline(index) for index in range(len(self.clusters))]
        return bending(outlines, placing, self.baseline)

    def reach(self) -> tuple[float, float, float, float] | None:
        """A box that holds all letters, from their own turned boxes: quick, and a little large.

        Least x, least y, greatest x, greatest y, mm; nothing where no letter has ink.
        """
        boxes: list[Floats] = []
        if self.clusters:
            boxes.append(self.letter_corners.reshape(-1, 2))
        for ticks, _ in self.tick_outlines():
            boxes.append(ticks.points)
        if not boxes:
            return None
        points = np.concatenate(boxes)
        (x0, y0), (x1, y1) = points.min(axis=0), points.max(axis=0)
        return float(x0), float(y0), float(x1), float(y1)

    @cached_property
    def letter_corners(self) -> Points:
        """(n, 4, 2) corners of each letter's own box where it stands, mm, round the box."""
        if not self.clusters:
            return np.zeros((0, 4, 2))
        own = np.array([self.outline(index).bounds() for index in range(len(self.clusters))])
        corners = own[:, [[0, 1], [0, 3], [2, 3], [2, 1]]]
        linear, moved = self.matrices[:, :, :2], self.matrices[:, None, :, 2]
        placed: Floats = corners @ linear.transpose(0, 2, 1) + moved
        return placed

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

"""How near neighbouring letters come to each other, their whole outlines looked at."""

from __future__ import annotations

from functools import cached_property

import numpy as np

from ulvent.core.base.arrays import Floats, Integers, Points, Scales, turned_left
from ulvent.core.base.remembered import remembered
from ulvent.core.base.tolerances import JOINT
from ulvent.core.base.trees import point_tree
from ulvent.core.curves import Frames
from ulvent.core.faces import Cluster, Face, PlacedGlyph

FAR = 0.1
ROW_SHARE = 0.02
"""Rows in which the distance of whole outlines is looked at, of the capitals' height."""
_POINTS_APART = 0.45 * ROW_SHARE
"""How far apart points are that stand for an outline, of the capitals' height, at most."""
_ROWS_BESIDE = 3
"""So many rows are more than letters may come near to each other."""
_MOST_ROWS_TIED = 25
_MOST_ROWS = 10_000
"""Letters over more rows than this are nowhere near each other."""
_STRAIGHT = 1e-12
_SOME = 16
_ROUND = np.linspace(0.0, 2.0 * np.pi, 16, endpoint=False)
"""Directions in which a polygon touches the letter that it is round."""


def clearance_of(
    face: Face, clusters: tuple[Cluster, ...], scales: Scales, bent: bool
) -> Clearance:
    """The clearance of a row of letters, remembered as `gap_meter` is."""
    return _clearance_of(face, clusters, scales.tobytes(), bent)


@remembered(128)
def _clearance_of(
    face: Face, clusters: tuple[Cluster, ...], scale_bytes: bytes, bent: bool
) -> Clearance:
    return Clearance(face, clusters, np.frombuffer(scale_bytes), bent)


class Clearance:
    """Of one row of letters, wherever on a curve they are put."""

    def __init__(
        self, face: Face, clusters: tuple[Cluster, ...], scales: Scales, bent: bool
    ) -> None:
        self._face, self._clusters, self._scales, self._bent = face, clusters, scales, bent
        self._halves = np.array([cluster.advance for cluster in clusters]) * scales / 2.0

    def on_curve(self, frames: Frames, which: Integers) -> Floats:
        """(k,) least distance between the whole outlines of the pairs `which`, mm.

        Of outlines that cross, by how much they overlap in a row across the line midway
        between the two letters, less than none. What is farther apart than `FAR` of a
        capital's height may be said to be somewhat farther.
        """
        return np.array([self._clear(int(pair), frames) for pair in which])

    def apart(self, frames: Frames) -> Floats:
        """(n − 1,) how far apart pairs are at least, mm: quick, and never too much.

        Rigid letters stand for themselves by a polygon round them. Of bent ones nothing is said.
        """
        if self._bent:
            return np.full(len(frames.points) - 1, -np.inf)
        along = _between(frames.tangents[:-1], frames.tangents[1:])
        polygons = self.polygons(frames)
        ends = np.einsum("nki,ni->nk", polygons[:-1], along).max(axis=1)
        begins = np.einsum("nki,ni->nk", polygons[1:], along).min(axis=1)
        apart: Floats = begins - ends
        return apart

    def in_rows(self, frames: Frames, which: Integers) -> Floats:
        """(k,) the least white of the pairs `which` across rows: quick, and never too much.

        Letters stand for themselves by their outermost points in each row; rows are taken
        together with those beside them that are nearer than letters may come.
        """
        right, left = self._sides_in_rows(frames, which)
        wide = right.copy()
        for by in range(1, _ROWS_BESIDE + 1):
            wide[:, by:] = np.maximum(wide[:, by:], right[:, :-by])
            wide[:, :-by] = np.maximum(wide[:, :-by], right[:, by:])
        least: Floats = (left - wide).min(axis=1)
        return least

    def overlaps(self, frames: Frames, height: float) -> Floats:
        """(n − 1,) the white over a height, mm, where each pair comes nearest; less than none
        where they overlap all over it.

        The least, over all stretches so high, of the largest white in one.
        """
        right, left = self._sides_in_rows(frames, np.arange(len(self._clusters) - 1))
        white = -_without_gaps(-left) - _without_gaps(right)
        least = float(self._scales.min())
        step = ROW_SHARE * self._face.metrics.cap_height * least
        rows = int(np.clip(np.ceil(height / step), 1, min(_MOST_ROWS_TIED, white.shape[1])))
        stretches = np.lib.stride_tricks.sliding_window_view(white, rows, axis=1)
        found: Floats = stretches.max(axis=2).min(axis=1)
        return found

    def _sides_in_rows(self, frames: Frames, which: Integers) -> tuple[Floats, Floats]:
        """(k, rows) where the first of each pair ends and the second begins, mm.

        Measured along the line midway between the two.
        """
        along = _between(frames.tangents[which], frames.tangents[which + 1])
        across = turned_left(along)
        step = ROW_SHARE * self._face.metrics.cap_height * np.minimum(
            self._scales[which], self._scales[which + 1]
        )  # fmt: skip
        sides: list[tuple[Integers, Floats, Floats]] = []
        for letters, outermost in zip((which, which + 1), self._outermost, strict=True):
            points = [outermost[letter] for letter in letters]
            pairs = np.repeat(np.arange(len(which)), [len(each) for each in points])
            at = self._placed(np.concatenate(points), letters[pairs], frames)
            sides.append((pairs, np.einsum("ni,ni->n", at, along[pairs]),
                          np.einsum("ni,ni->n", at, across[pairs])))  # fmt: skip
        low = np.full(len(which), np.inf)
        for pairs, _, heights in sides:
            np.minimum.at(low, pairs, heights)
        rows = [((heights - low[pairs]) / step[pairs]).astype(int) for pairs, _, heights in sides]
        deep = max(int(found.max(initial=0)) for found in rows) + 1
        right, left = np.full((len(which), deep), -np.inf), np.full((len(which), deep), np.inf)
        np.maximum.at(right, (sides[0][0], rows[0]), sides[0][1])
        np.minimum.at(left, (sides[1][0], rows[1]), sides[1][1])
        return right, left

    @cached_property
    def _outermost(self) -> tuple[list[Floats], list[Floats]]:
        """Points, mm from their letters' middles, of every right side and of every left one."""
        found: tuple[list[Floats], list[Floats]] = [], []
        for cluster, scale, half in zip(self._clusters, self._scales, self._halves, strict=True):
            for side, points in enumerate(_outermost_points(self._face, cluster.glyphs)):
                found[side].append(points * scale - (half, 0.0))
        return found

    def polygons(self, frames: Frames) -> Points:
        """(n, corners, 2) polygons round rigid letters where they stand, mm."""
        own = self._polygons
        across = own[..., :1] * frames.tangents[:, None] + own[..., 1:] * frames.normals[:, None]
        placed: Floats = frames.points[:, None] + across
        return placed

    @cached_property
    def _polygons(self) -> Points:
        """(n, corners, 2) polygons round the letters, mm from their middles."""
        corners = np.stack([polygon_round(self._face, each.glyphs) for each in self._clusters])
        corners = corners * self._scales[:, None, None]
        corners[..., 0] -= self._halves[:, None]
        return corners

    def _clear(self, pair: int, frames: Frames) -> float:
        one, two = (self.outline(index, frames) for index in (pair, pair + 1))
        along = _between(frames.tangents[pair], frames.tangents[pair + 1])
        axes = np.stack([along, [-along[1], along[0]]], axis=1)
        first, second = one @ axes, two @ axes
        step = ROW_SHARE * self._face.metrics.cap_height * float(self._scales[pair])
        low = min(first[:, 1].min(), second[:, 1].min())
        rows = int((max(first[:, 1].max(), second[:, 1].max()) - low) / step) + 1
        if rows > _MOST_ROWS:
            return float(np.hypot(*(frames.points[pair + 1] - frames.points[pair])))
        right, left = np.full(rows, -np.inf), np.full(rows, np.inf)
        np.maximum.at(right, ((first[:, 1] - low) / step).astype(int), first[:, 0])
        np.minimum.at(left, ((second[:, 1] - low) / step).astype(int), second[:, 0])
        # A row and the two beside it: what is near across rows is near as well.
        wide = np.maximum(right, np.maximum(np.append(right[1:], -np.inf),
                                            np.append(-np.inf, right[:-1])))  # fmt: skip
        in_rows = float((left - wide).min())
        if in_rows > FAR * step / ROW_SHARE:
            return in_rows
        apart = least_distance(first, second)
        return apart if apart > step / 2.0 else min(in_rows, apart)

    def outline(self, index: int, frames: Frames, place: int | None = None) -> Points:
        """Points along a letter's outline where it stands, (m, 2), mm; in another of the places
        of `frames` where one is given."""
        points = _outline_points(self._face, self._clusters[index].glyphs) * self._scales[index]
        points = points - np.array([self._halves[index], 0.0])
        return self._placed(points, np.full(len(points), index if place is None else place), frames)

    def points_apart(self, index: int) -> float:
        """How far apart the points along a letter's outline are at most, mm."""
        return float(_POINTS_APART * self._face.metrics.cap_height * self._scales[index])

    def _placed(self, points: Points, owners: Integers, frames: Frames) -> Floats:
        """Points of letters, from the letters' middles, where the letters stand, (m, 2), mm."""
        across, up = points[:, :1], points[:, 1:]
        if self._bent:
            # Under one letter the curve is taken for its circle of curvature. There
            # sin(t)/κ and (1 − cos t)/κ are x·sinc(t) and x·sin(t/2)·sinc(t/2), also at κ = 0.
            turned = across * frames.curvatures[owners][:, None]
            chord = across * np.sinc(turned / (2.0 * np.pi))
            feet = np.hstack([chord * np.cos(turned / 2.0), chord * np.sin(turned / 2.0)])
            points = feet + np.hstack([-np.sin(turned), np.cos(turned)]) * up
        tangents, normals = frames.tangents[owners], frames.normals[owners]
        standing: Floats = (
            frames.points[owners] + points[:, :1] * tangents + points[:, 1:] * normals
        )
        return standing


def _between(one: Floats, two: Floats) -> Floats:
    """The direction midway between two directions."""
    along = one + two
    midway: Floats = along / np.maximum(np.hypot(along[..., :1], along[..., 1:]), _STRAIGHT)
    return midway


def least_distance(one: Floats, two: Floats) -> float:
    """The least distance between two sets of points, (n, 2) and (m, 2)."""
    # Some of the points say how near they come at least; none farther off need be looked at.
    some = one[::_SOME, None] - two[None, ::_SOME]
    reach = float(np.sqrt((some**2).sum(axis=2).min())) + JOINT
    for _ in range(2):
        near = (one >= two.min(axis=0) - reach) & (one <= two.max(axis=0) + reach)
        one, two = two, one[near.all(axis=1)]
    return float(point_tree(one).query(two)[0].min())


def _without_gaps(ends: Floats) -> Floats:
    """Rows that happen to hold no point have what the rows beside them hold."""
    beside = np.maximum(
        np.pad(ends[:, 1:], ((0, 0), (0, 1)), constant_values=-np.inf),
        np.pad(ends[:, :-1], ((0, 0), (1, 0)), constant_values=-np.inf),
    )
    return np.where(np.isfinite(ends), ends, beside)


def straight_clearance(
    face: Face, clusters: tuple[Cluster, ...], scales: Scales, starts: Floats
) -> Floats:
    """(n − 1,) `Clearance` of rigid letters that begin at `starts` on a straight line, mm.

    Remembered: it stays what it is while a row is pulled along its guide.
    """
    return _straight_clearance(face, clusters, scales.tobytes(), starts.tobytes())


@remembered(256)
def _straight_clearance(
    face: Face, clusters: tuple[Cluster, ...], scale_bytes: bytes, start_bytes: bytes
) -> Floats:
    scales, starts = np.frombuffer(scale_bytes), np.frombuffer(start_bytes)
    halves = np.array([cluster.advance for cluster in clusters]) * scales / 2.0
    level = np.tile([1.0, 0.0], (len(starts), 1))
    zeros = np.zeros(len(starts))
    frames = Frames(np.stack([starts + halves, zeros], axis=1), level, zeros, zeros)
    clearance = Clearance(face, clusters, scales, bent=False)
    return clearance.on_curve(frames, np.arange(len(clusters) - 1))


@remembered(2048)
def _outline_points(face: Face, glyphs: tuple[PlacedGlyph, ...]) -> Points:
    """Points along an outline, (m, 2), less than half a row of `clearance` apart, font units."""
    step = _POINTS_APART * face.metrics.cap_height
    found: list[Floats] = []
    for points, closed in face.cluster_outline(glyphs).polylines:
        starts = points if closed else points[:-1]
        ends = np.roll(points, -1, axis=0) if closed else points[1:]
        counts = np.maximum(np.ceil(np.hypot(*(ends - starts).T) / step), 1.0).astype(int)
        which = np.repeat(np.arange(len(starts)), counts)
        shares = np.concatenate([np.arange(count) / count for count in counts])[:, None]
        found.append(starts[which] + shares * (ends - starts)[which])
    return np.concatenate(found)


@remembered(2048)
def _outermost_points(face: Face, glyphs: tuple[PlacedGlyph, ...]) -> tuple[Floats, Floats]:
    """The outermost points of an outline in each row, to the right and to the left."""
    points = _outline_points(face, glyphs)
    rows = np.floor(points[:, 1] / (ROW_SHARE * face.metrics.cap_height)).astype(int)
    found: list[Floats] = []
    for sign in (-1.0, 1.0):
        order = np.lexsort((sign * points[:, 0], rows))
        _, firsts = np.unique(rows[order], return_index=True)
        found.append(points[order[firsts]])
    return found[0], found[1]


@remembered(2048)
def polygon_round(face: Face, glyphs: tuple[PlacedGlyph, ...]) -> Points:
    """(corners, 2) a narrow polygon round an outline, font units."""
    return polygon_about(_outline_points(face, glyphs))


def polygon_about(points: Points) -> Points:
    """(corners, 2) corners of the narrowest polygon round points with sides in fixed directions."""
    ways = np.stack([np.cos(_ROUND), np.sin(_ROUND)], axis=1)
    reach = (points @ ways.T).max(axis=0)
    # Where each side meets the next one.
    other_ways, other_reach = np.roll(ways, -1, axis=0), np.roll(reach, -1)
    corners = np.linalg.solve(
        np.stack([ways, other_ways], axis=1), np.stack([reach, other_reach], axis=1)[..., None]
    )
    found: Floats = corners[..., 0]
    return found

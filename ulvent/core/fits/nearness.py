"""How near whole outlines come to one another and to edges, exactly.

Outlines are taken as cubics. They are sampled, the samples that can be nearest are found
with a tree, and those are then refined on the curves themselves: round the best sample a
window of parameters is sampled anew and narrowed, until what is left no longer matters.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from ulvent.core.curves import Curve
from ulvent.core.faces import Outline
from ulvent.core.setting import Setting

Floats = NDArray[np.float64]
Integers = NDArray[np.intp]

HALF_TURN = np.pi
"""Letters that are farther apart than this along their line stand on other turns of it."""

_STEP = 0.05
"""From sample to sample along outlines, in the height of the largest letter."""
_SAMPLES = (4, 200)
"""Of each cubic, at least and at most."""
_NEIGHBOURS = 4
_WINDOW = 9
_NARROWER = 0.3
_ROUNDS = 12
_EDGE_STEP = 0.25
_EDGE_SAMPLES = (201, 20_001)
_FOOT_ROUNDS = 3


class Cubics(NamedTuple):
    """Cubic pieces of outlines, (k, 4, 2), mm, and the letter each belongs to, (k,)."""

    controls: Floats
    letters: Integers

    def points(self, which: Integers, t: Floats) -> Floats:
        """(n, 2) points of pieces `which` at parameters `t`."""
        u = 1.0 - t
        weights = np.stack([u**3, 3.0 * u * u * t, 3.0 * u * t * t, t**3], axis=1)
        found: Floats = np.einsum("ni,nij->nj", weights, self.controls[which])
        return found

    def samples(self) -> Samples:
        """Samples along all pieces, ends included."""
        lengths = np.hypot(*np.diff(self.controls, axis=1).transpose(2, 0, 1)).sum(axis=1)
        _, firsts = np.unique(self.letters, return_index=True)
        heights = self.controls[:, :, 1]
        tops = np.maximum.reduceat(heights.max(axis=1), firsts)
        tall = float((tops - np.minimum.reduceat(heights.min(axis=1), firsts)).max())
        step = _STEP * max(tall, float(lengths.max()) / _SAMPLES[1])
        counts = np.clip(np.ceil(lengths / step).astype(int) + 1, *_SAMPLES)
        which = np.repeat(np.arange(len(counts)), counts)
        widths = 1.0 / (counts - 1.0)
        firsts = np.cumsum(counts) - counts
        t = (np.arange(len(which)) - firsts[which]) * widths[which]
        points = self.points(which, t)
        chords = np.hypot(*np.diff(points, axis=0).T)[np.diff(which) == 0]
        widest = float(chords.max(initial=0.0))
        return Samples(which, t, points, self.letters[which], widths, widest)


class Samples(NamedTuple):
    """Samples of cubics: pieces, parameters, points, letters.

    widths
        (k,) from sample to sample of each piece, in its parameter
    step
        from sample to sample at most, mm
    """

    which: Integers
    t: Floats
    points: Floats
    letters: Integers
    widths: Floats
    step: float


def cubics_of(lines: Iterable[Setting]) -> Cubics:
    """All letters of some lines where they stand; letters are counted through."""
    controls: list[Floats] = []
    letters: list[Integers] = []
    count = 0
    for line in lines:
        for index in range(len(line.clusters)):
            if line.bent:
                mine = _as_cubics(line.placed_outline(index))
            else:
                matrix = line.matrices[index]
                mine = _as_cubics(line.outline(index)) @ matrix[:, :2].T + matrix[:, 2]
            controls.append(mine)
            letters.append(np.full(len(mine), count))
            count += 1
    if not controls:
        return Cubics(np.empty((0, 4, 2)), np.empty(0, dtype=np.intp))
    return Cubics(np.concatenate(controls), np.concatenate(letters))


@lru_cache(4096)
def _as_cubics(outline: Outline) -> Floats:
    """The pieces of an outline as cubics, (k, 4, 2)."""
    found: list[Floats] = []
    first = at = np.zeros(2)

    def straight(end: Floats) -> Floats:
        return np.stack([at, at + (end - at) / 3.0, end - (end - at) / 3.0, end])

    for operation, points in outline.steps():
        if operation == "M":
            first = at = points[0]
            continue
        if operation == "Z":
            if np.any(first != at):
                found.append(straight(first))
            at = first
            continue
        if operation == "L":
            found.append(straight(points[0]))
        elif operation == "Q":
            control, end = points
            found.append(
                np.stack([at, at + (control - at) * 2 / 3, end + (control - end) * 2 / 3, end])
            )
        else:
            found.append(np.stack([at, *points]))
        at = points[-1]
    return np.stack(found) if found else np.empty((0, 4, 2))


# ------------------------------------------------------------------ other turns


def turns_apart(lines: Sequence[Setting], enough: float = 0.0) -> float:
    """The least distance between letters on different turns of a line, or on different lines.

    mm; nothing where they cross, and infinite where there are no such letters. Once it is known
    to be less than `enough`, it is only known to be that.
    """
    cubics = cubics_of(lines)
    if not len(cubics.controls):
        return np.inf
    samples = cubics.samples()
    ones, twos = _near_samples(samples, _Turns.of(lines), enough)
    return _refined(cubics, samples, ones, twos)


def nearer_on_turns(lines: Sequence[Setting], limit: float) -> float | None:
    """As `turns_apart` where that is less than `limit`, mm; nothing otherwise, and quickly so.

    Letters whose boxes, as they stand, are farther apart need no outlines.
    """
    letters = [(line, index) for line in lines for index in range(len(line.clusters))]
    turns = _Turns.of(lines)
    if not turns.several:
        return None
    boxes = np.array([line.outline(index).bounds() for line, index in letters])
    matrices = np.concatenate([line.matrices for line in lines])
    corners = boxes[:, [[0, 1], [0, 3], [2, 3], [2, 1]]] @ matrices[:, :, :2].transpose(0, 2, 1)
    corners = corners + matrices[:, None, :, 2]
    middles = corners.mean(axis=1)
    radii = np.hypot(*(corners - middles[:, None]).transpose(2, 0, 1)).max(axis=1)
    ones, twos = turns.pairs(middles, 2.0 * float(radii.max()) + limit)
    # Boxes that a side of one of them parts by the limit are far enough from each other.
    parted = np.zeros(len(ones), dtype=bool)
    for mine, theirs in ((ones, twos), (twos, ones)):
        for side in (0, 1):
            axes = corners[mine, side + 1] - corners[mine, side]
            axes = axes / np.maximum(np.hypot(*axes.T), 1e-12)[:, None]
            own = np.einsum("nki,ni->nk", corners[mine], axes)
            far = np.einsum("nki,ni->nk", corners[theirs], axes)
            parted |= own.max(axis=1) + limit <= far.min(axis=1)
            parted |= far.max(axis=1) + limit <= own.min(axis=1)
    if parted.all():
        return None
    found = turns_apart(lines)
    return found if found < limit else None


class _Turns(NamedTuple):
    """On which turn of which line letters stand, (n,) each.

    closed
        whether their line is: that has one turn, and its ends are neighbours
    """

    turnings: Floats
    rows: Integers
    closed: NDArray[np.bool_]

    @classmethod
    def of(cls, lines: Sequence[Setting]) -> _Turns:
        counts = [len(line.clusters) for line in lines]
        return cls(
            np.concatenate([line.frames.turnings for line in lines]),
            np.repeat(np.arange(len(lines)), counts),
            np.repeat([line.baseline.closed for line in lines], counts),
        )

    @property
    def several(self) -> bool:
        """Whether any two letters can be on different turns or lines."""
        if len(np.unique(self.rows)) > 1:
            return True
        if not len(self.rows) or self.closed.all():
            return False
        return bool(np.ptp(self.turnings) > HALF_TURN)

    def pairs(self, middles: Floats, reach: float) -> tuple[Integers, Integers]:
        """Letters on different turns whose middles are no farther apart than `reach`, mm."""
        inked = np.flatnonzero(np.isfinite(middles[:, 0]))
        found = cKDTree(middles[inked]).query_pairs(reach, output_type="ndarray")
        ones, twos = inked[found[:, 0]], inked[found[:, 1]]
        turned = np.abs(self.turnings[ones] - self.turnings[twos]) > HALF_TURN
        other = (self.rows[ones] != self.rows[twos]) | (turned & ~self.closed[ones])
        return ones[other], twos[other]


def _near_letters(samples: Samples, turns: _Turns) -> Iterator[tuple[int, int, float]]:
    """Pairs of letters on different turns and how near they can be, the nearest first.

    Those are left out that cannot be the nearest pair.
    """
    count = len(turns.rows)
    middles, radii = np.full((count, 2), np.nan), np.zeros(count)
    inked, firsts = np.unique(samples.letters, return_index=True)
    lows, highs = (one.reduceat(samples.points, firsts) for one in (np.minimum, np.maximum))
    middles[inked] = (lows + highs) / 2.0
    from_middle = np.hypot(*(samples.points - middles[samples.letters]).T)
    radii[inked] = np.maximum.reduceat(from_middle, firsts)
    widest, farthest = 2.0 * float(radii.max()), float(np.hypot(*np.ptp(middles[inked], axis=0)))
    reach = 2.0 * widest
    while True:
        ones, twos = turns.pairs(middles, reach)
        between = np.hypot(*(middles[ones] - middles[twos]).T)
        # The nearest pair's middles are no farther apart than any pair's and both radii.
        complete = len(ones) and reach >= float(between.min()) + widest
        if complete or reach > farthest:
            break
        reach = float(between.min()) + widest if len(ones) else 2.0 * reach
    apart = between - radii[ones] - radii[twos]
    for pair in np.argsort(apart):
        yield int(ones[pair]), int(twos[pair]), float(apart[pair]) - samples.step


def _near_samples(samples: Samples, turns: _Turns, enough: float) -> tuple[Integers, Integers]:
    """Pairs of samples on different turns near which the least distance can be, (k,) each.

    Samples are a step apart at most, so that of two outlines at a distance d some are nearer
    than √(d² + step²).
    """
    found: list[tuple[Integers, Integers, Floats]] = []
    best = np.inf
    letters = np.arange(len(turns.rows))
    begins = np.searchsorted(samples.letters, letters)
    ends = np.searchsorted(samples.letters, letters, side="right")
    trees: dict[int, cKDTree] = {}
    for one, two, bound in _near_letters(samples, turns):
        if bound > best or best < enough:
            break
        first, second = int(begins[one]), int(begins[two])
        if two not in trees:
            trees[two] = cKDTree(samples.points[second : ends[two]])
        # More than one: where pieces meet both have a sample, and either may hold the nearest.
        count = min(_NEIGHBOURS, int(ends[two]) - second)
        apart, nearest = trees[two].query(samples.points[first : ends[one]], k=count)
        mine = np.repeat(np.arange(first, ends[one]), count)
        found.append((mine, nearest.ravel() + second, apart.ravel()))
        best = min(best, float(apart.min()))
    if not found:
        none = np.empty(0, dtype=np.intp)
        return none, none
    ones, twos, apart = (np.concatenate(parts) for parts in zip(*found, strict=True))
    near = np.flatnonzero(apart**2 - samples.step**2 <= best**2)
    # Of each pair of pieces the nearest samples are where their windows begin.
    near = near[np.argsort(apart[near])]
    pieces = np.stack([samples.which[ones[near]], samples.which[twos[near]]])
    _, firsts = np.unique(pieces, axis=1, return_index=True)
    return ones[near[firsts]], twos[near[firsts]]


def _refined(cubics: Cubics, samples: Samples, ones: Integers, twos: Integers) -> float:
    """The least distance near pairs of samples, on the curves; infinite where there are none."""
    pieces = np.stack([samples.which[ones], samples.which[twos]])
    at = np.stack([samples.t[ones], samples.t[twos]])
    widths = samples.widths[pieces]
    steps = np.linspace(-1.0, 1.0, _WINDOW)
    best, reach = np.inf, samples.step
    for _ in range(_ROUNDS if pieces.size else 0):
        tried = np.clip(at[:, :, None] + widths[:, :, None] * steps, 0.0, 1.0)
        first, second = (
            cubics.points(np.repeat(pieces[side], _WINDOW), tried[side].ravel()).reshape(
                -1, _WINDOW, 2
            )
            for side in (0, 1)
        )
        between = first[:, :, None] - second[:, None]
        apart = np.hypot(between[..., 0], between[..., 1]).reshape(len(first), -1)
        nearest = apart.argmin(axis=1)
        rows = np.arange(len(first))
        least = apart[rows, nearest]
        best = min(best, float(least.min()))
        # Pieces that can no longer be the nearest are left out.
        kept = least <= best + reach
        chosen = np.stack([tried[0][rows, nearest // _WINDOW], tried[1][rows, nearest % _WINDOW]])
        pieces, at, widths = pieces[:, kept], chosen[:, kept], widths[:, kept] * _NARROWER
        reach *= _NARROWER
    return best


# ------------------------------------------------------------------------ edges


class Edge:
    """An edge that letters keep inside of: one side of a line.

    Points inside are at a positive distance from it, those outside at a negative one.
    """

    def __init__(self, curve: Curve, inside: float) -> None:
        self._curve, self._inside = curve, inside
        low, high = _EDGE_SAMPLES
        count = int(np.clip(curve.length / _EDGE_STEP, low, high))
        self._stations = np.linspace(0.0, curve.length, count)
        points = curve.points(self._stations)
        self.step = float(np.hypot(*np.diff(points, axis=0).T).max())
        self._tree = cKDTree(points)
        self._corners = curve.points(curve.corners.stations)

    def roughly(self, points: Floats) -> tuple[Floats, Floats]:
        """(n,) distances within half a step, signed, and the stations that they are from."""
        _, nearest = self._tree.query(points)
        stations = self._stations[nearest]
        return self._signed(points, stations), stations

    def exactly(self, points: Floats, stations: Floats) -> tuple[Floats, Floats]:
        """(n,) signed distances and their stations, from feet near `stations`."""
        for _ in range(_FOOT_ROUNDS):
            frames = self._curve.frames(stations)
            apart = points - frames.points
            along = np.einsum("ni,ni->n", apart, frames.tangents)
            off = np.einsum("ni,ni->n", apart, frames.normals)
            slope = np.maximum(1.0 - frames.curvatures * off, 0.05)
            stations = stations + np.clip(along / slope, -self.step, self.step)
            if not self._curve.closed:
                stations = np.clip(stations, 0.0, self._curve.length)
        return self._signed(points, stations), stations

    def _signed(self, points: Floats, stations: Floats) -> Floats:
        frames = self._curve.frames(stations)
        apart = points - frames.points
        side = np.einsum("ni,ni->n", apart, frames.normals) * self._inside
        off = np.hypot(*apart.T)
        # No foot is found at a corner, where the tangent jumps.
        for corner in self._corners:
            off = np.minimum(off, np.hypot(*(points - corner).T))
        signed: Floats = np.copysign(off, side)
        return signed


@lru_cache(64)
def edge_toward(curve: Curve, inner: tuple[float, float]) -> Edge:
    """The edge of a line that has the point `inner` inside."""
    edge = Edge(curve, 1.0)
    return edge if edge.roughly(np.array([inner]))[0][0] >= 0.0 else Edge(curve, -1.0)


@lru_cache(64)
def edges_of_blank(curves: tuple[Curve, ...]) -> tuple[Edge, ...]:
    """The edges of a blank, its outer line first, then its holes."""
    edges: list[Edge] = []
    for index, curve in enumerate(curves):
        x, y = curve.points(np.linspace(0.0, curve.length, _EDGE_SAMPLES[0])).T
        runs_left = float(np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y)) > 0.0
        edges.append(Edge(curve, 1.0 if runs_left == (index == 0) else -1.0))
    return tuple(edges)


def inside_by(cubics: Cubics, edge: Edge) -> float:
    """By how much all outlines are inside of an edge, mm; negative where one is outside."""
    if not len(cubics.controls):
        return np.inf
    samples = cubics.samples()
    rough, stations = edge.roughly(samples.points)
    near = np.argsort(rough)
    near = near[rough[near] <= rough[near[0]] + samples.step + edge.step]
    # The nearest sample of each piece is where its own window begins.
    _, firsts = np.unique(samples.which[near], return_index=True)
    near = near[firsts]
    pieces, at, feet = samples.which[near], samples.t[near], stations[near]
    widths = samples.widths[pieces]
    steps = np.linspace(-1.0, 1.0, _WINDOW)
    best, reach = np.inf, samples.step
    for _ in range(_ROUNDS):
        tried = np.clip(at[:, None] + widths[:, None] * steps, 0.0, 1.0)
        every = cubics.points(np.repeat(pieces, _WINDOW), tried.ravel())
        apart, on_edge = edge.exactly(every, np.repeat(feet, _WINDOW))
        lowest = apart.reshape(tried.shape).argmin(axis=1)
        rows = np.arange(len(pieces))
        least = apart.reshape(tried.shape)[rows, lowest]
        best = min(best, float(least.min()))
        # Pieces that can no longer be the nearest are left out.
        kept = least <= least.min() + reach
        pieces, widths = pieces[kept], widths[kept] * _NARROWER
        at = tried[rows, lowest][kept]
        feet = on_edge.reshape(tried.shape)[rows, lowest][kept]
        reach *= _NARROWER
    return best

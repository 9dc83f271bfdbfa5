"""How near letters come to those on other turns of their line, on other laps or lines, exactly."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING

import numpy as np

from ulvent.core.base.arrays import Floats, Integers
from ulvent.core.base.tolerances import NIL
from ulvent.core.base.trees import point_tree
from ulvent.core.fits.letter_samples import NARROWER, ROUNDS, WINDOW, Cubics, Samples, cubics_of
from ulvent.core.setting import Setting
from ulvent.core.setting.gaps.neighbours import Turns
from ulvent.core.shapes.near_pairs import DIRECTIONS, slabs, slabs_apart

_NEIGHBOURS = 4
_AT_ONCE = 4000
"""So many pairs are looked at together, the nearest first."""
_TOUCHING = 1e-5
"""Letters that are nearer than this, mm, touch."""

if TYPE_CHECKING:
    from ulvent.core.base.trees import PointTree


def turns_apart(lines: Sequence[Setting], enough: float = 0.0) -> float:
    """The least distance between letters on different turns of a line, or on different lines.

    mm; nothing where they cross, and infinite where there are no such letters. Once it is known
    to be less than `enough`, it is only known to be that.
    """
    cubics = cubics_of(lines)
    if not len(cubics.controls):
        return np.inf
    samples = cubics.samples()
    ones, twos = _near_samples(samples, _turns_of(lines), enough)
    return _refined(cubics, samples, ones, twos)


def beyond_turns(lines: Sequence[Setting], clear: float) -> float:
    """How much farther apart letters on different turns are than `clear`, mm.

    Letters that may touch are kept a hair apart: however far they cross, they are at no
    distance.
    """
    wanted = max(clear, _TOUCHING)
    return turns_apart(lines, wanted / 2.0) - wanted


def nearer_on_turns(lines: Sequence[Setting], limit: float) -> float | None:
    """As `turns_apart` where that is less than `limit`, mm; nothing otherwise, and quickly so.

    Letters whose boxes, as they stand, are farther apart need no outlines.
    """
    letters = [(line, index) for line in lines for index in range(len(line.clusters))]
    turns = _turns_of(lines)
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
            axes = axes / np.maximum(np.hypot(*axes.T), NIL)[:, None]
            own = np.einsum("nki,ni->nk", corners[mine], axes)
            far = np.einsum("nki,ni->nk", corners[theirs], axes)
            parted |= own.max(axis=1) + limit <= far.min(axis=1)
            parted |= far.max(axis=1) + limit <= own.min(axis=1)
    if parted.all():
        return None
    found = turns_apart(lines)
    return found if found < limit else None


def _turns_of(lines: Sequence[Setting]) -> Turns:
    return Turns.of([line.frames for line in lines], [line.baseline.closed for line in lines])


def _near_letters(samples: Samples, turns: Turns) -> Iterator[tuple[int, int, float]]:
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
    low, high = np.zeros((2, count, DIRECTIONS))
    low[inked], high[inked] = slabs(samples.points, firsts)
    # Letters one above the other are told apart by slabs, in other directions by circles.
    apart = np.maximum(between - radii[ones] - radii[twos], slabs_apart(low, high, ones, twos))
    for pair in np.argsort(apart):
        yield int(ones[pair]), int(twos[pair]), float(apart[pair]) - samples.step


def _near_samples(samples: Samples, turns: Turns, enough: float) -> tuple[Integers, Integers]:
    """Pairs of samples on different turns near which the least distance can be, (k,) each.

    The nearest come first.

    Samples are a step apart at most, so that of two outlines at a distance d some are nearer
    than √(d² + step²).
    """
    found: list[tuple[Integers, Integers, Floats]] = []
    best = np.inf
    letters = np.arange(len(turns.rows))
    begins = np.searchsorted(samples.letters, letters)
    ends = np.searchsorted(samples.letters, letters, side="right")
    trees: dict[int, PointTree] = {}
    for one, two, bound in _near_letters(samples, turns):
        if bound > best or best < enough:
            break
        first, second = int(begins[one]), int(begins[two])
        if two not in trees:
            trees[two] = point_tree(samples.points[second : ends[two]])
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
    near = near[np.sort(firsts)]
    return ones[near], twos[near]


def _refined(cubics: Cubics, samples: Samples, ones: Integers, twos: Integers) -> float:
    """The least distance near pairs of samples, on the curves; infinite where there are none."""
    best = np.inf
    for begin in range(0, len(ones), _AT_ONCE):
        some = slice(begin, begin + _AT_ONCE)
        best = _refined_some(cubics, samples, ones[some], twos[some], best)
    return best


def _refined_some(
    cubics: Cubics, samples: Samples, ones: Integers, twos: Integers, best: float
) -> float:
    """The least distance near some pairs of samples, where it is less than `best`."""
    pieces = np.stack([samples.which[ones], samples.which[twos]])
    at = np.stack([samples.t[ones], samples.t[twos]])
    widths = samples.widths[pieces]
    steps = np.linspace(-1.0, 1.0, WINDOW)
    reach = samples.step
    for _ in range(ROUNDS if pieces.size else 0):
        tried = np.clip(at[:, :, None] + widths[:, :, None] * steps, 0.0, 1.0)
        first, second = (
            cubics.points(np.repeat(pieces[side], WINDOW), tried[side].ravel()).reshape(
                -1, WINDOW, 2
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
        if not kept.any():
            break
        chosen = np.stack([tried[0][rows, nearest // WINDOW], tried[1][rows, nearest % WINDOW]])
        pieces, at, widths = pieces[:, kept], chosen[:, kept], widths[:, kept] * NARROWER
        reach *= NARROWER
    return best

"""Bridges: ties of a typed width that keep a stencil's counters in the sheet.

What falls out of a sheet is what of it, shrunk by half a bridge, no longer hangs together
with its edge: an open bowl that hangs on a neck thinner than a bridge counts as fallen.
From the edge of each island bridges are tried straight up and across and square to the
edge; a bridge is as wide as it should be all along, so the rays along both its sides, and
some between, must cross one stroke and land in what already holds. The cheapest is taken:
one that crosses little white, runs square to the stroke, is as long on both sides, stands
under the counter's middle, and is upright rather than slanted. Islands are tied from the
sheet inward, so one within another hangs on it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Annotated, NamedTuple

import numpy as np
from pydantic import Field

from ulvent.core.base.arrays import Floats, Matrices, Point, Points, turned_left, wrapped
from ulvent.core.base.fields import Model
from ulvent.core.base.remembered import remembered
from ulvent.core.base.tolerances import JOINT, ROUNDING
from ulvent.core.outlines import Outline, Polyline
from ulvent.core.shapes import Region
from ulvent.core.shapes.scattered import Scattered, reaching_out
from ulvent.core.steps.ink_edges import InkEdges

_ACROSS = np.array([-0.5, -0.25, 0.0, 0.25, 0.5])
"""Rays over a bridge's width, of its width."""
_OVERSHOOT = 0.02
"""A bridge reaches so far into the white on both sides, mm, so that no sliver is left."""
_FIRST_STROKES, _FIRST_WIDTHS = 2.5, 2.5
_FARTHEST_STROKES, _FARTHEST_WIDTHS = 20.0, 10.0
_SIMPLER = 0.005
"""What falls out is looked for with edges that are off by so much, mm, and have few points."""
_MOST_TRIED = 40
_STEP = 0.4
_LEAST_SAMPLES, _MOST_SAMPLES = 48, 240
_LEAST_COSINE = 0.35
_SPREADS = (1.0, 0.5, 0.2)
_SPECK = 0.01
"""Area, square mm, that no one misses."""
_EDGE = 1e-3
"""What comes this near to the sheet's edge hangs on it, mm."""
_WIDE_COUNTER = 2.5
_MUCH_DEARER = 1.0
_MOST_TIES = 2
_OPPOSED = -0.7
_IN_LINE = 0.35
_BY_HAND = math.radians(6.0)

_COST_OF = np.array([0.0, 0.25, 0.9])
"""Upright, level, square to the edge."""
_OBLIQUE, _UNLIKE, _ASIDE = 1.5, 1.2, 1.6


class BridgeChange(Model):
    """One bridge that was moved or taken away by hand.

    lettering, letter, bridge
        the letter's place in the words, and which of its bridges, from 0; the lettering is
        named where the recipe is the whole piece's
    angle
        where it stands: seen from the counter's middle, degrees in the letter's own frame
    """

    lettering: Annotated[str, Field(max_length=64)] = ""
    letter: Annotated[int, Field(ge=0, lt=2000)]
    bridge: Annotated[int, Field(ge=0, lt=50)]
    removed: bool = False
    angle: Annotated[float, Field(ge=-360.0, le=360.0, allow_inf_nan=False)] | None = None


@dataclass(frozen=True)
class Bridge:
    """A bridge over a stroke: from in the counter to beyond the stroke, mm.

    lettering, letter, number
        the letter that it is in, by its place in the words, -1 where it ties several or a
        border; and which of that letter's bridges it is
    angle
        where it stands seen from the counter's middle, degrees in the letter's own frame
    about, axes
        the counter's middle, and where the letter's own axes point: x and y of both
    """

    begin: Point
    end: Point
    width: float
    angle: float = 0.0
    lettering: str = ""
    letter: int = -1
    number: int = 0
    about: Point = (0.0, 0.0)
    axes: tuple[float, float, float, float] = (1.0, 0.0, 0.0, 1.0)

    @property
    def length(self) -> float:
        return math.dist(self.begin, self.end)

    @property
    def middle(self) -> Point:
        return (self.begin[0] + self.end[0]) / 2.0, (self.begin[1] + self.end[1]) / 2.0

    def region(self) -> Region:
        """What is left standing."""
        begin, end = np.array(self.begin), np.array(self.end)
        way = (end - begin) / max(self.length, JOINT)
        aside = np.array([-way[1], way[0]]) * (self.width / 2.0)
        return Region.of_rings([np.stack([begin - aside, end - aside, end + aside, begin + aside])])

    def moved(self, matrix: Matrices) -> Bridge:
        """Under a rigid map (2, 3), or one that mirrors."""
        ends = np.array([self.begin, self.end]) @ matrix[:, :2].T + matrix[:, 2]
        (bx, by), (ex, ey) = ends.tolist()
        ax, ay = (matrix[:, :2] @ np.array(self.about) + matrix[:, 2]).tolist()
        own = np.array(self.axes).reshape(2, 2) @ matrix[:, :2].T
        xx, xy, yx, yy = own.ravel().tolist()
        return replace(self, begin=(bx, by), end=(ex, ey), about=(ax, ay), axes=(xx, xy, yx, yy))


def angle_toward(at: Point, about: Point, axes: tuple[float, float, float, float]) -> float:
    """The angle, degrees, at which a bridge about a point would stand toward another.

    Parameters
    ----------
    about, axes
        the counter's middle and where the letter's own axes point, as a bridge has them
    """
    away = np.array(at) - np.array(about)
    along, up = (np.array(axes).reshape(2, 2) @ away).tolist()
    return math.degrees(math.atan2(up, along))


@remembered(2048)
def letter_bridges(
    outline: Outline, scale: float, width: float, changes: tuple[BridgeChange, ...] = ()
) -> tuple[Bridge, ...]:
    """The bridges of one letter, mm, in its own upright frame: always the same for it."""
    ink = Region.of(outline, np.array([[scale, 0.0, 0.0], [0.0, scale, 0.0]]))
    return tuple(bridges_of(ink, width, changes=changes))


def sheet_round(ink: Region, margin: float) -> Region:
    """A sheet in which the lettering stands free."""
    x0, y0, x1, y1 = ink.bounds
    return Region.box((x0 - margin, y0 - margin, x1 + margin, y1 + margin))


def bridges_of(
    ink: Region,
    width: float,
    fall: Fall | None = None,
    changes: Sequence[BridgeChange] = (),
) -> list[Bridge]:
    """Bridges that tie all that would fall out of a sheet when `ink` is cut from it.

    `fall` says what that is; without it the ink stands free in a sheet of its own.
    """
    holding, islands = fall or fall_of(ink, width, sheet_round(ink, 3.0 * width))
    if not islands:
        return []
    stem = 2.0 * ink.area / max(ink.perimeter, JOINT)
    search = _Search(ink, width, stem, changes)
    found: list[Bridge] = []
    waiting = islands
    while waiting:
        tied: list[Region] = []
        for island in waiting:
            mine = search.ties(island, holding)
            if mine:
                found.extend(mine)
                tied.append(island)
        if not tied:
            break
        holding = Region.joined([holding, *tied])
        waiting = [island for island in waiting if island not in tied]
    return [
        replace(bridge, number=number)
        for number, bridge in enumerate(found)
        if number not in search.removed
    ]


class Fall(NamedTuple):
    """What of a sheet holds when ink is cut from it, and the islands that fall out."""

    holding: Region
    islands: list[Region]


def fall_of(ink: Region, width: float, sheet: Region) -> Fall:
    """What of the sheet hangs together with its edge by a width or more, and what does not."""
    # An edge goes nowhere by so much that a bridge, which overshoots, would notice.
    ink = ink.simplified(_SIMPLER)
    left, letters = sheet.minus(ink), Scattered(ink.parts)
    half = _half_of_neck(width)
    # The same as shrinking what is left, letter by letter.
    shrunk = sheet.offset(-half)
    cores = shrunk.minus(ink.offset(half, off=_SIMPLER)).parts
    at_edge = reaching_out(cores, shrunk.offset(-_EDGE))
    held = [core for core, out in zip(cores, at_edge, strict=True) if out]
    if not held and cores:
        held = [max(cores, key=lambda core: core.area)]
    others = [core for core in cores if core not in held]
    loose = [_grown_again(core, width, sheet, letters) for core in others]
    holding: list[Region] = []
    in_held, in_others = (
        np.array([core.rings[0][0] for core in some]).reshape(-1, 2) for some in (held, others)
    )
    for part in left.parts:
        if part.contains(in_held).any():
            holding.append(part)
        elif part.area > _SPECK and not part.contains(in_others).any():
            # What is thinner than a bridge all over has no core.
            loose.append(part)
    return Fall(Region.joined(holding).minus(Region.joined(loose)), loose)


def _half_of_neck(width: float) -> float:
    """Half of the least width that holds: a bridge that stands already holds, though simpler
    edges may take a little from it."""
    return max(width / 2.0 - 2.0 * _SIMPLER, width / 4.0)


def _grown_again(core: Region, width: float, sheet: Region, letters: Scattered) -> Region:
    """What was shrunk by half a width as it was, without ink."""
    grown = core.offset(_half_of_neck(width) + 2.0 * _SIMPLER, off=_SIMPLER).meet(sheet)
    return grown.minus(letters.near(grown.bounds))


class _Search:
    """Looks for ties of one piece of ink."""

    def __init__(
        self, ink: Region, width: float, stem: float, changes: Sequence[BridgeChange]
    ) -> None:
        self._width, self._stem = width, stem
        self._changes = {change.bridge: change for change in changes}
        self._taken: list[tuple[Floats, Floats]] = []
        self._number = 0
        self.removed = {change.bridge for change in changes if change.removed}
        # Only what is near: a bridge over more than a few strokes is none.
        farthest = _FARTHEST_STROKES * stem + _FARTHEST_WIDTHS * width
        first = _FIRST_STROKES * stem + _FIRST_WIDTHS * width
        self._edges = InkEdges(
            ink.simplified(_SIMPLER), first, farthest, enough=width + 2.0 * _OVERSHOOT
        )

    def ties(self, island: Region, holding: Region) -> list[Bridge]:
        narrower = (self._tries(island, holding, share) for share in _SPREADS)
        tries = next((found for found in narrower if found is not None), None)
        if tries is None:
            return []
        wanted = _MOST_TIES if island.area > (_WIDE_COUNTER * self._width) ** 2 else 1
        found: list[Bridge] = []
        ways: list[Floats] = []
        while len(found) < wanted:
            chosen = self._choose(tries, ways)
            if chosen is None:
                break
            ways.append(tries.ways[chosen])
            self._taken.append((tries.ways[chosen], tries.begins[chosen]))
            found.append(tries.bridge(chosen, self._width))
            self._number += 1
        return found

    def _choose(self, tries: _Tries, ways: list[Floats]) -> int | None:
        costs = tries.costs.copy()
        if ways:
            costs[tries.ways @ ways[0] > _OPPOSED] = np.inf
            costs[costs > tries.costs.min() + _MUCH_DEARER] = np.inf
        if self._taken:
            taken, begins = np.array(self._taken).transpose(1, 0, 2)
            off = tries.begins[:, None] - begins
            aside = np.abs(off[..., 0] * taken[:, 1] - off[..., 1] * taken[:, 0])
            alike = (np.abs(tries.ways @ taken.T) > 0.98) & (aside < self._width)
            costs -= _IN_LINE * alike.sum(axis=1)
        change = self._changes.get(self._number)
        if change is not None and change.angle is not None:
            costs = tries.costs.copy()
            off = np.abs(wrapped(tries.angles - math.radians(change.angle)))
            costs[off > max(_BY_HAND, float(off.min()) + ROUNDING)] = np.inf
        best = int(np.argmin(costs))
        return best if np.isfinite(costs[best]) else None

    def _tries(self, island: Region, holding: Region, spread: float) -> _Tries | None:
        """What would do, with rays over `spread` of the width: a counter may be narrower."""
        across, back = _ACROSS * self._width * spread, self._width * spread * 0.5
        ring = max(island.rings, key=len)
        points, normals = _sampled(ring)
        middle, size = points.mean(axis=0), math.sqrt(max(island.area, JOINT))
        ups = np.column_stack([np.zeros(len(points)), np.sign(normals[:, 1])])
        acrosses = np.column_stack([np.sign(normals[:, 0]), np.zeros(len(points))])
        ways = np.concatenate([ups, acrosses, normals])
        kinds = np.repeat(np.arange(3), len(points))
        points, normals = np.tile(points, (3, 1)), np.tile(normals, (3, 1))
        square = np.einsum("ni,ni->n", ways, normals)
        good = square > _LEAST_COSINE
        points, ways, kinds, square = points[good], ways[good], kinds[good], square[good]
        if not len(points):
            return None
        offsets = np.abs(
            (points - middle)[:, 0] * ways[:, 1] - (points - middle)[:, 1] * ways[:, 0]
        )
        costs = _OBLIQUE * (1.0 - square) + _ASIDE * offsets / size + _COST_OF[kinds]
        angles = np.arctan2((points - middle)[:, 1], (points - middle)[:, 0])
        into, out, _ = self._edges.crossings(points - ways * back, ways)
        costs += np.where(
            np.isfinite(out), out - np.where(np.isfinite(into), into, 0.0), np.inf
        ) / (self._stem)
        ranked = np.argsort(costs)
        ranked = ranked[np.isfinite(costs[ranked])]
        # Rays over the whole width only for what is cheap by its middle; for the rest when
        # none of that will do.
        for some in (ranked[:_MOST_TRIED], ranked[_MOST_TRIED:]):
            if not len(some):
                break
            tries = self._tried(
                middle, points[some], ways[some], angles[some], costs[some], across, back,
                island, holding,
            )  # fmt: skip
            if tries is not None:
                return tries
        return None

    def _tried(
        self, middle: Floats, points: Points, ways: Floats, angles: Floats, costs: Floats,
        across: Floats, back: float, island: Region, holding: Region,
    ) -> _Tries | None:  # fmt: skip
        """Those of which all rays over the width cross one stroke and land in what holds."""
        asides = turned_left(ways)
        origins = points[:, None] + asides[:, None] * across[:, None] - ways[:, None] * back
        flat, rays = origins.reshape(-1, 2), np.repeat(ways, len(across), axis=0)
        into, out, beyond = self._edges.crossings(flat, rays, len(across))
        lands = np.zeros(len(flat), dtype=bool)
        met = np.isfinite(out)
        deep = 0.25 * np.minimum(beyond[met] - out[met], self._width)
        lands[met] = holding.contains(flat[met] + rays[met] * (out[met] + deep)[:, None])
        each = (len(points), len(across))
        into, out, beyond = into.reshape(each), out.reshape(each), beyond.reshape(each)
        good = (island.contains(flat) & lands).reshape(each).all(axis=1)
        good &= beyond.min(axis=1) > np.where(good, out.max(axis=1), 0.0) + 2.0 * _OVERSHOOT
        good &= into.min(axis=1) > _OVERSHOOT
        if not good.any():
            return None
        into, out, ways = into[good], out[good], ways[good]
        lengths = out - into
        unlike = np.abs(lengths[:, 0] - lengths[:, -1])
        middles = origins[good, len(across) // 2]
        return _Tries(
            middle,
            middles + ways * (into.min(axis=1) - _OVERSHOOT)[:, None],
            middles + ways * (out.max(axis=1) + _OVERSHOOT)[:, None],
            ways,
            angles[good],
            costs[good] + _UNLIKE * unlike / self._stem,
        )


@dataclass(frozen=True, eq=False)
class _Tries:
    """Bridges that would do, with what each costs. Arrays run over them."""

    middle: Floats
    begins: Floats
    ends: Floats
    ways: Floats
    angles: Floats
    costs: Floats

    def bridge(self, index: int, width: float) -> Bridge:
        (bx, by), (ex, ey) = self.begins[index].tolist(), self.ends[index].tolist()
        x, y = self.middle.tolist()
        angle = round(math.degrees(self.angles[index]), 3)
        return Bridge((bx, by), (ex, ey), width, angle, about=(x, y))


def _sampled(ring: Points) -> tuple[Floats, Floats]:
    """Points along a counter's edge at equal steps, and the normals that point out of it."""
    walk = Polyline(ring, True).walk()
    count = int(np.clip(walk.length / _STEP, _LEAST_SAMPLES, _MOST_SAMPLES))
    stations = np.linspace(0.0, walk.length, count, endpoint=False)
    # Where the edge reaches out farthest is where a bridge stands upright under its middle.
    extremes = [int(np.argmax(ring @ way)) for way in ((0, 1), (0, -1), (1, 0), (-1, 0))]
    stations = np.unique(np.concatenate([stations, walk.along[extremes]]))
    reach = walk.length / count / 4.0
    ways = walk.at(stations + reach) - walk.at(stations - reach)
    lengths = np.maximum(np.hypot(*ways.T), JOINT)
    normals = np.stack([ways[:, 1], -ways[:, 0]], axis=1) / lengths[:, None]
    return walk.at(stations), normals

"""A region: an area with holes, as polygons, in mm.

Outer rings run counter-clockwise and holes clockwise; no ring crosses itself or another.
The work is done by Clipper2 in fixed-point numbers, as manifold3d carries it.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from functools import cached_property
from typing import Literal

import manifold3d
import numpy as np

from ulvent.core.base.arrays import Booleans, Bounds, Floats, Matrices, Points
from ulvent.core.base.tolerances import DENSE, JOINT, LONG_CHORD, SHARP_TURN, SMOOTH_TURN
from ulvent.core.curves import Curve
from ulvent.core.outlines import Outline
from ulvent.core.shapes.flat import flat_contours, outline_of
from ulvent.core.shapes.near_pairs import near_one_another
from ulvent.core.shapes.strips import Strips, to_the_right

Corners = Literal["round", "mitred", "bevelled"]

_Section = manifold3d.CrossSection
_JOINS = {
    "round": manifold3d.JoinType.Round,
    "mitred": manifold3d.JoinType.Miter,
    "bevelled": manifold3d.JoinType.Bevel,
}
_QUARTER_TURN = np.array([[0.0, 1.0], [-1.0, 0.0]])
_SAME_LINE = DENSE / 4.0
_MITRE_LIMIT = 4.0
"""A mitre reaches at most so many offsets from its corner, as SVG's `stroke-miterlimit`."""


class Region:
    """An immutable area with holes.

    It is made from Clipper's section, or from rings that Clipper has made: those become a
    section again only where something is done to it.
    """

    def __init__(
        self,
        made_from: manifold3d.CrossSection | tuple[Floats, ...] = (),
        knots: tuple[Floats, ...] = (),
    ) -> None:
        self._made_from = made_from
        self._knots = knots

    @cached_property
    def _section(self) -> manifold3d.CrossSection:
        if not isinstance(self._made_from, tuple):
            return self._made_from
        if not self._made_from:
            return _Section()
        return _Section(list(self._made_from), manifold3d.FillRule.Positive)

    @property
    def knots(self) -> Points:
        """(k, 2) nodes of the curves that the region was made from, where they are known.

        Curves that are fitted to the region come out with the fewest nodes when they end
        where the old ones did.
        """
        return np.concatenate(self._knots) if self._knots else np.empty((0, 2))

    @classmethod
    def of_rings(cls, rings: Sequence[Points]) -> Region:
        """What closed rings (k, 2), which may cross, wind round: the non-zero rule."""
        kept = [ring for ring in rings if len(ring) >= 3]
        return cls(_Section(kept, manifold3d.FillRule.NonZero)) if kept else cls()

    @classmethod
    def of(cls, outline: Outline, matrix: Matrices | None = None) -> Region:
        """What the closed contours of an outline wind round, under an affine (2, 3) map."""
        knots = [contour.cubics[:, 0] for contour in outline.contours]
        if matrix is None:
            rings = [points for points, closed in flat_contours(outline) if closed]
        else:
            knots = [ends @ matrix[:, :2].T + matrix[:, 2] for ends in knots]
            scale = _rounded_scale(matrix)
            rings = [
                points @ matrix[:, :2].T + matrix[:, 2]
                for points, closed in flat_contours(outline, scale)
                if closed
            ]
        return Region(cls.of_rings(rings)._section, tuple(knots))

    @classmethod
    def inside(cls, curve: Curve) -> Region:
        """What a closed curve encloses."""
        return cls.of(outline_of(curve))

    @classmethod
    def box(cls, bounds: Bounds) -> Region:
        x0, y0, x1, y1 = bounds
        return cls.of_rings([np.array([[x0, y0], [x1, y0], [x1, y1], [x0, y1]])])

    @classmethod
    def disc(cls, centre: Floats, diameter: float) -> Region:
        """A disc, mm."""
        circle = _Section.circle(diameter / 2.0, _segments(diameter / 2.0))
        return cls(circle.translate(tuple(centre.tolist())))

    @classmethod
    def along(cls, points: Points, closed: bool, width: float) -> Region:
        """A band of a width, mm, with a dense line (k, 2) in its middle; ends are straight."""
        line = np.concatenate([points, points[:1]]) if closed else points
        line = line[np.hypot(*np.diff(line, axis=0, prepend=line[:1] - 1.0).T) > JOINT]
        if len(line) < 2:
            return cls()
        ways = np.diff(line, axis=0)
        ways /= np.hypot(*ways.T)[:, None]
        before = np.concatenate([ways[-1:] if closed else ways[:1], ways])
        after = np.concatenate([ways, ways[:1] if closed else ways[-1:]])
        # Strips of a smooth line meet on the bisectors of its joints; at corners stand discs.
        cosines = np.einsum("ni,ni->n", before, after)
        sharp = cosines < math.cos(SHARP_TURN)
        bisectors = (before + after) / np.where(sharp, 2.0, 1.0 + cosines)[:, None]
        asides = bisectors @ (_QUARTER_TURN * width / 2.0)
        at_begin = np.where(sharp[:, None], after @ (_QUARTER_TURN * width / 2.0), asides)[:-1]
        at_end = np.where(sharp[:, None], before @ (_QUARTER_TURN * width / 2.0), asides)[1:]
        begins, ends = line[:-1], line[1:]
        corners = np.stack(
            [begins + at_begin, begins - at_begin, ends - at_end, ends + at_end], axis=1
        )
        strips = [_Section([strip], manifold3d.FillRule.NonZero) for strip in corners]
        disc = _Section.circle(width / 2.0, _segments(width / 2.0))
        joints = [disc.translate(point) for point in line[sharp].tolist()]
        return cls(_Section.batch_boolean([*strips, *joints], manifold3d.OpType.Add))

    @classmethod
    def joined(cls, regions: Iterable[Region]) -> Region:
        """The union of all."""
        every = list(regions)
        if len(every) < 2:
            return every[0] if every else cls()
        knots = tuple(ends for region in every for ends in region._knots)
        if len(every) < _MANY:
            return cls(_united(every), knots)
        # Of many, most have nothing in common with any other, and stay as they are.
        groups = near_one_another([region.rings for region in every])
        made = (
            every[group[0]] if len(group) == 1 else cls(_united([every[one] for one in group]))
            for group in groups
        )
        return cls(tuple(ring for region in made for ring in region.rings), knots)

    def minus(self, other: Region) -> Region:
        """What is here and not there."""
        return Region(self._section - other._section, self._knots + other._knots)

    def meet(self, other: Region) -> Region:
        """What is here and there."""
        return Region(self._section ^ other._section, self._knots + other._knots)

    def offset(
        self, distance: float, corners: Corners = "round", off: float | None = None
    ) -> Region:
        """Grown by a distance, mm, or, where it is negative, shrunk.

        `corners` are those at which the new edge opens: convex ones when it grows,
        hollow ones when it shrinks. An edge that no one will draw may be `off` by so much, mm,
        and has far fewer points.
        """
        if distance == 0.0 or self.is_empty:
            return self
        join, radius = _JOINS[corners], abs(distance)
        segments = _segments(radius) if off is None else _segments_off(radius, off)
        # Part by part: sweeping over all letters at once takes eight times as long.
        parts = [
            part.offset(distance, join, _MITRE_LIMIT, segments)
            for part in self._section.decompose()
        ]
        # Every round joint adds points: those that say nothing are left out again.
        joined = _Section.batch_boolean(parts, manifold3d.OpType.Add)
        return Region(joined.simplify(_SAME_LINE if off is None else off))

    def simplified(self, tolerance: float) -> Region:
        """With fewer points, none of those left out farther than `tolerance` from the edge."""
        return Region(self._section.simplify(tolerance))

    def transformed(self, matrix: Matrices) -> Region:
        """Under an affine map (2, 3)."""
        return Region(self._section.transform(np.asarray(matrix, dtype=float)))

    @cached_property
    def rings(self) -> tuple[Floats, ...]:
        """Outer rings counter-clockwise, holes clockwise, (k, 2)."""
        if isinstance(self._made_from, tuple):
            return self._made_from
        return tuple(np.asarray(ring) for ring in self._made_from.to_polygons())

    @cached_property
    def edges(self) -> tuple[Points, Points]:
        """(n, 2) where edges begin and where they end, of all rings; an empty region has none."""
        if self.is_empty:
            return np.empty((0, 2)), np.empty((0, 2))
        begins = np.concatenate(self.rings)
        return begins, np.concatenate([np.roll(ring, -1, axis=0) for ring in self.rings])

    @cached_property
    def parts(self) -> tuple[Region, ...]:
        """What hangs together, each with its holes, from the left and from below."""
        parts = [Region(rings, self._knots) for rings in _hanging_together(self.rings)]
        return tuple(sorted(parts, key=lambda part: part.bounds))

    @cached_property
    def area(self) -> float:
        """Square mm."""
        return float(sum(map(ring_area, self.rings)))

    @cached_property
    def perimeter(self) -> float:
        """Of all rings, mm."""
        begins, ends = self.edges
        return float(np.hypot(*(ends - begins).T).sum())

    @property
    def is_empty(self) -> bool:
        return not self.rings

    @cached_property
    def bounds(self) -> Bounds:
        """Least x, least y, greatest x, greatest y; zeros for an empty region."""
        if self.is_empty:
            return (0.0, 0.0, 0.0, 0.0)
        # The section's own box is in single precision.
        points = self.rings[0] if len(self.rings) == 1 else np.concatenate(self.rings)
        (x0, y0), (x1, y1) = points.min(axis=0), points.max(axis=0)
        return (float(x0), float(y0), float(x1), float(y1))

    def filled(self) -> Region:
        """Without holes."""
        return Region.of_rings(self.outer_rings)

    @property
    def outer_rings(self) -> list[Floats]:
        """Those that go round what hangs together: one for each of the parts."""
        return [ring for ring in self.rings if ring_area(ring) > 0.0]

    def holes(self) -> Region:
        """What the holes are, with nothing of what stands in them."""
        return Region.of_rings([ring[::-1] for ring in self.rings if ring_area(ring) < 0.0])

    def contains(self, points: Points) -> Booleans:
        """(n,) whether each point is inside, by counting the edges to its right."""
        inside = np.zeros(len(points), dtype=bool)
        if not len(points) or not self.rings:
            return inside
        x, y = points.T
        lows, highs, lefts, rights = self._levels
        # A ring that is wholly to the right of a point is crossed an even number of times.
        near = (lows <= y.max()) & (highs > y.min()) & (rights >= x.min()) & (lefts <= x.max())
        for index in np.flatnonzero(near):
            level = np.flatnonzero((y >= lows[index]) & (y < highs[index]) & (x <= rights[index]))
            if len(level):
                inside[level] ^= self._inside(int(index), points[level])
        return inside

    @cached_property
    def _levels(self) -> tuple[Floats, Floats, Floats, Floats]:
        """The lowest and highest level of each ring, and how far it reaches left and right."""
        lows, highs = (
            np.array([end(ring, axis=0) for ring in self.rings]) for end in (np.min, np.max)
        )
        return lows[:, 1], highs[:, 1], lows[:, 0], highs[:, 0]

    def _inside(self, index: int, points: Points) -> Booleans:
        """Whether points are inside one of the rings."""
        ring = self.rings[index]
        if len(points) * len(ring) <= _FEW_PAIRS:
            crossed = to_the_right(points[:, None], ring, np.roll(ring, -1, axis=0))
            inside: Booleans = crossed.sum(axis=1) % 2 == 1
            return inside
        if index not in self._strips:
            self._strips[index] = Strips(ring)
        return self._strips[index].inside(points)

    @cached_property
    def _strips(self) -> dict[int, Strips]:
        return {}

    def some_point(self) -> tuple[float, float]:
        """A point inside: the middle of the widest stretch on a few level lines."""
        _, low, _, high = self.bounds
        begins, ends = self.edges
        widest, found = -1.0, (float(begins[0, 0]), float(begins[0, 1]))
        for share in _LEVELS:
            y = low + share * (high - low)
            over = (begins[:, 1] <= y) != (ends[:, 1] <= y)
            b, e = begins[over], ends[over]
            xs = np.sort(b[:, 0] + (y - b[:, 1]) / (e[:, 1] - b[:, 1]) * (e[:, 0] - b[:, 0]))
            widths = xs[1::2] - xs[0::2]
            if len(widths) and widths.max() > widest:
                at = int(np.argmax(widths))
                widest, found = float(widths[at]), (float(xs[2 * at] + xs[2 * at + 1]) / 2.0, y)
        return found


_MANY = 8


def _united(regions: Sequence[Region]) -> manifold3d.CrossSection:
    sections = [region._section for region in regions]
    return _Section.batch_boolean(sections, manifold3d.OpType.Add)


_LEVELS = (0.5, 0.3, 0.7, 0.1, 0.9)
_FEW_PAIRS = 50_000


def _hanging_together(rings: Sequence[Floats]) -> list[tuple[Floats, ...]]:
    """Each outer ring with the holes that are directly in it."""
    areas = np.array([ring_area(ring) for ring in rings])
    outer = np.flatnonzero(areas > 0.0)
    found = {index: [rings[index]] for index in outer.tolist()}
    corners = [np.concatenate([ring.min(axis=0), -ring.max(axis=0)]) for ring in rings]
    lows = np.array(corners).reshape(-1, 4)
    for hole in np.flatnonzero(areas < 0.0).tolist():
        round_it = outer[(lows[outer] <= lows[hole]).all(axis=1)]
        for index in round_it[np.argsort(areas[round_it])].tolist():
            # Rings may touch: what counts is where most of a hole is.
            alone = len(round_it) == 1
            if alone or Region((rings[index],)).contains(rings[hole]).mean() > 0.5:
                found[index].append(rings[hole])
                break
    return [tuple(some) for some in found.values()]


def ring_area(ring: Points) -> float:
    """Square mm, positive counter-clockwise."""
    # Seen from its first corner, what closes the ring adds nothing.
    x, y = (ring - ring[0]).T
    return float(x[:-1] @ y[1:] - y[:-1] @ x[1:]) / 2.0


def _segments(radius: float) -> int:
    """Chords of a whole circle that is as dense as `flat_contours` makes a curve."""
    by_bend = _segments_off(radius, DENSE)
    by_turn = 2.0 * math.pi / (0.6 * SMOOTH_TURN)
    by_length = 2.0 * math.pi * radius / (0.8 * LONG_CHORD)
    return 4 * math.ceil(max(by_bend, by_turn, by_length) / 4.0)


def _segments_off(radius: float, off: float) -> int:
    """Chords of a whole circle that are `off` from it by so much, mm."""
    return 4 * math.ceil(math.pi / math.acos(1.0 - min(off / radius, 0.5)) / 4.0)


def _rounded_scale(matrix: Matrices) -> float:
    """About mm a unit, in few steps, so that equal letters are flattened once."""
    scale = math.sqrt(abs(np.linalg.det(matrix[:, :2])))
    return float(2.0 ** (math.ceil(2.0 * math.log2(max(scale, JOINT))) / 2.0))

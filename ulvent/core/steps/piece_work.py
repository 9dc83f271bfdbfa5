"""What the steps of preparing do to pieces: joined, carried, hollowed, clipped, rounded."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from functools import cache
from typing import Literal

import numpy as np

from ulvent.core.base.arrays import Floats
from ulvent.core.base.tolerances import JOINT
from ulvent.core.outlines import Outline, Polyline
from ulvent.core.prepare.layers import Letter
from ulvent.core.recipe.preparing import Border
from ulvent.core.shapes import Region, flat_contours
from ulvent.core.steps.bridge_search import Bridge

_CRUMB = 0.002
_CORNER = 0.25
_TIP = 3.0
"""What rounding takes from a corner reaches no farther than this, in radii; a stroke does."""


def without_ties(pieces: list[Letter], ties: list[Bridge]) -> list[Letter]:
    """Pieces with bridges left standing in them."""
    if not ties:
        return pieces
    regions = [tie.region() for tie in ties]
    boxes = np.array([region.bounds for region in regions])
    found: list[Letter] = []
    for piece in pieces:
        x0, y0, x1, y1 = piece.area.bounds
        near = (boxes[:, 0] < x1) & (boxes[:, 2] > x0) & (boxes[:, 1] < y1) & (boxes[:, 3] > y0)
        mine = [regions[index] for index in np.flatnonzero(near).tolist()]
        left = piece.area.minus(Region.joined(mine)) if mine else piece.area
        if left.area == piece.area.area:
            found.append(piece)
        else:
            found.append(replace(piece, area=left, outline=None))
    return found


def merged(pieces: list[Letter], belong: Callable[[Region], bool]) -> list[Letter]:
    """Pieces made one wherever what they have in common says so."""
    owner = list(range(len(pieces)))

    def root(index: int) -> int:
        while owner[index] != index:
            index = owner[index]
        return index

    @cache
    def larger(index: int) -> Region:
        """What only touches has something in common once it is a little larger."""
        return pieces[index].area.offset(JOINT)

    seams: list[tuple[int, Region]] = []
    boxes = np.array([piece.area.bounds for piece in pieces]).reshape(-1, 4)
    boxes += np.array([-1.0, -1.0, 1.0, 1.0]) * 2.0 * JOINT
    for one in range(len(pieces)):
        x0, y0, x1, y1 = boxes[one]
        later = boxes[one + 1 :]
        near = (later[:, 0] <= x1) & (later[:, 2] >= x0) & (later[:, 1] <= y1) & (later[:, 3] >= y0)
        for two in (np.flatnonzero(near) + one + 1).tolist():
            common = larger(one).meet(larger(two))
            if not common.is_empty and belong(common):
                seams.append((one, common))
                owner[root(two)] = root(one)
    groups: dict[int, list[int]] = {}
    for index in range(len(pieces)):
        groups.setdefault(root(index), []).append(index)
    return [
        _one([pieces[i] for i in group], [seam for at, seam in seams if at in group])
        for group in groups.values()
    ]


def _one(pieces: list[Letter], seams: list[Region]) -> Letter:
    """Several pieces as one, held together by their seams too where they only touch."""
    first = pieces[0]
    if len(pieces) == 1:
        return first
    names = {piece.lettering for piece in pieces}
    heights = [piece.height for piece in pieces if piece.height > 0.0]
    thin = [seam.offset(JOINT) for seam in seams if seam.offset(-2.0 * JOINT).is_empty]
    return Letter(
        Region.joined([*(piece.area for piece in pieces), *thin]),
        names.pop() if len(names) == 1 else "",
        text="".join(piece.text for piece in pieces),
        height=min(heights, default=0.0),
    )


def carried(pieces: list[Letter], band: Region) -> list[Letter]:
    """Pieces with a band that is one with all that it touches."""
    larger = band.offset(2.0 * JOINT)
    touched = [piece for piece in pieces if not piece.area.meet(larger).is_empty]
    carrier = _one([Letter(band), *touched], [larger.meet(piece.area) for piece in touched])
    return [carrier, *(piece for piece in pieces if piece not in touched)]


def bordered(pieces: list[Letter], region: Region, border: Border) -> list[Letter]:
    """Pieces made one with a border round them, or hollowed by one inside."""
    if border.distance < 0.0:
        hollow = (replace(p, area=p.area.minus(region), outline=None) for p in pieces)
        return [piece for piece in hollow if not piece.area.is_empty]
    whole = Region.joined([region, *(piece.area for piece in pieces)])
    text = "".join(piece.text for piece in pieces)
    return [Letter(part, pieces[0].lettering if pieces else "", text=text) for part in whole.parts]


def holes_filled(region: Region, narrower: float) -> Region:
    """Without the holes that are nowhere as wide as this."""
    holes = region.holes()
    small = [hole for hole in holes.parts if hole.offset(-narrower / 2.0).is_empty]
    return Region.joined([region, *(hole.offset(JOINT) for hole in small)])


def near_lines(stroke: Outline, distance: float) -> Region:
    """What is nearer to single lines than a distance."""
    found: list[Region] = []
    for points, closed in flat_contours(stroke):
        found.append(Region.along(points, closed, 2.0 * distance))
        if not closed:
            found.extend(Region.disc(points[end], 2.0 * distance) for end in (0, -1))
    return Region.joined(found)


def clipped(line: Polyline, shape: Region, inside: bool) -> list[Polyline]:
    """The parts of a dense line that are inside, or outside, of a shape."""
    points, closed = line
    dense = np.concatenate([points, points[:1]]) if closed else points
    begins, ends = dense[:-1], dense[1:]
    edges = [(ring, np.roll(ring, -1, axis=0)) for ring in shape.rings]
    shares: list[list[float]] = [[] for _ in begins]
    for a, b in edges:
        way, edge = ends - begins, b - a
        for some in np.array_split(np.arange(len(begins)), 1 + len(begins) * len(a) // 2_000_000):
            cross = way[some, None, 0] * edge[:, 1] - way[some, None, 1] * edge[:, 0]
            off = a - begins[some, None]
            with np.errstate(divide="ignore", invalid="ignore"):
                t = (off[..., 0] * edge[:, 1] - off[..., 1] * edge[:, 0]) / cross
                u = (off[..., 0] * way[some, None, 1] - off[..., 1] * way[some, None, 0]) / cross
            hit = (t > 0.0) & (t < 1.0) & (u >= 0.0) & (u < 1.0)
            for i, j in np.argwhere(hit).tolist():
                shares[int(some[i])].append(float(t[i, j]))
    pieces: list[list[Floats]] = [[]]
    middles: list[Floats] = []
    stretches: list[tuple[Floats, Floats]] = []
    for begin, end, cuts in zip(begins, ends, shares, strict=True):
        marks = [0.0, *sorted(cuts), 1.0]
        for low, high in zip(marks[:-1], marks[1:], strict=True):
            stretches.append((begin + (end - begin) * low, begin + (end - begin) * high))
            middles.append(begin + (end - begin) * (low + high) / 2.0)
    keep = shape.contains(np.array(middles)) == inside
    for (begin, end), kept in zip(stretches, keep.tolist(), strict=True):
        if not kept:
            if pieces[-1]:
                pieces.append([])
            continue
        if not pieces[-1]:
            pieces[-1].append(begin)
        pieces[-1].append(end)
    found = [np.array(piece) for piece in pieces if len(piece) >= 2]
    if closed and keep.all():
        return [line]
    if closed and len(found) > 1 and keep[0] and keep[-1]:
        found[0] = np.concatenate([found.pop(), found[0][1:]])
    return [Polyline(piece, False) for piece in found]


def rounded(area: Region, outside: float, inside: float) -> tuple[Region, int]:
    """An area with its corners rounded to two radii, mm; how many strokes were too thin for it.

    Those are left as they are.
    """
    thin = 0
    if outside > 0.0:
        opened = area.offset(-outside).offset(outside)
        beyond = opened.offset(_TIP * outside)
        kept: list[Region] = []
        for rest in area.minus(opened).parts:
            # A right-angled corner loses (1 - pi / 4) r².
            if rest.area < _CORNER * outside * outside:
                continue
            far = not rest.minus(beyond).is_empty
            if far or len(rest.offset(1e-4).meet(opened).parts) > 1:
                kept.append(rest.offset(1e-4))
        thin = len(kept)
        area = Region.joined([opened, *kept]).meet(area) if kept else opened
    if inside > 0.0:
        area = area.offset(inside).offset(-inside)
    return area, thin


def unreached(area: Region, diameter: float, side: Literal["inside", "outside"]) -> Region:
    """Corners that a round cutter does not come into: where it clears the inside of an area,
    what it leaves of it; where it goes round the outside, what it cannot take beside it.
    """
    radius = diameter / 2.0
    # Along curves reach and area are nearly the same: crumbs of the difference are no corners.
    if side == "inside":
        rest = area.minus(area.offset(-radius).offset(radius + _CRUMB))
    else:
        rest = area.offset(radius).offset(-radius - _CRUMB).minus(area)
    return _big_enough(rest, math.pi * (0.02 * diameter) ** 2)


def _big_enough(region: Region, least: float) -> Region:
    return Region.joined(part for part in region.parts if part.area > least)

"""Areas carved: grooves of a pointed cutter, and floors cleared by a flat one.

A pointed cutter that stands in the middle between two edges is as deep as it takes to touch both:
the radius of the circle that touches them, over the tangent of half its angle. So it follows the
skeleton of the area, and comes up in corners as chisels do. Where the area is wider than the
deepest groove is, it follows the edges instead, at the depth, and the floor between is a flat
cutter's to clear.
"""

from __future__ import annotations

import math
from typing import Any, NamedTuple

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Lengths, Millimetres, Points, wrapped
from ulvent.core.base.tolerances import JOINT
from ulvent.core.base.trees import point_tree
from ulvent.core.runs.few_moves import that_matter
from ulvent.core.shapes import Region
from ulvent.core.shapes.flat import divided
from ulvent.core.shapes.skeleton import Skeleton, branches

_STEP = 0.1
"""mm apart that edges are looked at."""
_MOST_POINTS = 8000
_LEAST_POINTS = 200
_ARC_OVER_CHORD = 1.015
"""Twigs of the skeleton that run into bends flatter than this are none: into 160 degrees or so."""
_CORNER = math.radians(20.0)
_TWIG = 0.05
"""mm: what is shorter leads nowhere."""
_SMALL = 4.0
"""Times the step is at most the radius with which the skeleton ends that runs into a corner."""
_NEAR_CORNER = 8.0
"""Times its radius that the end of a branch may be from the corner it runs into."""
_OFF = 0.004
"""How far a way may be from where it should be, mm, depth and all."""
_EVENLY = 0.1
_FINER = 5.0
"""Times as near to one another are the places on edges that depths are measured to."""


class Carved(NamedTuple):
    """A way of a cutter.

    points, depths
        (k, 2) mm, and (k,) mm below the surface at each
    closed
        whether it comes back to its beginning, and how deep it is all along
    """

    points: Points
    depths: Lengths
    closed: bool = False


def grooves(area: Region, angle: float, deepest: Millimetres) -> list[Carved]:
    """The ways of a pointed cutter that carves an area with walls as steep as its sides.

    angle
        between the sides of the cutter, degrees
    deepest
        how deep it goes at most
    """
    slope = math.tan(math.radians(angle / 2.0))
    found: list[Carved] = []
    for part in area.parts:
        for points, radii in _middles(part):
            depths = radii / slope
            for some, deep in stretches(points, depths, deepest, above=False):
                kept = that_matter(np.column_stack([some, deep]), _OFF)
                found.append(Carved(some[kept], deep[kept]))
    floor = area.simplified(_OFF).offset(-deepest * slope)
    return [*found, *(Carved(ring, np.full(len(ring), deepest), True) for ring in floor.rings)]


def clearings(
    area: Region, bit: Millimetres, over: float, left: Millimetres, depth: Millimetres
) -> list[Carved]:
    """The ways of a flat cutter that clears an area, from its middle to its edges.

    bit
        its diameter
    over
        mm from one way round to the next
    left
        mm that are left standing at the edges
    """
    found: list[Carved] = []
    rest = area.simplified(_OFF).offset(-(bit / 2.0 + left))
    while not rest.is_empty:
        found += [Carved(ring, np.full(len(ring), depth), True) for ring in rest.rings]
        rest = rest.offset(-over)
    return found[::-1]


def stretches(
    points: Points, depths: Lengths, level: Millimetres, above: bool
) -> list[tuple[Points, Lengths]]:
    """What of a way is deeper than a level, or no deeper: (k, 2) and (k,) each."""
    points, depths = with_level(points, depths, level)
    middles = (depths[:-1] + depths[1:]) / 2.0
    wanted = middles > level if above else middles <= level + JOINT
    found = []
    for first, last in _runs(wanted):
        found.append((points[first : last + 2], depths[first : last + 2]))
    return found


def with_level(points: Points, depths: Lengths, level: Millimetres) -> tuple[Points, Lengths]:
    """A way with points where it comes to a level."""
    rise = depths - level
    at = np.flatnonzero(rise[:-1] * rise[1:] < 0.0)
    shares = (rise[at] / (rise[at] - rise[at + 1]))[:, None]
    crossings = points[at] + shares * (points[at + 1] - points[at])
    return np.insert(points, at + 1, crossings, axis=0), np.insert(depths, at + 1, level)


def _runs(wanted: Booleans) -> list[tuple[int, int]]:
    """First and last of those that are wanted one after another."""
    edges = np.flatnonzero(np.diff(np.concatenate([[False], wanted, [False]]).astype(int)))
    return [(int(a), int(b) - 1) for a, b in edges.reshape(-1, 2)]


def _middles(part: Region) -> list[tuple[Points, Lengths]]:
    """The skeleton of what hangs together, branch by branch, into its corners: with the radii of
    the circles that touch its edges."""
    step = min(max(_STEP, part.perimeter / _MOST_POINTS), part.perimeter / _LEAST_POINTS)
    skeleton = Skeleton.of(part, step)
    near = skeleton.near(skeleton.arcs > _ARC_OVER_CHORD * skeleton.chords)
    corners = np.concatenate([_corners(ring) for ring in part.rings])
    edges = point_tree(np.concatenate([divided(ring, step / _FINER) for ring in part.rings]))
    found = []
    for branch in branches(near):
        # Between two corners that stand in, the circles are not evenly large along an edge.
        points = divided(skeleton.at[branch], step, closed=False)
        radii = edges.query(points)[0]
        for end in (branch[0], branch[-1]):
            points, radii = points[::-1], radii[::-1]
            if len(near[end]) == 1 and radii[-1] < _SMALL * step:
                corner = _corner_of(points[-1], radii[-1], corners, edges)
                points = np.concatenate([points, corner])
                radii = np.concatenate([radii, np.zeros(len(corner))])
        found.append((points, radii))
    # A round dot has no more of a middle than a place: the cutter goes down in it.
    long = [way for way in found if np.hypot(*np.diff(way[0], axis=0).T).sum() > _TWIG]
    return long or sorted(found, key=lambda way: -way[1].max())[:1]


def _corners(ring: Floats) -> Points:
    """Where a ring turns sharply to its inner side."""
    chords = np.diff(ring, axis=0, append=ring[:1])
    angles = np.arctan2(chords[:, 1], chords[:, 0])
    found: Points = ring[wrapped(angles - np.roll(angles, 1)) > _CORNER]
    return found


def _corner_of(end: Points, radius: float, corners: Points, edges: Any) -> Points:
    """The corner that a branch runs into from its end, (1, 2) or none, (0, 2).

    On the way into a corner the edges come nearer evenly: half way they are half as far.
    """
    away = np.hypot(*(corners - end).T)
    near = corners[away <= _NEAR_CORNER * radius + JOINT]
    if not len(near):
        return np.empty((0, 2))
    halves = edges.query((near + end) / 2.0)[0]
    good = near[np.abs(halves - radius / 2.0) <= _EVENLY * radius + _OFF]
    found: Points = good[np.argsort(np.hypot(*(good - end).T))[:1]]
    return found

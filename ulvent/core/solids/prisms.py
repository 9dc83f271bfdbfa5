"""Areas made solid, with walls that stand straight, lean, or are taken off at the top.

Walls that come in go from each corner of an area to the same corner of the area made smaller: few
triangles, and exact. Where corners meet on the way, as at the tips of rounded strokes, that cannot
be done, and a roof over the area is cut off (`roofs`).

Manifold carries the solids; what it cannot make it says as a status, asked for here.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

import manifold3d
import numpy as np

from ulvent.core.base.arrays import Floats, Millimetres, Points
from ulvent.core.base.errors import wrong_field
from ulvent.core.recipe.solid import Edge
from ulvent.core.shapes import Region
from ulvent.core.shapes.region import ring_area
from ulvent.core.solids.roofs import Profile, roofed

_MITRE = 6.0
"""By how many times its inset a corner may move."""
_SAME_AREA = 1e-7
_ROOF_STEP = 0.15
"""mm apart that edges are looked at; the coarser the tolerance, the more."""


def prism(area: Region, low: Millimetres, high: Millimetres) -> manifold3d.Manifold:
    """What is straight above an area, from one height to another."""
    section = manifold3d.CrossSection(list(area.rings), manifold3d.FillRule.Positive)
    return section.extrude(high - low).translate((0.0, 0.0, low))


def profile(
    height: Millimetres,
    draft: float = 0.0,
    edge: Edge = "square",
    size: Millimetres = 0.0,
    off: Millimetres = 0.01,
) -> Profile:
    """How walls of a height go up.

    draft
        degrees by which they lean in
    edge, size
        how their upper edge is taken off, and by how much
    off
        mm by which chords may be off a rounded edge
    """
    leaning = math.tan(math.radians(draft))
    taken = 0.0 if edge == "square" else min(size, height)
    below = height - taken
    found = [(0.0, 0.0)] if below or not taken else []
    if below:
        found.append((below, below * leaning))
    if not taken:
        return tuple(found)
    if edge == "bevelled":
        return (*found, (height, height * leaning + taken))
    step = 2.0 * math.acos(1.0 - min(off / taken, 0.5))
    count = max(math.ceil(math.pi / 2.0 / step), 2)
    for turn in np.linspace(0.0, math.pi / 2.0, count + 1)[0 if not found else 1 :].tolist():
        z = below + taken * math.sin(turn)
        found.append((z, z * leaning + taken * (1.0 - math.cos(turn))))
    return tuple(found)


def walled(area: Region, low: Millimetres, walls: Profile, off: Millimetres) -> manifold3d.Manifold:
    """An area made solid from `low` up, its walls going up from 0 as a profile says.

    off
        mm by which it may be off

    Raises
    ------
    PieceError
        Where no such walls are found.
    """
    if not any(inset for _, inset in walls):
        return prism(area, low, walls[-1][0])
    corners = [_insets(area.rings, inset) for _, inset in walls]
    if all(rings is not None for rings in corners):
        levels: list[tuple[Millimetres, Sequence[Points]]]
        levels = [(low, area.rings)] if low < walls[0][0] else []
        levels += [(z, rings) for (z, _), rings in zip(walls, corners, strict=True) if rings]
        return _lofted(levels)
    roofs = [roofed(part, low, walls, _ROOF_STEP + 4.0 * off) for part in area.parts]
    made = [one for one in roofs if one is not None]
    if not made or len(made) < len(roofs):
        raise wrong_field("solid", "no leaning walls are found for one of its outlines")
    return joined(made).simplify(off / 2.0)


def _insets(rings: Sequence[Points], inset: Millimetres) -> list[Points] | None:
    """Rings whose edges have moved in, corner for corner; nothing where edges are used up."""
    if not inset:
        return list(rings)
    found = [_inset(ring, inset) for ring in rings]
    made = [ring for ring in found if ring is not None]
    if len(made) < len(found):
        return None
    # Rings that cross hold another area than their turns add up to.
    area = sum(map(ring_area, made))
    there = Region.of_rings(made)
    if len(there.rings) != len(made) or abs(there.area - area) > _SAME_AREA * max(area, 1.0):
        return None
    return made


def _inset(ring: Points, inset: Millimetres) -> Points | None:
    ways = np.roll(ring, -1, axis=0) - ring
    longs = np.hypot(*ways.T)
    if not longs.all():
        return None
    ways /= longs[:, None]
    before = np.roll(ways, 1, axis=0)
    cosines = (ways * before).sum(axis=1)
    if (1.0 + cosines).min() < 2.0 / _MITRE**2:
        return None
    # To the left, inside of what runs counter-clockwise, along the bisector.
    bisectors = (ways + before) / (1.0 + cosines)[:, None]
    moved: Points = ring + inset * np.stack([-bisectors[:, 1], bisectors[:, 0]], axis=1)
    kept = ((np.roll(moved, -1, axis=0) - moved) * ways).sum(axis=1)
    return moved if kept.min() > 0.0 else None


def _lofted(levels: Sequence[tuple[Millimetres, Sequence[Points]]]) -> manifold3d.Manifold:
    """The solid between rings at heights, each with the same corners as the one below."""
    flat = [np.concatenate(rings) for _, rings in levels]
    count = len(flat[0])
    vertices = np.concatenate(
        [
            np.concatenate([points, np.full((count, 1), z)], axis=1)
            for (z, _), points in zip(levels, flat, strict=True)
        ]
    )
    following = np.concatenate(
        [start + np.roll(np.arange(size), -1) for start, size in _runs(levels[0][1])]
    )
    here = np.arange(count)
    faces: list[Floats] = [np.asarray(manifold3d.triangulate(list(levels[0][1])))[:, ::-1]]
    for level in range(len(levels) - 1):
        a, b = here + level * count, following + level * count
        faces.append(np.stack([a, b, b + count], axis=1))
        faces.append(np.stack([a, b + count, a + count], axis=1))
    top = np.asarray(manifold3d.triangulate(list(levels[-1][1])))
    faces.append(top + (len(levels) - 1) * count)
    return manifold3d.Manifold(
        manifold3d.Mesh64(np.ascontiguousarray(vertices), np.concatenate(faces).astype(np.uint64))
    )


def _runs(rings: Sequence[Points]) -> Iterable[tuple[int, int]]:
    """Where each ring begins among all corners, and how many it has."""
    start = 0
    for ring in rings:
        yield start, len(ring)
        start += len(ring)


def joined(solids: Iterable[manifold3d.Manifold]) -> manifold3d.Manifold:
    """The union of all."""
    return manifold3d.Manifold.batch_boolean(list(solids), manifold3d.OpType.Add)


def sound(solid: manifold3d.Manifold, field: str) -> manifold3d.Manifold:
    """A solid that could be made.

    Raises
    ------
    PieceError
        Naming `field`, where it could not.
    """
    if solid.status() != manifold3d.Error.NoError:
        raise wrong_field(field, f"no solid comes of it ({solid.status().name})")
    return solid

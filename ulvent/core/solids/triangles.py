"""A closed surface of triangles that was read: what lies beside what, and how it is turned."""

from __future__ import annotations

from functools import cached_property

import manifold3d
import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Integers
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.linked import joined_groups
from ulvent.core.base.tolerances import JOINT
from ulvent.core.guides.round_blanks import SideBlank
from ulvent.core.recipe.read_body import ReadBody, unpacked

FLAT = 0.004
"""How far corners may be off the plane of a flat face, mm."""
_LEAST_DEPTH = 1e-6


def read_solid(body: ReadBody) -> manifold3d.Manifold:
    """The solid of a read body, where its face is laid out.

    Raises
    ------
    PieceError
        Naming `solid.body.mesh` where its triangles do not close.
    """
    vertices, triangles = unpacked(body.mesh)
    laid = vertices @ body.matrix[:, :3].T + body.matrix[:, 3]
    if not isinstance(body.face, SideBlank):
        # Files are in single precision: what is meant to be one plane is made one again.
        laid[np.abs(laid[:, 2]) <= FLAT, 2] = 0.0
    made = closed(laid, triangles)
    if made is None:
        raise wrong_field("solid.body.mesh", "its triangles do not close a body")
    return made


def closed(vertices: Floats, triangles: Integers) -> manifold3d.Manifold | None:
    """The solid that triangles close; none where they do not, or it is inside out."""
    made = manifold3d.Manifold(
        manifold3d.Mesh64(np.ascontiguousarray(vertices), triangles.astype(np.uint64))
    )
    sound = made.status() == manifold3d.Error.NoError and not made.is_empty()
    return made if sound and made.volume() > 0.0 else None


class Triangles:
    """Triangles that close.

    vertices, triangles
        (n, 3) mm, and (m, 3) places in them, counter-clockwise as seen from outside
    """

    def __init__(self, vertices: Floats, triangles: Integers) -> None:
        self.vertices, self.triangles = vertices, triangles
        self.corners: Floats = vertices[triangles]
        a, b, c = self.corners.transpose(1, 0, 2)
        crosses = np.cross(b - a, c - a)
        lengths = np.sqrt((crosses**2).sum(axis=1))
        self.areas: Floats = lengths / 2.0
        self.normals: Floats = crosses / np.maximum(lengths, JOINT**2)[:, None]
        self.middles: Floats = self.corners.mean(axis=1)

    def __len__(self) -> int:
        return len(self.triangles)

    @cached_property
    def links(self) -> Integers:
        """(e, 2) triangles that have an edge in common, each pair once."""
        return (self._edges_in_pairs % len(self)).reshape(-1, 2)

    @cached_property
    def link_lengths(self) -> Floats:
        """(e,) how long the common edges are, mm."""
        starts, ends = self._edges
        which = self._edges_in_pairs[::2]
        ways = self.vertices[ends[which]] - self.vertices[starts[which]]
        found: Floats = np.sqrt((ways**2).sum(axis=1))
        return found

    @cached_property
    def _edges(self) -> tuple[Integers, Integers]:
        """(3m,) corners where edges begin and end: the first of all triangles, then the second."""
        return self.triangles.T.ravel(), np.roll(self.triangles, -1, axis=1).T.ravel()

    @cached_property
    def _edges_in_pairs(self) -> Integers:
        """(3m,) edges, by their places in `_edges`: the two that are one lie side by side."""
        starts, ends = self._edges
        order: Integers = np.lexsort((np.maximum(starts, ends), np.minimum(starts, ends)))
        return order

    @cached_property
    def link_cosines(self) -> Floats:
        """(e,) cosines of the turn of the surface at the common edges."""
        one, two = self.links.T
        found: Floats = np.einsum("ni,ni->n", self.normals[one], self.normals[two])
        return found

    def hanging_together(self, links: Booleans, among: Booleans | None = None) -> Integers:
        """(m,) the number of the group that each triangle is in, joined over some of the links;
        those that are not `among` stay by themselves."""
        one, two = self.links[links].T
        if among is not None:
            both = among[one] & among[two]
            one, two = one[both], two[both]
        return joined_groups(one, two, len(self))

    def depth(self, begin: Floats, way: Floats) -> float:
        """How far a ray, begun on the surface, goes through the body before it comes out, mm."""
        a = self.corners[:, 0] - begin
        first, second = self.corners[:, 1] - begin - a, self.corners[:, 2] - begin - a
        across = np.cross(way, second)
        det = np.einsum("ni,ni->n", first, across)
        with np.errstate(divide="ignore", invalid="ignore"):
            u = -np.einsum("ni,ni->n", a, across) / det
            side = np.cross(-a, first)
            v = side @ way / det
            far = np.einsum("ni,ni->n", second, side) / det
            met = (u >= -JOINT) & (v >= -JOINT) & (u + v <= 1.0 + JOINT) & (far > _LEAST_DEPTH)
        # A body ends where the ray leaves it: at a triangle that looks the same way.
        met &= self.normals @ way > JOINT
        return float(far[met].min()) if met.any() else 0.0

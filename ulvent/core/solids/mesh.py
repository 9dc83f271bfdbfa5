"""A closed surface of triangles."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import manifold3d
import numpy as np

from ulvent.core.base.arrays import Floats, Integers


@dataclass(frozen=True, eq=False)
class Mesh:
    """Triangles that close, each counter-clockwise as seen from outside.

    vertices
        (n, 3) mm
    triangles
        (m, 3) places in `vertices`
    name, colour
        what it is called, and `#rrggbb`
    """

    vertices: Floats
    triangles: Integers
    name: str
    colour: str

    @classmethod
    def of(cls, solid: manifold3d.Manifold, name: str, colour: str) -> Mesh:
        """The mesh of a solid that has been made."""
        made = solid.to_mesh64()
        return cls(
            np.asarray(made.vert_properties)[:, :3].astype(float),
            np.asarray(made.tri_verts).astype(np.int64),
            name,
            colour,
        )

    @cached_property
    def _corners(self) -> Floats:
        corners: Floats = self.vertices[self.triangles]
        return corners

    @cached_property
    def crosses(self) -> Floats:
        """(m, 3) normals, twice as long as their triangles are large."""
        a, b, c = self._corners.transpose(1, 0, 2)
        found: Floats = np.cross(b - a, c - a)
        return found

    @property
    def volume(self) -> float:
        """Cubic mm, by the divergence theorem."""
        if not len(self.triangles):
            return 0.0
        # About a point of its own: far from the origin the terms would cancel.
        return float(((self._corners[:, 0] - self.vertices[0]) * self.crosses).sum() / 6.0)

    @property
    def area(self) -> float:
        """Square mm."""
        return float(np.sqrt((self.crosses**2).sum(axis=1)).sum() / 2.0)

    @property
    def box(self) -> tuple[tuple[float, float, float], tuple[float, float, float]]:
        """The least and the greatest of its coordinates, mm."""
        low, high = self.vertices.min(axis=0).tolist(), self.vertices.max(axis=0).tolist()
        return (low[0], low[1], low[2]), (high[0], high[1], high[2])

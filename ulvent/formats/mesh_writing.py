"""Meshes as STL and OBJ, mm."""

from __future__ import annotations

import numpy as np
from scipy.spatial import cKDTree

from ulvent.core.base.arrays import Floats
from ulvent.core.solids import MadeSolid

_HEAD = 80
_TOLD_APART = 1e-6
"""mm: corners that lie nearer are one to who reads the file."""
_STEPS = 16
"""Of so many steps at most is a corner moved off others."""
_TRIANGLE = np.dtype([("normal", "<f4", 3), ("corners", "<f4", (3, 3)), ("spare", "<u2")])


def stl(solid: MadeSolid) -> bytes:
    """Binary STL: a head of 80 bytes, a count, 50 bytes a triangle; it does not say its unit."""
    triangles = [_in_single(mesh.vertices)[mesh.triangles] for mesh in solid.meshes]
    corners = np.concatenate(triangles)
    a, b, c = corners.astype(float).transpose(1, 0, 2)
    normals = np.cross(b - a, c - a)
    lengths = np.sqrt((normals**2).sum(axis=1, keepdims=True))
    records = np.zeros(len(corners), dtype=_TRIANGLE)
    records["normal"] = normals / np.where(lengths == 0.0, 1.0, lengths)
    records["corners"] = corners
    head = b"Ulvent, mm".ljust(_HEAD, b" ")
    return head + np.uint32(len(records)).tobytes() + records.tobytes()


def _in_single(vertices: Floats) -> Floats:
    """Vertices in single precision; those that would be one there are moved off each other.

    Who reads the file knows which corners are one by their being equal, or nearly so.
    """
    found = vertices.astype("<f4")
    for _ in range(_STEPS):
        pairs = cKDTree(found).query_pairs(_TOLD_APART, output_type="ndarray")
        if not len(pairs):
            break
        # Of many in one place each is moved farther than the one before it.
        again, before = np.unique(pairs[:, 1], return_counts=True)
        step = np.maximum(np.spacing(np.abs(found[again, 0])), np.float32(2.0 * _TOLD_APART))
        found[again, 0] += step * before.astype("<f4")
    return found


def obj(solid: MadeSolid) -> bytes:
    """Wavefront OBJ: an object a mesh."""
    lines = ["# Ulvent, mm"]
    before = 1
    for mesh in solid.meshes:
        lines.append(f"o {'_'.join(mesh.name.split()) or 'part'}")
        lines += [f"v {x:.6f} {y:.6f} {z:.6f}" for x, y, z in mesh.vertices.tolist()]
        lines += [f"f {a} {b} {c}" for a, b, c in (mesh.triangles + before).tolist()]
        before += len(mesh.vertices)
    return ("\n".join(lines) + "\n").encode()

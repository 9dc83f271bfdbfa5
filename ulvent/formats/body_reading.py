"""Bodies read from STL and 3MF: triangles that close, in mm, welded, with none that says nothing.

The files are read by trimesh. STL says no unit; a 3MF file has one, and places its objects.
"""

from __future__ import annotations

import io
from typing import Literal

import manifold3d
import numpy as np

from ulvent.core.base.errors import UlventError
from ulvent.core.base.fields import FARTHEST
from ulvent.core.recipe.read_body import MOST_TRIANGLES
from ulvent.core.solids.triangles import Triangles, closed
from ulvent.formats.format import FileUnit

BodyKind = Literal["stl", "3mf"]
MOST_BYTES = 30_000_000
MOST_READ = 600_000
"""Triangles of the largest file that is read; they are made fewer where they say nothing."""
_OFF = 0.002
"""mm by which a body may be off with fewer triangles."""
_MM = {"millimeter": 1.0, "micron": 0.001, "centimeter": 10.0, "meter": 1000.0, "inch": 25.4,
       "foot": 304.8}  # fmt: skip


class BodyFileError(UlventError):
    """A file from which no body can be read; says why."""


def read_body(data: bytes, kind: BodyKind, unit: FileUnit = "file") -> Triangles:
    """The body that a file holds.

    Raises
    ------
    BodyFileError
        Where it is none of its kind, too large, or not closed.
    """
    import trimesh

    if not data:
        raise BodyFileError("the file is empty")
    if len(data) > MOST_BYTES:
        raise BodyFileError(f"the file is larger than {MOST_BYTES // 1_000_000} MB")
    try:
        scene = trimesh.load_scene(io.BytesIO(data), file_type=kind)
        meshes = [mesh for mesh in scene.dump() if isinstance(mesh, trimesh.Trimesh)]
    except Exception as error:  # its readers raise whatever they meet
        raise BodyFileError(f"this is no file of the kind .{kind}") from error
    if not sum(len(mesh.faces) for mesh in meshes):
        raise BodyFileError("there are no triangles in the file, or it is cut short")
    if sum(len(mesh.faces) for mesh in meshes) > MOST_READ:
        raise BodyFileError(f"the file has more than {MOST_READ:,} triangles")
    scale = _scale(meshes, unit)
    parts = [_part(mesh, scale) for mesh in meshes]
    whole = manifold3d.Manifold.batch_boolean(parts, manifold3d.OpType.Add)
    mesh = whole.simplify(_OFF).to_mesh64()
    vertices = np.asarray(mesh.vert_properties)[:, :3].astype(np.float32).astype(float)
    triangles = np.asarray(mesh.tri_verts).astype(np.int64)
    if len(triangles) > MOST_TRIANGLES:
        reason = f"{len(triangles):,} triangles, when those that say nothing are left out"
        raise BodyFileError(f"the body has {reason}; {MOST_TRIANGLES:,} can be lettered on")
    return Triangles(vertices, triangles)


def _scale(meshes: list, unit: FileUnit) -> float:  # type: ignore[type-arg]
    if unit == "file":
        return _MM.get(str(getattr(meshes[0], "units", None) or "millimeter"), 1.0)
    return {"mm": 1.0, "inch": 25.4}[unit]


def _part(mesh, scale: float) -> manifold3d.Manifold:  # type: ignore[no-untyped-def]
    mesh.merge_vertices(merge_tex=True, merge_norm=True)
    vertices = np.asarray(mesh.vertices, dtype=float) * scale
    if not np.isfinite(vertices).all() or np.abs(vertices).max() > FARTHEST:
        raise BodyFileError(f"a corner lies farther out than {FARTHEST:g} mm")
    faces = np.asarray(mesh.faces)
    # Some programs write bodies inside out.
    part = closed(vertices, faces) or closed(vertices, faces[:, ::-1])
    if part is not None:
        return part
    open_edges = _open_edges(faces)
    if open_edges:
        raise BodyFileError(f"the body is not closed: {open_edges} edges have a hole beside them")
    raise BodyFileError("the body is not closed: some of its triangles are turned over")


def _open_edges(faces: np.ndarray) -> int:
    """How many edges do not have exactly two triangles."""
    edges = np.sort(faces[:, [0, 1, 1, 2, 2, 0]].reshape(-1, 2), axis=1)
    _, counts = np.unique(edges, axis=0, return_counts=True)
    return int((counts != 2).sum())

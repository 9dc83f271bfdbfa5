"""Random parts through every mesh format, in a process of its own.

`python -W error -m tests.random_solids PIECES [SEED]`: each is watertight and as its files have it,
or refused with a reason. Prints a line of JSON: how many were made, how many were refused, the most
processor time of one, and what went wrong, by its kind, each with the first seed that met it.
"""

from __future__ import annotations

import io
import random
from collections.abc import Callable
from typing import Any

import numpy as np
import trimesh

from tests.makings import document, workpiece
from tests.trying import Trying
from ulvent.core.recipe.read_body import packed
from ulvent.core.solids.found_faces import found_faces
from ulvent.core.solids.triangles import Triangles
from ulvent.formats.solid_out import SOLID_FORMATS
from ulvent.shipped_faces import shipped_faces

MESHES = ("stl", "3mf", "obj", "glb")
WORDS = ("QUILLMERE", "cider & perry", "No. 7", "ÄÖÅ gjpqy", "8", "O", "W • W • ", "i")


def part(seed: int) -> dict[str, Any]:
    """A piece that a maker may make: a blank, words on it, figures such as they type."""
    pick = random.Random(seed)

    def size(low: float, high: float) -> float:
        return round(pick.uniform(low, high), 2)

    inner, width, wall = size(8, 60), size(3, 25), size(0.8, 5)
    blanks: list[dict[str, Any]] = [
        {"kind": "disc", "diameter": size(15, 200)},
        {"kind": "ring", "outer": size(60, 120), "inner": size(5, 55)},
        {"kind": "rectangle", "width": size(20, 200), "height": size(15, 120), "radius": 3},
        {"kind": "tag", "width": 90, "height": 40, "radius": 6, "hole": 5, "hole_inset": 8},
        {"kind": "side", "diameter": size(10, 80), "height": size(8, 60)},
        {"kind": "side", "diameter": size(10, 80), "top": size(10, 80), "height": size(8, 60)},
        {"kind": "band", "inner": inner, "width": width, "thickness": wall},
        {"kind": "band", "inner": inner, "width": width, "thickness": wall,
         "back_width": size(2, 20), "back_thickness": size(0.8, 5)},
        {"kind": "band", "inner": inner, "width": width, "thickness": 3, "crown": size(4, 60)},
        {"kind": "signet", "head_width": size(6, 18), "head_height": size(6, 20), "inner": 18,
         "width": size(4, 9), "back_width": size(2, 6), "thickness": size(1, 3)},
    ]  # fmt: skip
    blank = pick.choice(blanks)
    is_round = blank["kind"] in ("side", "band")
    guide: dict[str, Any] = {"id": "g", "kind": "line", "length": size(10, 150)}
    if is_round:
        guide = {"id": "g", "kind": "belt", "girth": 50, "centre": [0, size(-4, 4)]}
    elif blank["kind"] == "signet" or pick.random() < 0.3:
        guide = {"id": "g", "kind": "circle", "diameter": size(5, 60)}
    words = {"id": "w", "guide": "g", "text": pick.choice(WORDS),
             "face": pick.choice([name for name, _ in shipped_faces()]), "height": size(1.5, 20),
             "at": 0.5, "at_in": "share", "align": "centre", "spacing": "even"}  # fmt: skip
    by = size(0.1, 4)
    relief = {
        "relief": pick.choice(["raised", "raised", "sunk", "grooved", "through"]),
        "by": by, "draft": pick.choice([0, 0, 3, 15, 40]), "angle": size(15, 120),
        "edge": pick.choice(["square", "rounded", "bevelled"]),
        "edge_size": round(by * pick.random(), 3),
    }  # fmt: skip
    solid = {
        "thickness": size(0.5, 12), "bore": pick.choice([0, 0, size(1, 20)]), "relief": relief,
        "edge": pick.choice(["square", "rounded", "bevelled"]), "edge_size": size(0, 1),
        "apart": pick.random() < 0.2, "tolerance": pick.choice([0.01, 0.02, 0.1]),
        "rim": pick.choice([None, None, {"width": size(0.5, 6), "depth": size(0.2, 2)}]),
        "shrinkage": pick.choice([0, 0, 1.5]),
    }  # fmt: skip
    words["with_guide"] = "back_width" in blank and blank["kind"] == "band" and pick.random() < 0.5
    if pick.random() < 0.2:
        blank, solid["body"] = _read(pick, size)
        guide = {"id": "g", "kind": "line", "length": size(10, 150)}
        if blank["kind"] == "side":
            guide = {"id": "g", "kind": "belt", "girth": 50, "centre": [0, size(-4, 4)]}
    return document(blank=blank, guides=[guide], letterings=[words], solid=solid, title="Part")


def _read(pick: random.Random, size: Callable[[float, float], float]) -> tuple[Any, Any]:
    """A body as from a file, turned and moved, and one of its faces as the blank."""
    radius, sides = size(4, 40), pick.choice([12, 32, 96, 200])
    body = pick.choice(
        [
            trimesh.creation.box((size(10, 80), size(10, 60), size(1, 20))),
            trimesh.creation.cylinder(radius, size(5, 50), sections=sides),
            trimesh.creation.annulus(0.8 * radius, radius, size(5, 50), sections=sides),
            trimesh.creation.cone(radius, size(5, 50), sections=sides),
        ]
    )
    move = trimesh.transformations.random_rotation_matrix(
        np.array([pick.random() for _ in range(3)])
    )
    move[:3, 3] = [size(-90, 90) for _ in range(3)]
    body.apply_transform(move)
    vertices = np.asarray(body.vertices, dtype=np.float32).astype(float)
    triangles = np.asarray(body.faces)
    face = pick.choice(found_faces(Triangles(vertices, triangles)))
    blank = face.blank.model_dump(mode="json")
    return blank, {
        "name": "part.stl", "face": blank, "mesh": packed(vertices, triangles),
        "frame": face.frame.ravel().tolist(), "depth": face.depth, "sag": face.sag,
    }  # fmt: skip


class Solids(Trying):
    """Makes parts, and reads their files."""

    def try_out(self, seed: int) -> None:
        work = workpiece(part(seed))
        volume = work.solid.volume
        # STL does not keep parts apart that touch each other.
        for name in MESHES[len(work.solid.meshes) > 1 :]:
            self._look(name, SOLID_FORMATS[name].file(work), volume, seed)

    def _look(self, name: str, data: bytes, volume: float, seed: int) -> None:
        # Where a file says which corners are one, that holds; in STL those are that are equal.
        found = trimesh.load(io.BytesIO(data), file_type=name, process=name == "stl")
        meshes = found.dump() if isinstance(found, trimesh.Scene) else [found]
        unit, there = 0.001 if name == "glb" else 1.0, 0.0
        for mesh in meshes:
            if not mesh.is_winding_consistent:
                self.note(f"{name}: triangles run both ways", seed)
            if not mesh.is_watertight:
                self.note(f"{name}: not closed", seed)
            there += mesh.volume
        if abs(there / (volume * unit**3) - 1.0) > 1e-3:
            self.note(f"{name}: another volume", seed)


if __name__ == "__main__":
    Solids().main()

"""Parts: a ring of many letters, coarse and exact, beside trimesh's booleans; STEP; the page.

    .venv/bin/python -m benchmarks.solids

*A ring*: 40, 80, 120, 160 and 200 letters raised by 1 mm round a band, at a tolerance of 0.01 mm.
Seconds of processor for the mesh that is shown while something is pulled, and for the exact one;
beside them trimesh's union of the same solids, body and letters, which are handed to it ready made
(so ours does more: it makes them). Each is the least of three.

*STEP*: seconds and bytes of 12 letters on a plate and of 17 round a cylinder.

*The page*: bytes of what is loaded for the view alone, plain and packed.
"""

from __future__ import annotations

import gzip
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any
from unittest.mock import patch

import manifold3d
import trimesh

import ulvent.web
from tests.makings import document, workpiece
from ulvent.core.solids import made_solid, solid_of
from ulvent.core.solids.mesh import Mesh
from ulvent.core.workshop import Workpiece
from ulvent.formats.solid_out import SOLID_FORMATS
from ulvent.web.solid_routes import COARSE, SEEN

WORDS = "QUILLMERE ORCHARD AND OLD RUSSET PEARS AND CIDER "
COUNTS = (40, 80, 120, 160, 200)
_TIMES = 3


def ring(count: int) -> Workpiece:
    text = "".join((WORDS * 8).split(" "))[:count]
    band = {"kind": "band", "inner": 0.08 * count * 6.0, "width": 12, "thickness": 3}
    belt = {"id": "g", "kind": "belt", "girth": 100, "centre": [0, -2.5]}
    words = {"id": "t", "guide": "g", "face": "lato-bold", "height": 5, "text": text,
             "spacing": "even", "fit": {"kind": "gap"}}  # fmt: skip
    solid = {"relief": {"relief": "raised", "by": 1}, "tolerance": 0.01}
    return workpiece(document(blank=band, guides=[belt], letterings=[words], solid=solid))


def seconds(do: Callable[[], Any]) -> float:
    def once() -> float:
        begun = time.process_time()
        do()
        return time.process_time() - begun

    return min(once() for _ in range(_TIMES))


def of_trimesh(work: Workpiece) -> float:
    """The union of body and letters by trimesh, of the solids that ours joins."""
    handed: list[manifold3d.Manifold] = []

    def kept(solids: list[manifold3d.Manifold]) -> manifold3d.Manifold:
        handed.extend(solids)
        return joined(solids)

    joined = made_solid.joined
    with patch.object(made_solid, "joined", kept):
        solid_of(work.layout, work.ready)
    meshes = [Mesh.of(one, "", "") for one in handed]
    theirs = [trimesh.Trimesh(one.vertices, one.triangles, process=False) for one in meshes]
    return seconds(lambda: trimesh.boolean.union(theirs, engine="manifold"))


def rings() -> None:
    for count in COUNTS:
        work = ring(count)
        _ = work.ready
        x0, y0, x1, y1 = work.layout.bounds()
        seen = max(((x1 - x0) ** 2 + (y1 - y0) ** 2) ** 0.5 / SEEN / 0.01, 1.0) * COARSE
        coarse = seconds(lambda: solid_of(work.layout, work.ready, seen))  # noqa: B023
        exact = seconds(lambda: solid_of(work.layout, work.ready))  # noqa: B023
        theirs = of_trimesh(work)
        triangles = sum(len(mesh.triangles) for mesh in work.solid.meshes)
        print(
            f"{count} letters: coarse {coarse:.2f} s, exact {exact:.2f} s, {triangles:,} triangles;"
            f" trimesh's union {theirs:.2f} s: coarse {coarse / theirs:.2f}, exact"
            f" {exact / theirs:.2f} of it"
        )


def step() -> None:
    plate = {"kind": "rectangle", "width": 120, "height": 30, "radius": 3}
    line = {"id": "g", "kind": "line", "length": 110}
    side = {"kind": "side", "diameter": 40, "height": 20}
    belt = {"id": "g", "kind": "belt", "girth": 100, "centre": [0, -2]}
    for name, blank, guide, text in (
        ("12 letters on a plate", plate, line, "QUILLMEREOLD"),
        ("17 letters round a cylinder", side, belt, "QUILLMERE ORCHARD"),
    ):
        words = {"id": "t", "guide": "g", "face": "lato-bold", "height": 6, "text": text}
        solid = {"relief": {"relief": "raised", "by": 1}}
        work = workpiece(document(blank=blank, guides=[guide], letterings=[words], solid=solid))
        begun = time.monotonic()
        data = SOLID_FORMATS["step"].file(work)
        print(f"STEP of {name}: {time.monotonic() - begun:.1f} s, {len(data) / 1e6:.2f} MB")


def page() -> None:
    assets = Path(ulvent.web.__file__).parent / "page" / "assets"
    for path in assets.glob("part-*.js"):
        data = path.read_bytes()
        packed = len(gzip.compress(data, 9))
        print(f"the view loads {len(data) / 1000:.0f} kB, {packed / 1000:.0f} kB packed")


if __name__ == "__main__":
    rings()
    step()
    page()

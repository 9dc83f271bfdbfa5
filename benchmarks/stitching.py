"""Thread: how well letters are covered, and how soon they are made.

    .venv/bin/python -m benchmarks.stitching [--faces FACE,FACE] [--files FONT …]
        [--heights 8,20,60]
    .venv/bin/python -m benchmarks.stitching --speed
    .venv/bin/python -m benchmarks.stitching --sheet

*Covered*: A–Z, a–z and & in satin, letter by letter, by a raster of the thread apart from how it is
made (`tests/thread_witness.py`): the share that is covered, the least letter, the largest hole,
thread outside, what two stretches cover, short stitches; and the angle of rungs to the axis that
the letter's own edges have on both sides of them.

*Speed*: 40 letters in satin, again with one letter changed, and 400; each as a ratio to the same
letters’ skeletons on a raster of 20 pixels a mm (scikit-image). One line through as many letters.

*Sheet* (`--sheet`): A–Z, a–z, 0–9 and & of every shipped face, in satin at 20 mm and in rows at
40 mm, as PNG in `var/thread/`, to be looked at.
"""

from __future__ import annotations

import argparse
import json
import math
import re
import string
import time
from pathlib import Path
from typing import Any

import numpy as np
import shapely
from PIL import Image, ImageDraw
from scipy.spatial import cKDTree
from skimage.morphology import skeletonize

from tests.areas import as_shapely
from tests.makings import document
from tests.thread_witness import Seen, letter_seen
from ulvent.core.base.remembered import forget_all
from ulvent.core.faces import Face
from ulvent.core.recipe import parse_piece
from ulvent.core.shapes import Region, flat_contours
from ulvent.core.stitches import What
from ulvent.core.stitches.columns import columns_of
from ulvent.core.workshop import Workpiece, Workshop
from ulvent.shipped_faces import catalogue, load_face, shipped_face, shipped_faces

LETTERS = string.ascii_uppercase + string.ascii_lowercase + "&"
PULL = 0.15
added: dict[str, Face] = {}
"""Faces read from files, by the names of these."""
NAMES = "Quillmere orchard autumn fair pressed by hand in the old barn near lower gate"
PEER_SCALE = 20.0
OUT = Path("var/thread")
EDGE, ON_EDGE, TOGETHER = 0.05, 0.06, 40.0
"""Edges are looked at in steps of so many mm; a rung's end is on one that is so near; two edges go
with one another whose directions differ by less, degrees."""


def made(text: str, face: str, height: float, stitch: str) -> Workpiece:
    line = {"id": "l", "kind": "line", "length": 2.0 * height * len(text) + 50.0}
    words = {"id": "t", "guide": "l", "text": text, "face": face, "height": height}
    sewing = {"letterings": [{"of": "t", "stitch": stitch}]}
    piece = document(guides=[line], letterings=[words], blank=None, sewing=sewing)
    return Workshop(_face, shipped_faces).of(parse_piece(piece))


def _face(name: str) -> Face:
    return added[name] if name in added else shipped_face(name)


def rung_angles(area: Region) -> tuple[np.ndarray, int]:
    """Of rungs how far each is from square to its stroke's axis, degrees, and how many there are.

    Where a rung ends on two edges that go with one another the axis halves their directions, as a
    medial axis does (Blum 1967). A rung that ends elsewhere, where strokes meet, is not judged.
    """
    found, count = [np.empty(0)], 0
    for part in area.parts:
        rings = [shapely.LinearRing(ring).segmentize(EDGE) for ring in part.rings]
        corners = [np.asarray(ring.coords) for ring in rings]
        tree = cKDTree(np.concatenate([(one[:-1] + one[1:]) / 2.0 for one in corners]))
        ways = np.concatenate([np.diff(one, axis=0) for one in corners])
        ways /= np.maximum(np.hypot(*ways.T), 1e-9)[:, None]
        for column in columns_of(part):
            off, near = tree.query(np.stack([column.left, column.right]))
            one, other = ways[near]
            other = np.where((one * other).sum(axis=1)[:, None] < 0.0, -other, other)
            together = (one * other).sum(axis=1) > math.cos(math.radians(TOGETHER))
            axis = one + other
            axis /= np.maximum(np.hypot(*axis.T), 1e-9)[:, None]
            rung = (column.left - column.right) / np.maximum(column.widths, 1e-9)[:, None]
            angle = np.degrees(np.arcsin(np.clip(np.abs((rung * axis).sum(axis=1)), 0.0, 1.0)))
            found.append(angle[together & (off < ON_EDGE).all(axis=0)])
            count += len(angle)
    return np.concatenate(found), count


def covered(face: str, height: float, stitch: str = "satin") -> dict[str, Any]:
    scale = min(40.0, 1600.0 / height)
    seen: dict[str, Seen] = {}
    angles = []
    jumps = rungs = 0
    for letter in LETTERS:
        work = made(letter, face, height, stitch)
        for text, outline in (one for group in work.groups for one in group.areas_with(())):
            seen[text] = letter_seen(as_shapely(outline), work.embroidery.sewn, PULL, scale)
            rings = [points for points, closed in flat_contours(outline) if closed]
            area = Region.of_rings(rings)
            judged, count = rung_angles(area)
            angles.append(judged)
            rungs += count
            jumps += max(0, len(work.embroidery.sewn) - len(area.parts))
    if not seen:
        return {"face": face, "height": height, "letters": 0}
    table = np.array(list(seen.values()))
    every = np.concatenate(angles)
    worst = [*seen][int(table[:, 0].argmin())]
    return {
        "face": face,
        "height": height,
        "covered": round(float(table[:, 0].mean()), 4),
        "least": [worst, round(float(table[:, 0].min()), 4)],
        "largest hole": [[*seen][int(table[:, 1].argmax())], round(float(table[:, 1].max()), 3)],
        "outside": round(float(table[:, 2].mean()), 5),
        "twice": round(float(table[:, 3].mean()), 3),
        "short": round(float(table[:, 4].mean()), 3),
        "rungs within 20°": round(float((every < 20.0).mean()), 3) if len(every) else None,
        "rungs judged": round(len(every) / max(rungs, 1), 3),
        "jumps in letters": jumps,
    }


def speed() -> dict[str, Any]:
    text = (NAMES * 8).replace(" ", "")
    found: dict[str, Any] = {}
    for count in (40, 400):
        forget_all()
        work = made(text[:count], "lato-bold", 12.0, "satin")
        _ = work.groups
        begun = time.process_time()
        _ = work.embroidery
        ours = time.process_time() - begun
        again = made(text[: count - 1] + "W", "lato-bold", 12.0, "satin")
        _ = again.groups
        begun = time.process_time()
        _ = again.embroidery
        changed = time.process_time() - begun
        peer = _raster_skeletons(work)
        found[f"{count} letters"] = {
            "seconds": round(ours, 2), "with one changed": round(changed, 2),
            "to raster skeletons": round(ours / peer, 2),
        }  # fmt: skip
        line = made(text[:count], "hershey-sans", 12.0, "quilted")
        _ = line.groups
        begun = time.process_time()
        _ = line.embroidery
        found[f"one line, {count} letters"] = {
            "seconds": round(time.process_time() - begun, 2),
            "overhead": round(line.embroidery.quilted["t"].overhead, 3),
        }
    return found


def _raster_skeletons(work: Workpiece) -> float:
    """Seconds for the skeletons of all letters on a raster."""
    begun = time.process_time()
    for group in work.groups:
        for _, outline in group.areas_with(()):
            shape = as_shapely(outline)
            x0, y0, x1, y1 = shape.bounds
            size = [math.ceil((b - a) * PEER_SCALE) + 8 for a, b in ((x0, x1), (y0, y1))]
            image = Image.new("L", (size[0], size[1]))
            draw = ImageDraw.Draw(image)
            for part in getattr(shape, "geoms", [shape]):
                for ring, fill in ((part.exterior, 255), *((hole, 0) for hole in part.interiors)):
                    draw.polygon([((x - x0) * PEER_SCALE + 4, (y - y0) * PEER_SCALE + 4)
                                  for x, y in ring.coords], fill=fill)  # fmt: skip
            skeletonize(np.asarray(image) > 0)
    return time.process_time() - begun


def sheet(face: str, height: float, stitch: str) -> Path:
    """All letters of a face as thread."""
    letters = LETTERS[:-1] + string.digits + "&"
    scale, across = 160.0 / height, 13
    cell = round(1.35 * height * scale)
    rows = -(-len(letters) // across)
    image = Image.new("RGB", (cell * across, cell * rows), "#efe9dd")
    draw = ImageDraw.Draw(image)
    for index, letter in enumerate(letters):
        work = made(letter, face, height, stitch)
        box = work.embroidery.bounds
        if box is None:
            continue
        x = (index % across + 0.5) * cell - (box[0] + box[2]) / 2.0 * scale
        y = (index // across + 0.5) * cell + (box[1] + box[3]) / 2.0 * scale
        for one in work.embroidery.sewn:
            _paint(draw, one.points * (scale, -scale) + (x, y), one.thread.what, 0.38 * scale)
    OUT.mkdir(parents=True, exist_ok=True)
    path = OUT / f"{face}-{stitch}.png"
    image.save(path)
    return path


def _paint(draw: ImageDraw.ImageDraw, points: np.ndarray, what: np.ndarray, width: float) -> None:
    for k in range(1, len(points)):
        (x0, y0), (x1, y1) = points[k - 1].tolist(), points[k].tolist()
        shine = 0.55 + 0.45 * abs(math.sin(math.atan2(y1 - y0, x1 - x0) + 0.6))
        base = (176, 44, 52) if what[k] >= What.SATIN else (120, 60, 110)
        red, green, blue = (round(one * shine) for one in base)
        draw.line([(x0, y0), (x1, y1)], fill=(red, green, blue), width=max(1, round(width)))


def main() -> None:
    asked = argparse.ArgumentParser()
    asked.add_argument("--faces", default=",".join(catalogue()))
    asked.add_argument("--heights", default="8,12,20,40,60")
    asked.add_argument("--stitch", default="satin")
    asked.add_argument("--files", nargs="+", type=Path, default=[])
    asked.add_argument("--speed", action="store_true")
    asked.add_argument("--sheet", action="store_true")
    given = asked.parse_args()
    if given.speed:
        print(json.dumps(speed(), indent=1))
        return
    for file in given.files:
        added[re.sub("[^a-z0-9]+", "-", file.stem.lower())] = load_face(file, file.stem)
    for face in added or given.faces.split(","):
        if given.sheet:
            for height, stitch in ((20.0, "satin"), (40.0, "rows")):
                print(sheet(face, height, stitch))
            continue
        for height in map(float, given.heights.split(",")):
            print(json.dumps(covered(face, height, given.stitch), ensure_ascii=False), flush=True)


if __name__ == "__main__":
    main()

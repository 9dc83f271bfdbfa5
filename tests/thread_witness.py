"""A witness of thread: a raster of it as a round line, apart from how stitches are made.

Pillow draws, SciPy counts. What is sewn is held against the letter's own outline by shapely.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
import scipy.ndimage
import shapely
from PIL import Image, ImageDraw

from tests.areas import as_shapely
from ulvent.core.stitches import Sewn, What
from ulvent.core.workshop import Workpiece

THREAD = 0.4
"""mm: how wide the thread is taken to be."""
SEEN = (What.SATIN, What.ROWS, What.RUN)


class Seen(NamedTuple):
    """Of one letter.

    covered
        share of its area under thread of any kind
    hole
        mm², the largest part that is not, of what is wider than a pixel
    outside
        thread farther outside than its own half width and the pull, as a share of the area
    twice
        area that what is seen of two different stretches covers, as a share
    short
        share of stitches under 0.5 mm
    """

    covered: float
    hole: float
    outside: float
    twice: float
    short: float


@dataclass
class _Canvas:
    corner: tuple[float, float]
    size: tuple[int, int]
    scale: float

    def placed(self, points: object) -> list[tuple[float, float]]:
        x0, y0 = self.corner
        return [((x - x0) * self.scale, (y - y0) * self.scale)
                for x, y in np.asarray(points).tolist()]  # fmt: skip

    def ink(self, shape: shapely.Geometry) -> np.ndarray:
        image = Image.new("L", self.size)
        paint = ImageDraw.Draw(image)
        for part in getattr(shape, "geoms", [shape]):
            paint.polygon(self.placed(part.exterior.coords), fill=255)
            for hole in part.interiors:
                paint.polygon(self.placed(hole.coords), fill=0)
        return np.asarray(image) > 0

    def thread(self, lines: list[np.ndarray], width: float) -> np.ndarray:
        image = Image.new("L", self.size)
        draw = ImageDraw.Draw(image)
        radius = width / 2.0 * self.scale
        for line in lines:
            points = self.placed(line)
            draw.line(points, fill=255, width=round(2.0 * radius))
            for x, y in points:
                draw.ellipse((x - radius, y - radius, x + radius, y + radius), fill=255)
        return np.asarray(image) > 0


def letters_seen(work: Workpiece, pull: float, scale: float = 40.0) -> dict[str, Seen]:
    """Of each letter of a piece of one lettering what its thread comes to."""
    (group,) = work.groups
    return {
        text: letter_seen(
            as_shapely(outline), [one for one in work.embroidery.sewn if one.letter == text],
            pull, scale,
        )
        for text, outline in group.areas_with(())
    }  # fmt: skip


def letter_seen(
    shape: shapely.Geometry, sewn: list[Sewn], pull: float, scale: float = 40.0
) -> Seen:
    """What thread comes to on a shape."""
    x0, y0, x1, y1 = (shapely.box(*shape.bounds).buffer(1.0)).bounds
    canvas = _Canvas((x0, y0), (math.ceil((x1 - x0) * scale), math.ceil((y1 - y0) * scale)), scale)
    wanted = canvas.ink(shape)
    every = canvas.thread([one.points for one in sewn], THREAD)
    missed = wanted & ~every
    label, count = scipy.ndimage.label(scipy.ndimage.binary_opening(missed))
    sizes = scipy.ndimage.sum_labels(np.ones_like(label), label, range(1, count + 1))
    allowed = shape.buffer(pull + THREAD / 2.0 + 1.0 / scale)
    outside = every & ~canvas.ink(allowed)
    layers = np.zeros(wanted.shape, dtype=np.int16)
    for stretch in stretches(sewn):
        layers += canvas.thread([stretch], THREAD)
    lengths = np.concatenate([np.hypot(*np.diff(one.points, axis=0).T) for one in sewn])
    return Seen(
        covered=1.0 - missed.sum() / wanted.sum(),
        hole=float(max(sizes, default=0)) / scale**2,
        outside=outside.sum() / wanted.sum(),
        twice=(wanted & (layers > 1)).sum() / wanted.sum(),
        short=float((lengths < 0.5).mean()),
    )


def stretches(sewn: list[Sewn]) -> list[np.ndarray]:
    """Runs of needle points of satin, and of rows, each without what leads to it."""
    found = []
    for one in sewn:
        what = one.thread.what
        begins = np.flatnonzero(np.diff(what, prepend=-1))
        for begin, end in zip(begins, [*begins[1:], len(what)], strict=True):
            if what[begin] in (What.SATIN, What.ROWS):
                found.append(one.points[begin:end])
    return found


def way_seen(shape: shapely.Geometry, sewn: list[Sewn], scale: float = 20.0) -> float:
    """Of a shape, the share on which thread lies uppermost that is only on its way."""
    x0, y0, x1, y1 = (shapely.box(*shape.bounds).buffer(1.0)).bounds
    canvas = _Canvas((x0, y0), (math.ceil((x1 - x0) * scale), math.ceil((y1 - y0) * scale)), scale)
    image = Image.new("L", canvas.size)
    draw = ImageDraw.Draw(image)
    wide = round(THREAD * scale)
    for one in sewn:
        points = canvas.placed(one.points)
        for k, (begin, end) in enumerate(zip(points[:-1], points[1:], strict=True), 1):
            draw.line([begin, end], fill=255 if one.thread.what[k] == What.WAY else 100, width=wide)
    wanted = canvas.ink(shape)
    return float(((np.asarray(image) == 255) & wanted).sum() / wanted.sum())

"""A part seen from a side, as PNG: where no one can turn it, and for pages of print.

Triangles are laid over each other from the farthest to the nearest (the painter's algorithm).
"""

from __future__ import annotations

import io
import math
from typing import Literal, get_args

import numpy as np
from PIL import Image, ImageDraw

from ulvent.core.base.arrays import Floats
from ulvent.core.solids import MadeSolid

Side = Literal["slant", "front", "top", "right", "back"]
SIDES: tuple[Side, ...] = get_args(Side)
_TURNS: dict[Side, tuple[float, float]] = {
    "slant": (25.0, 35.0), "front": (0.0, 0.0), "top": (0.0, 90.0), "right": (90.0, 0.0),
    "back": (180.0, 0.0),
}  # fmt: skip
"""From where each looks: degrees round the axis, and up."""
_OVER = 2
_MARGIN = 0.05
_LIGHT = np.array([-0.5, 0.35, 0.8])
_GROUND = (236, 233, 224)


def solid_picture(solid: MadeSolid, side: Side, width: int = 900, height: int = 640) -> bytes:
    """A PNG of a part, from a side."""
    corners, shades = _seen(solid, side)
    size = np.array([width, height]) * _OVER
    flat = corners[:, :, :2]
    low, high = flat.min(axis=(0, 1)), flat.max(axis=(0, 1))
    scale = float(((1.0 - 2.0 * _MARGIN) * size / np.maximum(high - low, 1e-9)).min())
    middle = (low + high) / 2.0
    places = (flat - middle) * (scale, -scale) + size / 2.0
    picture = Image.new("RGB", (int(size[0]), int(size[1])), _GROUND)
    pen = ImageDraw.Draw(picture)
    for index in np.argsort(corners[:, :, 2].mean(axis=1)):
        shade = tuple(shades[index].tolist())
        pen.polygon([tuple(point) for point in places[index].tolist()], fill=shade, outline=shade)
    out = io.BytesIO()
    picture.resize((width, height), Image.Resampling.LANCZOS).save(out, "PNG")
    return out.getvalue()


def _seen(solid: MadeSolid, side: Side) -> tuple[Floats, Floats]:
    """What is seen: corners (n, 3, 3) to the right, up and toward the eye; colours (n, 3)."""
    round_axis, up = (math.radians(one) for one in _TURNS[side])
    cos, sin = math.cos(round_axis), math.sin(round_axis)
    right = np.array([cos, sin, 0.0])
    back = np.array([-sin, cos, 0.0])
    above = np.array([0.0, 0.0, 1.0])
    turned = np.stack(
        [
            right,
            above * math.cos(up) + back * math.sin(up),
            above * math.sin(up) - back * math.cos(up),
        ]
    )
    found, colours = [], []
    for mesh in solid.meshes:
        normals = mesh.crosses @ turned.T
        long = np.sqrt((normals**2).sum(axis=1))
        toward = (normals[:, 2] > 0.0) & (long > 0.0)
        unit = normals[toward] / long[toward, None]
        shade = 0.35 + 0.65 * np.clip(unit @ (_LIGHT / np.linalg.norm(_LIGHT)), 0.0, 1.0)
        paint = np.array([int(mesh.colour[at : at + 2], 16) for at in (1, 3, 5)])
        found.append(mesh.vertices[mesh.triangles[toward]] @ turned.T)
        colours.append(shade[:, None] * paint)
    return np.concatenate(found), np.concatenate(colours).astype(int)

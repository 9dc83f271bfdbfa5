"""How far lettering reaches outside of a shape."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.base.tolerances import JOINT
from ulvent.core.outlines import Polyline, even_places
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import farthest_from, xy
from ulvent.core.shapes import Region
from ulvent.core.shapes.scattered import corners_beyond, wholly

_STEP, _LEAST = 0.1, 8
"""Places on an edge, mm apart, and at least so many, that are held against a shape."""


def outside(check: Check, subject: Subject, shape: Region, name: str) -> list[Finding]:
    """What `check` finds of all that is cut outside of a shape."""
    if shape.is_empty:
        return []
    points = _beyond([area for layer in subject.ready.layers for area in layer.seen], shape)
    if not len(points):
        return []
    farthest, far = farthest_from(points, shape)
    return [
        check.finding(
            f"lettering reaches {far:.2f} mm outside of {name}",
            "Make it smaller, move it, or cut it back to the blank.",
            far,
            places=(xy(farthest),),
            key=check.kind,
        )
    ]


def _beyond(areas: Sequence[Region], shape: Region) -> Points:
    """(n, 2) corners of areas outside of a shape, and places on edges that only cross it."""
    larger = shape.offset(JOINT)
    beyond, owners = corners_beyond(areas, larger)
    found = [beyond]
    # With all its corners inside an area can only leave a shape where that has a corner in it.
    inside = np.flatnonzero(np.bincount(owners, minlength=len(areas)) == 0)
    boxes = np.array([areas[index].bounds for index in inside.tolist()]).reshape(-1, 4)
    clear, _ = wholly(boxes, shape)
    for area in (areas[index] for index in inside[~clear].tolist()):
        out = [Polyline(ring, True) for ring in area.minus(larger).rings]
        found.append(even_places(out, _STEP, _LEAST).points)
    return np.concatenate(found)

"""How far lettering reaches outside of a shape."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.tolerances import JOINT
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import farthest_from, xy
from ulvent.core.shapes import Region


def outside(check: Check, subject: Subject, shape: Region, name: str) -> list[Finding]:
    """What `check` finds of all that is cut outside of a shape."""
    if shape.is_empty:
        return []
    area = Region.joined(layer.area for layer in subject.ready.layers)
    out = area.minus(shape.offset(JOINT))
    if out.is_empty:
        return []
    points = np.concatenate(out.rings)
    points = points[~shape.contains(points)]
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

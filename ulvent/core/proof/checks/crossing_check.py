"""Outlines that cross themselves: a tool would cut a piece apart, or out."""

from __future__ import annotations

from ulvent.core.base.arrays import Point
from ulvent.core.base.remembered import remembered
from ulvent.core.outlines import Outline
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import AREA_ROUNDING, MOST_PLACES, quoted
from ulvent.core.shapes import Region, flat_contours
from ulvent.core.shapes.region import ring_area


def _look(subject: Subject) -> list[Finding]:
    found: list[tuple[float, Point, str]] = []
    for cutout in subject.layer.cutouts:
        if cutout.outline is None:
            continue
        if cutout.local is not None and cutout.shape is not None:
            # Rigid letters cross themselves as the letter of the face does.
            off, area = (cutout.scale**2 * one for one in _crossing(cutout.shape, cutout.scale))
        else:
            off, area = _crossing(cutout.outline, 1.0)
        if off > AREA_ROUNDING * max(area, 1.0):
            found.append((off, cutout.area.some_point(), cutout.text))
    if not found:
        return []
    found.sort(key=lambda each: -each[0])
    return [
        CHECK.finding(
            f"the outlines of {quoted(text for _, _, text in found)} cross themselves",
            "Prepare the lettering: joining gives outlines that do not cross.",
            found[0][0],
            lettering=subject.layer.owner,
            letters=tuple(text for _, _, text in found),
            places=tuple(place for _, place, _ in found[:MOST_PLACES]),
        )
    ]


@remembered(1024)
def _crossing(outline: Outline, scale: float) -> tuple[float, float]:
    """By how much what an outline winds round differs from its rings, and what it winds round.

    In the outline's own unit; `scale` is mm per unit.
    """
    rings = [points for points, closed in flat_contours(outline, scale) if closed]
    own = Region.of_rings(rings).area
    return abs(abs(sum(ring_area(ring) for ring in rings)) - own), own


CHECK = Check(
    kind="crossing",
    rank=40,
    severity="fault",
    unit="mm²",
    looks={"layer": _look},
)

"""Outlines with a gap in them."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import MOST_PLACES, xy
from ulvent.core.shapes import flat_contours


def _look(subject: Subject) -> list[Finding]:
    found = [
        (cutout.text, points[0])
        for cutout in subject.layer.cutouts
        if cutout.outline is not None and not cutout.outline.all_closed
        for points, closed in flat_contours(cutout.outline)
        if not closed
    ]
    if not found:
        return []
    return [
        CHECK.finding(
            f"{len(found)} outlines are open: nothing would come off",
            "Use another face, or a mark whose outline is closed.",
            float(len(found)),
            lettering=subject.layer.owner,
            letters=tuple(text for text, _ in found),
            places=tuple(xy(at) for _, at in found[:MOST_PLACES]),
        )
    ]


CHECK = Check(
    kind="open-outline",
    rank=50,
    severity="fault",
    looks={"layer": _look},
)

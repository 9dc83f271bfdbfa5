"""Letters that run into each other, and would be cut through one another."""

from __future__ import annotations

from collections.abc import Iterable

from ulvent.core.base.arrays import Point
from ulvent.core.base.tolerances import JOINT
from ulvent.core.prepare import Layer
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import (
    AREA_ROUNDING,
    MOST_PLACES,
    counted,
    named_letters,
    on_one_sheet,
    prepare_remedy,
)
from ulvent.core.shapes.near_pairs import near_pairs
from ulvent.core.steps.cutout import Cutout
from ulvent.core.steps.join_step import Join

Overlap = tuple[float, Point, str]
"""How deep, mm, where, and the letters of both."""


def _in_layer(subject: Subject) -> list[Finding]:
    found = _overlaps(_near_pairs(subject.layer.cutouts))
    if not found:
        return []
    message = (
        f"{counted(len(found), 'pair')} of letters run into each other by up to "
        f"{found[0][0]:.2f} mm and would be cut apart"
        f"{named_letters(text for _, _, text in found)}"
    )
    remedy = "Join what overlaps, or open the gaps."
    return [_overlapping(subject, subject.layer, message, remedy, found)]


def _across_layers(subject: Subject) -> list[Finding]:
    """Letterings that run into one another: all that is cut from one sheet."""
    layers = on_one_sheet(subject.ready)
    if len(layers) < 2:
        return []
    every = tuple(one for layer in layers for one in layer.cutouts)
    pairs = _near_pairs(every)
    found = _overlaps((one, two) for one, two in pairs if one.lettering != two.lettering)
    if not found:
        return []
    message = (
        f"letterings run into one another at {counted(len(found), 'place')}, by up to "
        f"{found[0][0]:.2f} mm"
    )
    remedy = "Move one of them, or join the whole piece."
    return [_overlapping(subject, Layer("whole", "", "whole", (), ()), message, remedy, found)]


def _overlaps(pairs: Iterable[tuple[Cutout, Cutout]]) -> list[Overlap]:
    """The pairs that have an area in common, the deepest first."""
    found: list[Overlap] = []
    for one, two in pairs:
        common = one.area.meet(two.area)
        if common.area > AREA_ROUNDING:
            depth = 4.0 * common.area / max(common.perimeter, JOINT)
            found.append((depth, common.some_point(), one.text + two.text))
    return sorted(found, key=lambda each: -each[0])


def _overlapping(
    subject: Subject, layer: Layer, message: str, remedy: str, found: list[Overlap]
) -> Finding:
    joining = prepare_remedy("join what overlaps", layer, subject.layout.piece, join=Join())
    return CHECK.finding(
        message,
        remedy,
        found[0][0],
        lettering=layer.owner,
        letters=tuple(text for _, _, text in found if text),
        remedies=(joining,),
        places=tuple(place for _, place, _ in found[:MOST_PLACES]),
    )


def _near_pairs(cutouts: tuple[Cutout, ...]) -> Iterable[tuple[Cutout, Cutout]]:
    for one, two in near_pairs([cutout.area.rings for cutout in cutouts]).tolist():
        yield cutouts[one], cutouts[two]


CHECK = Check(
    kind="touching",
    rank=30,
    severity="fault",
    unit="mm",
    looks={"layer": _in_layer, "layers": _across_layers},
    needless=("near-letters", "near-turns", "crossing-letters"),
)

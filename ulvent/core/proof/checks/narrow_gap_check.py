"""Gaps that are narrower than the tool can leave, within letterings and between them."""

from __future__ import annotations

from ulvent.core.prepare import Layer
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.too_near import too_near
from ulvent.core.proof.where import counted, named_letters, nearest, on_one_sheet, pairs_of, where
from ulvent.core.shapes.thin import thin_places


def _limit(subject: Subject) -> float:
    return 0.0 if subject.sheet.use == "lines" else subject.sheet.least_gap


def _in_layer(subject: Subject) -> list[Finding]:
    layer, limit = subject.layer, _limit(subject)
    narrow = thin_places(layer.area, limit, white=True) if limit > 0.0 else []
    if not narrow:
        return []
    letters = pairs_of(layer, narrow)
    message = (
        f"{counted(len(narrow), 'gap')}{where(layer)} narrower than {limit:g} mm, "
        f"the narrowest {narrow[0].thickness:.2f} mm{named_letters(letters)}"
    )
    remedy = "Open the gaps, or join what comes so near."
    return [too_near(CHECK, layer.owner, narrow, limit, letters, message, remedy)]


def _across(subject: Subject) -> list[Finding]:
    """Letterings that come nearer to one another than the tool can leave."""
    layers, limit = on_one_sheet(subject.ready), _limit(subject)
    if len(layers) < 2 or limit <= 0.0:
        return []
    every = Layer("all", "", "whole", tuple(p for la in layers for p in la.cutouts), ())
    owners = [cutout.lettering for cutout in every.cutouts]
    narrow = [
        place
        for place in thin_places(every.area, limit, white=True)
        if owners[nearest(every, place.first)] != owners[nearest(every, place.second)]
    ]
    if not narrow:
        return []
    message = (
        f"letterings come as near to one another as {narrow[0].thickness:.2f} mm at "
        f"{counted(len(narrow), 'place')}"
    )
    remedy = "Move them apart, or join the whole piece."
    return [too_near(CHECK, "", narrow, limit, pairs_of(every, narrow), message, remedy)]


CHECK = Check(
    kind="narrow-gap",
    rank=60,
    severity="warning",
    unit="mm",
    looks={"sheet layer": _in_layer, "sheet": _across},
    less_is_worse=True,
    needless=("near-letters", "near-turns"),
)

"""Findings under a tool sheet: what its tool cannot make, and its material does not hold."""

from __future__ import annotations

import math
from typing import Literal

from ulvent.core.base.tolerances import JOINT
from ulvent.core.layout import Layout
from ulvent.core.prepare import Layer, Prepared
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.material import Part, material
from ulvent.core.proof.places import (
    MOST_PLACES,
    counted,
    named_letters,
    nearest,
    on_one_sheet,
    owners_of,
    pairs_of,
    prepare_remedy,
    quoted,
    where,
    xy,
)
from ulvent.core.proof.unreached import unreached
from ulvent.core.recipe.piece import Piece
from ulvent.core.recipe.tool_sheet import ToolSheet
from ulvent.core.shapes import Region
from ulvent.core.shapes.thin import ThinPlace, thin_places
from ulvent.core.steps.bridge_step import Bridges


def prove_sheet(layout: Layout, ready: Prepared, sheet: ToolSheet) -> list[Finding]:
    """What the tool of a sheet cannot make, and its material does not hold."""
    findings: list[Finding] = []
    for layer in ready.layers:
        found = _of_layer(layer, layout.piece, ready.blank, sheet)
        if layer.kind == "border":
            found = [f.model_copy(update={"key": f"{f.kind}:{layer.id}"}) for f in found]
        findings.extend(found)
    if sheet.least_gap > 0.0 and sheet.use != "lines":
        findings.extend(_gaps_across(ready, sheet))
    return [finding.model_copy(update={"sheet": sheet.id}) for finding in findings]


def _of_layer(layer: Layer, piece: Piece, blank: Region, sheet: ToolSheet) -> list[Finding]:
    findings = _low(layer, sheet)
    if sheet.use == "lines":
        return findings
    strokes = layer.area
    if sheet.use != "sunk":
        stuff = material((layer,), blank, sheet.use)
        findings.extend(_parts(layer, piece, sheet, stuff.parts))
        strokes = stuff.stays if stuff.use == "removed" else layer.area
    if sheet.least_stroke > 0.0:
        findings.extend(_thin(layer, sheet, thin_places(strokes, sheet.least_stroke)))
    if sheet.least_gap > 0.0:
        findings.extend(_gaps(layer, sheet))
    if sheet.cutter > 0.0:
        findings.extend(_unreached(layer, sheet))
    return findings


def _low(layer: Layer, sheet: ToolSheet) -> list[Finding]:
    low = [p for p in layer.pieces if 0.0 < p.height < sheet.least_height - JOINT]
    if not low:
        return []
    least = min(low, key=lambda piece: piece.height)
    return [
        Finding(
            kind="low-letters",
            severity="warning",
            lettering=layer.owner,
            message=f"letters are {least.height:.2f} mm high; this tool needs "
            f"{sheet.least_height:g} mm",
            remedy="Make the letters higher, or choose a finer tool.",
            figure=least.height,
            limit=sheet.least_height,
            unit="mm",
            letters=tuple(dict.fromkeys(piece.text for piece in low)),
            places=(least.area.some_point(),),
        )
    ]


def _parts(layer: Layer, piece: Piece, sheet: ToolSheet, parts: tuple[Part, ...]) -> list[Finding]:
    findings: list[Finding] = []
    falling = [part for part in parts if not part.holds]
    if falling:
        width = max(sheet.least_stroke, 0.5)
        remedies = (
            (prepare_remedy(f"tie them with bridges {width:g} mm wide", layer, piece,
                             bridges=Bridges(width=width)),)
            if layer.kind != "border"
            else ()
        )  # fmt: skip
        findings.append(
            Finding(
                kind="falls-out",
                severity="fault",
                lettering=layer.owner,
                message=f"{counted(len(falling), 'part')} would fall out, the largest "
                f"{falling[0].area:.1f} mm²",
                remedy="Tie them with bridges.",
                figure=float(len(falling)),
                remedies=remedies,
                places=tuple(part.at for part in falling[:MOST_PLACES]),
            )
        )
    if sheet.use == "kept" and layer.kind == "letters" and not layer.inverse:
        findings.extend(_loose(layer))
    small = [p for p in parts if p.holds and _across(p.area) < sheet.least_part]
    if small:
        least = small[-1]
        findings.append(
            Finding(
                kind="small-part",
                severity="warning",
                lettering=layer.owner,
                message=f"{counted(len(small), 'part')} too small to pick out: the smallest is "
                f"{_across(least.area):.2f} mm across",
                remedy="Make the letters larger, or join the parts to a band.",
                figure=_across(least.area),
                limit=sheet.least_part,
                unit="mm",
                places=tuple(part.at for part in reversed(small[-MOST_PLACES:])),
            )
        )
    return findings


def _across(area: float) -> float:
    """Diameter of the disc of an area, mm."""
    return 2.0 * math.sqrt(area / math.pi)


def _loose(layer: Layer) -> list[Finding]:
    """Letters of several parts: dots and accents that come off by themselves."""
    found = [(p.text, p.area.parts) for p in layer.pieces if len(p.area.parts) > 1]
    if not found:
        return []
    named = quoted(text for text, _ in found)
    places = [min(parts, key=lambda part: part.area).some_point() for _, parts in found]
    count = sum(len(parts) - 1 for _, parts in found)
    return [
        Finding(
            kind="loose-part",
            severity="hint",
            lettering=layer.owner,
            message=f"dots and accents come off by themselves: {named}",
            remedy="Transfer them together, or carry them by a band.",
            figure=float(count),
            letters=tuple(text for text, _ in found if text),
            places=tuple(places[:MOST_PLACES]),
        )
    ]


def _thin(layer: Layer, sheet: ToolSheet, thin: list[ThinPlace]) -> list[Finding]:
    if not thin:
        return []
    letters = owners_of(layer, thin)
    message = (
        f"{counted(len(thin), 'place')}{where(layer)} thinner than {sheet.least_stroke:g} mm, "
        f"the thinnest {thin[0].thickness:.2f} mm{named_letters(letters)}"
    )
    remedy = "Use a heavier face, larger letters, or a border."
    return [_too_near("thin", layer.owner, thin, sheet.least_stroke, letters, message, remedy)]


def _gaps(layer: Layer, sheet: ToolSheet) -> list[Finding]:
    narrow = thin_places(layer.area, sheet.least_gap, white=True)
    if not narrow:
        return []
    letters = pairs_of(layer, narrow)
    message = (
        f"{counted(len(narrow), 'gap')}{where(layer)} narrower than {sheet.least_gap:g} mm, "
        f"the narrowest {narrow[0].thickness:.2f} mm{named_letters(letters)}"
    )
    remedy = "Open the gaps, or join what comes so near."
    return [_too_near("narrow-gap", layer.owner, narrow, sheet.least_gap, letters, message, remedy)]


def _gaps_across(ready: Prepared, sheet: ToolSheet) -> list[Finding]:
    """Letterings that come nearer to one another than the tool can leave."""
    layers = on_one_sheet(ready)
    if len(layers) < 2:
        return []
    every = Layer("all", "", "whole", tuple(p for la in layers for p in la.pieces), ())
    owners = [piece.lettering for piece in every.pieces]
    narrow = [
        place
        for place in thin_places(every.area, sheet.least_gap, white=True)
        if owners[nearest(every, place.first)] != owners[nearest(every, place.second)]
    ]
    if not narrow:
        return []
    message = (
        f"letterings come as near to one another as {narrow[0].thickness:.2f} mm at "
        f"{counted(len(narrow), 'place')}"
    )
    remedy = "Move them apart, or join the whole piece."
    letters = pairs_of(every, narrow)
    return [_too_near("narrow-gap", "", narrow, sheet.least_gap, letters, message, remedy)]


def _too_near(
    kind: Literal["thin", "narrow-gap"], owner: str, places: list[ThinPlace], limit: float,
    letters: list[str], message: str, remedy: str,
) -> Finding:  # fmt: skip
    """Edges nearer to each other than a limit, the nearest first."""
    return Finding(
        kind=kind,
        severity="warning",
        lettering=owner,
        message=message,
        remedy=remedy,
        figure=places[0].thickness,
        limit=limit,
        unit="mm",
        letters=tuple(dict.fromkeys(text for text in letters if text)),
        places=tuple(place.at for place in places[:MOST_PLACES]),
    )


def _unreached(layer: Layer, sheet: ToolSheet) -> list[Finding]:
    """Corners into which a round cutter does not come."""
    rest = unreached(layer.area, sheet.cutter, "outside" if sheet.use == "kept" else "inside")
    if rest.is_empty:
        return []
    parts = sorted(rest.parts, key=lambda part: -part.area)
    return [
        Finding(
            kind="unreached",
            severity="hint",
            lettering=layer.owner,
            message=f"a cutter of {sheet.cutter:g} mm does not reach "
            f"{counted(len(parts), 'corner')}, {rest.area:.2f} mm² in all",
            remedy="Round the corners to the cutter's radius, or use a finer one.",
            figure=rest.area,
            unit="mm²",
            places=tuple(xy(part.rings[0][0]) for part in parts[:MOST_PLACES]),
        )
    ]

"""Findings on a prepared piece whatever it is made of: outlines that no tool can follow."""

from __future__ import annotations

import math
from collections.abc import Iterable
from itertools import groupby

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from ulvent.core.base.arrays import Floats
from ulvent.core.base.tolerances import FITTING, JOINT
from ulvent.core.layout import Layout
from ulvent.core.outlines import Polyline
from ulvent.core.prepare import Layer, Prepared
from ulvent.core.proof.finding import XY, Finding
from ulvent.core.proof.places import (
    MOST_PLACES,
    counted,
    from_edge,
    named_letters,
    on_one_sheet,
    prepare_remedy,
    quoted,
    xy,
)
from ulvent.core.proof.remedies import Remedy
from ulvent.core.recipe.piece import Piece
from ulvent.core.shapes import Region, flat_contours
from ulvent.core.shapes.region import ring_area
from ulvent.core.steps.join_step import Join
from ulvent.core.steps.letter import Letter

_ROUNDING = 1e-6
_SAMPLE = 0.1
_DOUBLED = 1.0
"""Lines that lie on each other over less than this, mm, only cross."""
_PARALLEL = 0.999


def prove_cutting(layout: Layout, ready: Prepared) -> list[Finding]:
    """What is wrong with a prepared piece whatever it is made of."""
    findings: list[Finding] = []
    every = Region.joined(layer.area for layer in ready.layers)
    findings.extend(_outside(every, ready.blank, "outside-blank", "the blank"))
    findings.extend(_outside_area(layout.piece, every))
    for layer in ready.layers:
        findings.extend(_touching(layer, layout.piece))
        findings.extend(_crossing(layer))
        findings.extend(_open(layer))
    findings.extend(_across_layers(ready, layout.piece))
    findings.extend(_doubled(ready))
    return findings


def _outside(area: Region, shape: Region, kind: str, name: str) -> list[Finding]:
    if shape.is_empty:
        return []
    out = area.minus(shape.offset(JOINT))
    if out.is_empty:
        return []
    points = np.concatenate(out.rings)
    points = points[~shape.contains(points)]
    if not len(points):
        return []
    far = from_edge(points, shape)
    order = np.argsort(-far)
    return [
        Finding(
            kind="outside-blank" if kind == "outside-blank" else "outside-area",
            severity="fault",
            lettering="",
            message=f"lettering reaches {far.max():.2f} mm outside of {name}",
            remedy="Make it smaller, move it, or cut it back to the blank.",
            figure=float(far.max()),
            unit="mm",
            places=(xy(points[order[0]]),),
            key=kind,
        )
    ]


def _outside_area(piece: Piece, area: Region) -> list[Finding]:
    if piece.area is None:
        return []
    x, y = piece.area.width / 2.0, piece.area.height / 2.0
    x, y = (y, x) if piece.area.turned else (x, y)
    box = Region.box((-x, -y, x, y))
    return _outside(area, box, "outside-area", "what the tool can reach")


def _touching(layer: Layer, piece: Piece) -> list[Finding]:
    """Pairs that would be cut through one another."""
    found = _overlaps(_near_pairs(layer.pieces, 0.0))
    if not found:
        return []
    deep = found[0][0]
    message = (
        f"{counted(len(found), 'pair')} of letters run into each other by up to {deep:.2f} mm "
        f"and would be cut apart{named_letters(text for _, _, text in found)}"
    )
    return [_overlapping(layer, piece, message, "Join what overlaps, or open the gaps.", found)]


def _across_layers(ready: Prepared, piece: Piece) -> list[Finding]:
    """Letterings that run into one another: all that is cut from one sheet."""
    layers = on_one_sheet(ready)
    if len(layers) < 2:
        return []
    every = tuple(one for layer in layers for one in layer.pieces)
    pairs = _near_pairs(every, 0.0)
    found = _overlaps((one, two) for one, two in pairs if one.lettering != two.lettering)
    if not found:
        return []
    message = (
        f"letterings run into one another at {counted(len(found), 'place')}, by up to "
        f"{found[0][0]:.2f} mm"
    )
    whole = Layer("whole", "", "whole", (), ())
    remedy = "Move one of them, or join the whole piece."
    return [_overlapping(whole, piece, message, remedy, found)]


_Overlap = tuple[float, XY, str]
"""How deep, mm, where, and the letters of both."""


def _overlaps(pairs: Iterable[tuple[Letter, Letter]]) -> list[_Overlap]:
    """The pairs that have an area in common, the deepest first."""
    found: list[_Overlap] = []
    for one, two in pairs:
        common = one.area.meet(two.area)
        if common.area > _ROUNDING:
            depth = 4.0 * common.area / max(common.perimeter, JOINT)
            found.append((depth, common.some_point(), one.text + two.text))
    return sorted(found, key=lambda each: -each[0])


def _overlapping(
    layer: Layer, piece: Piece, message: str, remedy: str, found: list[_Overlap]
) -> Finding:
    return Finding(
        kind="touching",
        severity="fault",
        lettering=layer.owner,
        message=message,
        remedy=remedy,
        figure=found[0][0],
        unit="mm",
        letters=tuple(text for _, _, text in found if text),
        remedies=_joining(layer, piece),
        places=tuple(place for _, place, _ in found[:MOST_PLACES]),
    )


def _joining(layer: Layer, piece: Piece) -> tuple[Remedy, ...]:
    return (prepare_remedy("join what overlaps", layer, piece, join=Join()),)


def _near_pairs(pieces: tuple[Letter, ...], within: float) -> Iterable[tuple[Letter, Letter]]:
    """Pairs whose boxes are nearer than a distance, mm."""
    boxes = np.array([piece.area.bounds for piece in pieces]).reshape(-1, 4)
    order = np.argsort(boxes[:, 0], kind="stable")
    for rank, one in enumerate(order.tolist()):
        later = order[rank + 1 :]
        reach = np.searchsorted(boxes[later, 0], boxes[one, 2] + within, side="right")
        later = later[:reach]
        near = (boxes[later, 1] <= boxes[one, 3] + within) & (
            boxes[later, 3] >= boxes[one, 1] - within
        )
        for two in later[near].tolist():
            yield (pieces[one], pieces[two]) if one < two else (pieces[two], pieces[one])


def _crossing(layer: Layer) -> list[Finding]:
    """Outlines that cross themselves: a tool would cut a piece apart, or out."""
    found: list[tuple[float, XY, str]] = []
    for piece in layer.pieces:
        if piece.outline is None:
            continue
        rings = [points for points, closed in flat_contours(piece.outline) if closed]
        own = Region.of_rings(rings)
        off = abs(abs(sum(ring_area(ring) for ring in rings)) - own.area)
        if off > _ROUNDING * max(own.area, 1.0):
            found.append((off, piece.area.some_point(), piece.text))
    if not found:
        return []
    found.sort(key=lambda each: -each[0])
    named = quoted(text for _, _, text in found)
    return [
        Finding(
            kind="crossing",
            severity="fault",
            lettering=layer.owner,
            message=f"the outlines of {named} cross themselves",
            remedy="Prepare the lettering: joining gives outlines that do not cross.",
            figure=found[0][0],
            unit="mm²",
            letters=tuple(text for _, _, text in found),
            places=tuple(place for _, place, _ in found[:MOST_PLACES]),
        )
    ]


def _open(layer: Layer) -> list[Finding]:
    """Outlines with a gap in them."""
    found = [
        (piece.text, points[0])
        for piece in layer.pieces
        if piece.outline is not None
        for points, closed in flat_contours(piece.outline)
        if not closed
    ]
    if not found:
        return []
    return [
        Finding(
            kind="open-outline",
            severity="fault",
            lettering=layer.owner,
            message=f"{len(found)} outlines are open: nothing would come off",
            remedy="Use another face, or a mark whose outline is closed.",
            figure=float(len(found)),
            letters=tuple(text for text, _ in found),
            places=tuple(xy(at) for _, at in found[:MOST_PLACES]),
        )
    ]


def _doubled(ready: Prepared) -> list[Finding]:
    """Lines that lie on each other, and would be cut or drawn twice."""
    lines: list[tuple[str, Polyline]] = []
    for layer in ready.layers:
        for piece in layer.pieces:
            lines.extend((layer.id, Polyline(ring, True)) for ring in piece.area.rings)
        lines.extend((layer.id, line) for line in layer.lines)
        for stroke in layer.own_lines:
            lines.extend((layer.id, line) for line in flat_contours(stroke))
    samples, ways, whose = _sampled([line for _, line in lines])
    if not len(samples):
        return []
    pairs = cKDTree(samples).query_pairs(0.75 * _SAMPLE, output_type="ndarray")
    one, two = pairs.T
    apart = whose[one] != whose[two]
    one, two = one[apart], two[apart]
    parallel = np.abs(np.einsum("ni,ni->n", ways[one], ways[two])) > _PARALLEL
    off = samples[two] - samples[one]
    across = np.abs(off[:, 0] * ways[one, 1] - off[:, 1] * ways[one, 0]) < FITTING
    doubled = np.unique(one[parallel & across])
    if len(doubled) * _SAMPLE < _DOUBLED:
        return []
    length = len(doubled) * _SAMPLE
    return [
        Finding(
            kind="double-line",
            severity="warning",
            lettering="",
            message=f"about {length:.1f} mm of lines lie on each other and would be cut twice",
            remedy="Take one of them out, or join them.",
            figure=length,
            unit="mm",
            places=(xy(samples[doubled[0]]),),
            key="double-line",
        )
    ]


def _sampled(lines: list[Polyline]) -> tuple[Floats, Floats, NDArray[np.int_]]:
    """Points at even steps along all lines, the way there, and whose each is."""
    points, ways, whose = [], [], []
    for index, line in enumerate(lines):
        walk = line.walk()
        count = max(2, math.ceil(walk.length / _SAMPLE))
        stations = (np.arange(count) + 0.5) * walk.length / count
        points.append(walk.at(stations))
        ways.append(walk.ways[walk.edge(stations)])
        whose.append(np.full(count, index))
    if not points:
        return np.empty((0, 2)), np.empty((0, 2)), np.empty(0, dtype=int)
    return np.concatenate(points), np.concatenate(ways), np.concatenate(whose)


def grouped(findings: list[Finding]) -> list[Finding]:
    """Nothing twice: what a sheet says of gaps makes what the layout says of them needless."""
    by_gap = {f.lettering for f in findings if f.kind in ("narrow-gap", "touching")}
    kept = [
        finding
        for finding in findings
        if not (finding.kind in ("near-letters", "near-turns") and finding.lettering in by_gap)
    ]
    unique: list[Finding] = []
    for _, same in groupby(kept, key=lambda f: (f.kind, f.lettering, f.sheet, f.message)):
        unique.append(next(same))
    return unique

"""Findings on a prepared piece: whether a tool can make it, and whether it holds together."""

from __future__ import annotations

import math
from collections.abc import Iterable
from itertools import groupby

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from ulvent.core.layout import Layout
from ulvent.core.piece import Piece
from ulvent.core.prepare import Layer, Letter, Prepared, unreached
from ulvent.core.prepare_recipe import Bridges, Join, Prepare
from ulvent.core.proof.finding import XY, Finding
from ulvent.core.proof.material import Part, material
from ulvent.core.proof.remedies import Remedy
from ulvent.core.shapes import Region, flat_contours
from ulvent.core.shapes.region import ring_area
from ulvent.core.shapes.thin import ThinPlace, thin_places
from ulvent.core.tolerances import FITTING, JOINT
from ulvent.core.tool_sheet import ToolSheet

Floats = NDArray[np.float64]

_ROUNDING = 1e-6
_SAMPLE = 0.1
_DOUBLED = 1.0
"""Lines that lie on each other over less than this, mm, only cross."""
_PARALLEL = 0.999
_MOST_PLACES = 40
_MOST_NAMED = 40


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


# ------------------------------------------------------------------ whatever the material


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
    far = _from_edge(points, shape)
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
            places=(_xy(points[order[0]]),),
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


def _from_edge(points: Floats, shape: Region) -> Floats:
    """(n,) distances of points to the edge of a shape, mm."""
    best = np.full(len(points), np.inf)
    for ring in shape.rings:
        begins, ways = ring, np.roll(ring, -1, axis=0) - ring
        squared = np.maximum((ways * ways).sum(axis=1), JOINT**2)
        for some in np.array_split(np.arange(len(points)), 1 + len(points) * len(ring) // 500_000):
            off = points[some, None] - begins
            share = np.clip((off * ways).sum(axis=2) / squared, 0.0, 1.0)
            far = np.hypot(*np.moveaxis(off - share[..., None] * ways, 2, 0)).min(axis=1)
            best[some] = np.minimum(best[some], far)
    return best


def _touching(layer: Layer, piece: Piece) -> list[Finding]:
    """Pieces that would be cut through one another."""
    found: list[tuple[float, XY, str]] = []
    for one, two in _near_pairs(layer.pieces, 0.0):
        common = one.area.meet(two.area)
        if common.area > _ROUNDING:
            depth = 2.0 * common.area / max(common.perimeter, JOINT)
            found.append((2.0 * depth, common.some_point(), one.text + two.text))
    if not found:
        return []
    found.sort(key=lambda each: -each[0])
    deep, at, _ = found[0]
    named = ", ".join(f"“{text}”" for text in dict.fromkeys(text for _, _, text in found) if text)
    return [
        Finding(
            kind="touching",
            severity="fault",
            lettering=layer.owner,
            message=(
                f"{_counted(len(found), 'pair')} of letters run into each other by up to "
                f"{deep:.2f} mm and would be cut apart{_named(named)}"
            ),
            remedy="Join what overlaps, or open the gaps.",
            figure=deep,
            unit="mm",
            letters=tuple(text for _, _, text in found if text),
            remedies=_joining(layer, piece),
            places=(at, *(place for _, place, _ in found[1:_MOST_PLACES])),
        )
    ]


def _on_one_sheet(ready: Prepared) -> list[Layer]:
    return [layer for layer in ready.layers if layer.kind == "letters" and layer.pieces]


def _across_layers(ready: Prepared, piece: Piece) -> list[Finding]:
    """Letterings that run into one another: all that is cut from one sheet."""
    layers = _on_one_sheet(ready)
    if len(layers) < 2:
        return []
    every = tuple(one for layer in layers for one in layer.pieces)
    found: list[tuple[float, XY, str]] = []
    for one, two in _near_pairs(every, 0.0):
        if one.lettering == two.lettering:
            continue
        common = one.area.meet(two.area)
        if common.area > _ROUNDING:
            depth = 4.0 * common.area / max(common.perimeter, JOINT)
            found.append((depth, common.some_point(), one.text + two.text))
    if not found:
        return []
    found.sort(key=lambda each: -each[0])
    deep, at, _ = found[0]
    whole = Layer("whole", "", "whole", (), ())
    return [
        Finding(
            kind="touching",
            severity="fault",
            lettering="",
            message=f"letterings run into one another at {_counted(len(found), 'place')}, by up "
            f"to {deep:.2f} mm",
            remedy="Move one of them, or join the whole piece.",
            figure=deep,
            unit="mm",
            letters=tuple(text for _, _, text in found if text),
            remedies=_joining(whole, piece),
            places=(at, *(place for _, place, _ in found[1:_MOST_PLACES])),
        )
    ]


def _joining(layer: Layer, piece: Piece) -> tuple[Remedy, ...]:
    return (_prepare_remedy("join what overlaps", layer, piece, join=Join()),)


def _prepare_remedy(label: str, layer: Layer, piece: Piece, **steps: Join | Bridges) -> Remedy:
    """A step of preparing, added to those that there are."""
    if layer.owner:
        recipe = next(one.prepare for one in piece.letterings if one.id == layer.owner)
    else:
        recipe = piece.prepare
    changed = (recipe or Prepare()).model_copy(update=steps)
    changes = {"prepare": changed.model_dump(mode="json")}
    of = "lettering" if layer.owner else "piece"
    return Remedy(label=label, of=of, owner=layer.owner, changes=changes)


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
    named = ", ".join(f"“{text}”" for text in dict.fromkeys(text for _, _, text in found))
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
            places=tuple(place for _, place, _ in found[:_MOST_PLACES]),
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
            places=tuple(_xy(at) for _, at in found[:_MOST_PLACES]),
        )
    ]


def _doubled(ready: Prepared) -> list[Finding]:
    """Lines that lie on each other, and would be cut or drawn twice."""
    lines: list[tuple[str, Floats]] = []
    for layer in ready.layers:
        for piece in layer.pieces:
            lines.extend((layer.id, np.concatenate([r, r[:1]])) for r in piece.area.rings)
        lines.extend((layer.id, points) for points, _ in layer.lines)
        for stroke in layer.own_lines:
            lines.extend((layer.id, points) for points, _ in flat_contours(stroke))
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
            places=(_xy(samples[doubled[0]]),),
            key="double-line",
        )
    ]


def _sampled(lines: list[Floats]) -> tuple[Floats, Floats, NDArray[np.int_]]:
    """Points at even steps along all lines, the way there, and whose each is."""
    points, ways, whose = [], [], []
    for index, line in enumerate(lines):
        along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(line, axis=0).T))])
        count = max(2, math.ceil(along[-1] / _SAMPLE))
        stations = (np.arange(count) + 0.5) * along[-1] / count
        at = np.column_stack([np.interp(stations, along, line[:, axis]) for axis in (0, 1)])
        edge = np.clip(np.searchsorted(along, stations) - 1, 0, len(line) - 2)
        way = (line[1:] - line[:-1])[edge]
        points.append(at)
        ways.append(way / np.maximum(np.hypot(*way.T), JOINT)[:, None])
        whose.append(np.full(count, index))
    if not points:
        return np.empty((0, 2)), np.empty((0, 2)), np.empty(0, dtype=int)
    return np.concatenate(points), np.concatenate(ways), np.concatenate(whose)


# ------------------------------------------------------------------ held against a sheet


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
            (_prepare_remedy(f"tie them with bridges {width:g} mm wide", layer, piece,
                             bridges=Bridges(width=width)),)
            if layer.kind != "border"
            else ()
        )  # fmt: skip
        findings.append(
            Finding(
                kind="falls-out",
                severity="fault",
                lettering=layer.owner,
                message=f"{_counted(len(falling), 'part')} would fall out, the largest "
                f"{falling[0].area:.1f} mm²",
                remedy="Tie them with bridges.",
                figure=float(len(falling)),
                remedies=remedies,
                places=tuple(part.at for part in falling[:_MOST_PLACES]),
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
                message=f"{_counted(len(small), 'part')} too small to pick out: the smallest is "
                f"{_across(least.area):.2f} mm across",
                remedy="Make the letters larger, or join the parts to a band.",
                figure=_across(least.area),
                limit=sheet.least_part,
                unit="mm",
                places=tuple(part.at for part in reversed(small[-_MOST_PLACES:])),
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
    named = ", ".join(f"“{text}”" for text in dict.fromkeys(text for text, _ in found if text))
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
            places=tuple(places[:_MOST_PLACES]),
        )
    ]


def _thin(layer: Layer, sheet: ToolSheet, thin: list[ThinPlace]) -> list[Finding]:
    if not thin:
        return []
    owners = _owners(layer, thin)
    named = ", ".join(f"“{text}”" for text in dict.fromkeys(owners) if text)
    worst = thin[0]
    return [
        Finding(
            kind="thin",
            severity="warning",
            lettering=layer.owner,
            message=f"{_counted(len(thin), 'place')}{_where(layer)} thinner than "
            f"{sheet.least_stroke:g} mm, the thinnest {worst.thickness:.2f} mm{_named(named)}",
            remedy="Use a heavier face, larger letters, or a border.",
            figure=worst.thickness,
            limit=sheet.least_stroke,
            unit="mm",
            letters=tuple(dict.fromkeys(text for text in owners if text)),
            places=tuple(place.at for place in thin[:_MOST_PLACES]),
        )
    ]


def _gaps(layer: Layer, sheet: ToolSheet) -> list[Finding]:
    narrow = thin_places(layer.area, sheet.least_gap, white=True)
    if not narrow:
        return []
    pairs = _pairs(layer, narrow)
    named = ", ".join(f"“{text}”" for text in dict.fromkeys(pairs) if text)
    worst = narrow[0]
    return [
        Finding(
            kind="narrow-gap",
            severity="warning",
            lettering=layer.owner,
            message=f"{_counted(len(narrow), 'gap')}{_where(layer)} narrower than "
            f"{sheet.least_gap:g} mm, the narrowest {worst.thickness:.2f} mm{_named(named)}",
            remedy="Open the gaps, or join what comes so near.",
            figure=worst.thickness,
            limit=sheet.least_gap,
            unit="mm",
            letters=tuple(dict.fromkeys(text for text in pairs if text)),
            places=tuple(place.at for place in narrow[:_MOST_PLACES]),
        )
    ]


def _gaps_across(ready: Prepared, sheet: ToolSheet) -> list[Finding]:
    """Letterings that come nearer to one another than the tool can leave."""
    layers = _on_one_sheet(ready)
    if len(layers) < 2:
        return []
    every = Layer("all", "", "whole", tuple(p for la in layers for p in la.pieces), ())
    owners = [piece.lettering for piece in every.pieces]
    narrow = [
        place
        for place in thin_places(every.area, sheet.least_gap, white=True)
        if owners[_nearest(every, place.first)] != owners[_nearest(every, place.second)]
    ]
    if not narrow:
        return []
    worst = narrow[0]
    return [
        Finding(
            kind="narrow-gap",
            severity="warning",
            lettering="",
            message=f"letterings come as near to one another as {worst.thickness:.2f} mm at "
            f"{_counted(len(narrow), 'place')}",
            remedy="Move them apart, or join the whole piece.",
            figure=worst.thickness,
            limit=sheet.least_gap,
            unit="mm",
            letters=tuple(dict.fromkeys(_pairs(every, narrow))),
            places=tuple(place.at for place in narrow[:_MOST_PLACES]),
        )
    ]


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
            f"{_counted(len(parts), 'corner')}, {rest.area:.2f} mm² in all",
            remedy="Round the corners to the cutter's radius, or use a finer one.",
            figure=rest.area,
            unit="mm²",
            places=tuple(_xy(part.rings[0][0]) for part in parts[:_MOST_PLACES]),
        )
    ]


def _named(letters: str) -> str:
    return f": {letters}" if letters else ""


def _where(layer: Layer) -> str:
    return " of its border" if layer.kind == "border" else ""


def _counted(count: int, what: str) -> str:
    """`1 gap`, `2 gaps`."""
    return f"{count} {what}{'' if count == 1 else 's'}"


def _owners(layer: Layer, places: list[ThinPlace]) -> list[str]:
    """The letter that each thin place is in, or beside."""
    return [_nearest_piece(layer, place.at) for place in places[:_MOST_NAMED]]


def _pairs(layer: Layer, places: list[ThinPlace]) -> list[str]:
    """The letters on the two sides of each narrow gap."""
    found: list[str] = []
    for place in places[:_MOST_NAMED]:
        one, two = _nearest_piece(layer, place.first), _nearest_piece(layer, place.second)
        found.append(one if one == two else one + two)
    return found


def _nearest_piece(layer: Layer, at: XY) -> str:
    """The text of the piece whose edge is nearest to a point."""
    return layer.pieces[_nearest(layer, at)].text


def _nearest(layer: Layer, at: XY) -> int:
    """Which piece's edge is nearest to a point."""
    boxes = np.array([piece.area.bounds for piece in layer.pieces])
    x, y = at
    off = np.hypot(
        np.maximum(np.maximum(boxes[:, 0] - x, x - boxes[:, 2]), 0.0),
        np.maximum(np.maximum(boxes[:, 1] - y, y - boxes[:, 3]), 0.0),
    )
    near: list[int] = np.argsort(off)[:4].tolist()
    within = [i for i in near if off[i] <= FITTING] or near[:1]
    if len(within) == 1:
        return within[0]
    point = np.array([at])
    far = [float(_from_edge(point, layer.pieces[i].area)[0]) for i in within]
    return within[int(np.argmin(far))]


def _xy(point: Floats) -> XY:
    x, y = point.tolist()
    return x, y


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

"""Routes for the proof: the piece as material, its findings, and the tool sheets.

Everything here is in mm; path data has y down, as SVG has it, and points are turned last of all.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from fastapi import APIRouter, Depends, Request, Response
from pydantic import BaseModel, ConfigDict

from ulvent.bench import LATER, Bench
from ulvent.core.base.arrays import Bounds, Point, united
from ulvent.core.base.outputs import OutputOrNone
from ulvent.core.layout import Layout
from ulvent.core.layout.names import guide_name
from ulvent.core.prepare import Layer, Prepared, layer_names, layer_outputs
from ulvent.core.prepare.kerfs import Kerfs, kerfs_in_files, offset_of
from ulvent.core.proof import Finding, Material, material, sheet_of
from ulvent.core.proof.unreached import unreached
from ulvent.core.recipe import PLAIN, ToolSheet
from ulvent.core.shapes import Region, refitted
from ulvent.core.workshop import Workpiece
from ulvent.formats.svg_data import curve_data, matrices_data, outline_data
from ulvent.store.tool_sheets import ToolSheets
from ulvent.web.problems import Problem
from ulvent.web.request_work import TheWork
from ulvent.web.turning import turned

router = APIRouter(tags=["proof"], responses={422: {"model": Problem}})

Use = Literal["kept", "removed", "sunk", "lines"]
_DRAWN = 0.02
"""What is only looked at is fitted this coarsely, mm."""
_MOST_PARTS = 400


class ProofRequest(BaseModel):
    """A piece to be proofed, and how its sheet is looked at.

    use
        which way of using the sheet is shown; none: as the first tool sheet says
    layer
        which layer is shown as material; none: the letterings, or the whole
    """

    piece: dict[str, Any]
    use: Use | None = None
    layer: str | None = None


class ProofBridge(BaseModel):
    """A bridge, so that it can be moved or taken away."""

    model_config = ConfigDict(frozen=True)

    lettering: str
    letter: int
    number: int
    begin: Point
    end: Point
    width: float
    angle: float
    about: Point
    axes: tuple[float, float, float, float]


class ProofLayer(BaseModel):
    """A layer as the tool gets it. `strokes` are single lines, `paths` the edges with kerf."""

    id: str
    name: str
    owner: str
    kind: Literal["letters", "border", "whole"]
    output: OutputOrNone
    areas: str
    paths: str
    strokes: str
    nodes: int
    cutouts: int
    notes: list[str]
    bridges: list[ProofBridge]


class ProofLine(BaseModel):
    """A guide, or the blank's edge, as a line of its own."""

    output: OutputOrNone
    name: str
    path: str


class ProofPart(BaseModel):
    """One part of the material, mm²."""

    number: int
    area: float
    at: Point
    holds: bool


class ProofScene(BaseModel):
    """A piece as material.

    sheet
        the whole sheet
    stays, loose
        what of it stays, and what of that has lost the sheet's edge
    unreached
        what a round cutter does not reach
    """

    bounds: Bounds
    lie: list[float]
    sheet: str
    stays: str
    loose: str
    unreached: str
    use: Use
    layer: str
    lines: list[ProofLine]
    layers: list[ProofLayer]
    parts: list[ProofPart]
    parts_left_out: int
    falls_area: float
    stays_area: float
    findings: list[Finding]
    sheets: list[ToolSheet]


@router.post("/api/proof", response_model=ProofScene)
def proof(request: ProofRequest, work: TheWork) -> Response:
    """Proof a piece and show it as material."""
    return work.json(_proofed, request, seconds=LATER, patient=True)


def _proofed(bench: Bench, request: ProofRequest) -> ProofScene:
    return turned(_scene(request, bench.workshop.of_document(request.piece)))


def _scene(request: ProofRequest, work: Workpiece) -> ProofScene:
    layout, found = work.layout, work.proof
    ready = found.ready
    blank = [curve_data(outline) for outline in layout.blank]
    first = found.sheets[0] if found.sheets else PLAIN
    use = request.use or first.use
    shown = _shown(ready, request.layer)
    stuff = material(shown, ready.blank, "removed" if use in ("removed", "sunk") else "kept")
    cut_through = use in ("kept", "removed")
    loose = stuff.loose if cut_through else ()
    parts = stuff.parts if cut_through else ()
    sheet = sheet_of(ready.layers, ready.blank)
    cutter = max(one.cutter for one in found.sheets)
    said = zip(layer_names(layout, ready), layer_outputs(layout, ready), strict=True)
    layers = [
        _layer(layer, name, output, kerfs_in_files(layout.piece.run, layer.key, output))
        for layer, (name, output) in zip(ready.layers, said, strict=True)
    ]
    return ProofScene(
        bounds=united([sheet.bounds, *ready.bounds()]),
        lie=matrices_data(layout.piece.lie.matrix[None]),
        sheet="".join(blank) or _drawn(sheet),
        stays="" if use == "lines" else _stays(shown, stuff),
        loose=_drawn(Region.joined(part.region for part in loose)),
        unreached=_unreached(shown, cutter, stuff) if cutter else "",
        use=stuff.use if cut_through else use,
        layer=shown[0].id if shown and shown[0].id == request.layer else "",
        lines=_lines(layout, ready),
        layers=layers,
        parts=[
            ProofPart(number=p.number, area=p.area, at=p.at, holds=p.holds)
            for p in parts[:_MOST_PARTS]
        ],
        parts_left_out=max(0, len(parts) - _MOST_PARTS),
        falls_area=stuff.falls.area + sum(part.area for part in loose),
        stays_area=stuff.stays.area - sum(part.area for part in loose),
        findings=list(found.findings),
        sheets=list(found.sheets),
    )


def _lines(layout: Layout, ready: Prepared) -> list[ProofLine]:
    """Guides that are lines of their own, and the blank's edge where it is one."""
    found = [
        ProofLine(
            output=guide.recipe.output or "none",
            name=guide_name(guide.recipe),
            path=curve_data(guide.curve),
        )
        for guide in ready.guides
    ]
    edge = layout.piece.edge
    if edge is not None:
        paths = map(curve_data, layout.blank)
        found += [ProofLine(output=edge, name="The edge of the blank", path=d) for d in paths]
    return found


def _shown(ready: Prepared, wanted: str | None) -> tuple[Layer, ...]:
    """The layers that are on one sheet: one that is asked for, or all but the borders."""
    asked = tuple(layer for layer in ready.layers if layer.id == wanted)
    return asked or tuple(layer for layer in ready.layers if layer.kind != "border")


def _stays(shown: tuple[Layer, ...], stuff: Material) -> str:
    if stuff.use == "removed":
        return _drawn(stuff.stays)
    # Each cutout by itself, as it is cut.
    return "".join(outline_data(one) for layer in shown for one in layer.outlines)


def _unreached(shown: tuple[Layer, ...], cutter: float, stuff: Material) -> str:
    side: Literal["inside", "outside"] = "inside" if stuff.use == "removed" else "outside"
    return _drawn(Region.joined(unreached(layer.area, cutter, side) for layer in shown))


def _layer(layer: Layer, name: str, output: OutputOrNone, kerf: Kerfs) -> ProofLayer:
    strokes = layer.strokes
    outlines = [outline for _, outline in layer.outlined_at(offset_of(kerf, layer.owner))]
    nodes = sum(one.operations.count(op) for one in (*outlines, *strokes) for op in "LQC")
    return ProofLayer(
        id=layer.id,
        name=name,
        owner=layer.owner,
        kind=layer.kind,
        output=output,
        areas="".join(outline_data(one) for one in layer.outlines),
        paths="".join(outline_data(one) for one in outlines),
        strokes="".join(outline_data(one) for one in strokes),
        nodes=nodes,
        cutouts=len(layer.cutouts),
        notes=list(layer.notes),
        bridges=[
            ProofBridge(
                lettering=bridge.lettering,
                letter=bridge.letter,
                number=bridge.number,
                begin=bridge.begin,
                end=bridge.end,
                width=bridge.width,
                angle=bridge.angle,
                about=bridge.about,
                axes=bridge.axes,
            )
            for bridge in layer.bridges
        ],
    )


def _drawn(region: Region) -> str:
    return "" if region.is_empty else outline_data(refitted(region, _DRAWN))


def saved_sheets(request: Request) -> ToolSheets:
    sheets: ToolSheets = request.app.state.tool_sheets
    return sheets


Saved = Annotated[ToolSheets, Depends(saved_sheets)]


@router.get("/api/tool-sheets")
def tool_sheets(saved: Saved) -> list[ToolSheet]:
    """The tool sheets to choose from."""
    return saved.all()


@router.put("/api/tool-sheets")
def save_tool_sheet(saved: Saved, sheet: ToolSheet) -> ToolSheet:
    """Save a tool sheet under its id, in place of what is there."""
    return saved.save(sheet)


@router.delete("/api/tool-sheets/{sheet_id}", status_code=204)
def delete_tool_sheet(saved: Saved, sheet_id: str) -> Response:
    """Forget a saved sheet; a shipped one is again as it was shipped."""
    saved.delete(sheet_id)
    return Response(status_code=204)

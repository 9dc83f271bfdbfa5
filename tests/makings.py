"""What tests make pieces of: documents, layouts, proofs, acts."""

from __future__ import annotations

from typing import Any

import numpy as np
from pydantic import TypeAdapter

from ulvent.core.acts import AnyAct, Done, perform
from ulvent.core.curves import Curve
from ulvent.core.layout import Layout
from ulvent.core.outlines import Outline
from ulvent.core.prepare import prepared
from ulvent.core.proof import Finding, Proof, prove, prove_layout, tried_remedies
from ulvent.core.recipe import Piece, parse_piece
from ulvent.core.setting import Setting
from ulvent.core.setting.gaps.gap import measure_gaps
from ulvent.core.workshop import Workpiece, Workshop
from ulvent.shipped_faces import shipped_face, shipped_faces

_ACT: TypeAdapter[Any] = TypeAdapter(AnyAct)

RING = {"kind": "circle", "diameter": 200}
ELLIPSE = {"kind": "ellipse", "width": 220, "height": 140}
ROUNDED = {"kind": "rectangle", "width": 220, "height": 140, "radius": 30}
LINE = {"kind": "line", "length": 2000}
SPIRAL = {"kind": "spiral", "inner": 60, "gain": 30, "turns": 3}
GROWING = {"kind": "growing-spiral", "inner": 40, "growth": 1.8, "turns": 3}
BOARD_LINE = {"id": "line", "kind": "line", "length": 400, "centre": [100, 0]}
BOARD_RING = {"id": "ring", "kind": "circle", "diameter": 90, "start": 90, "turn": "clockwise"}


def document(**changes: Any) -> dict[str, Any]:
    """The design's own example of a piece file."""
    return {
        "ulvent": 1,
        "title": "Barrel head",
        "blank": {"kind": "disc", "diameter": 300},
        "guides": [
            {
                "id": "rim",
                "kind": "circle",
                "centre": [0, 0],
                "diameter": 240,
                "start": 90,
                "turn": "clockwise",
            }
        ],
        "letterings": [
            {
                "id": "name",
                "guide": "rim",
                "text": "QUILLMERE ORCHARD",
                "face": "lato-bold",
                "height": 18,
                "reading": "along",
                "touch": "baseline",
                "standoff": 0,
                "at": 0,
                "align": "centre",
                "spacing": "font",
                "tracking": 0,
                "shape": "rigid",
            }
        ],
        **changes,
    }


def with_lettering(**changes: Any) -> dict[str, Any]:
    whole = document()
    whole["letterings"][0].update(changes)
    return whole


def with_guide(**guide: Any) -> dict[str, Any]:
    return document(guides=[{"id": "rim", **guide}])


def workpiece(piece: Piece | dict[str, Any]) -> Workpiece:
    """A piece on a bench of its own, with the shipped faces."""
    piece = piece if isinstance(piece, Piece) else parse_piece(piece)
    return Workshop(shipped_face, shipped_faces).of(piece)


def laid(piece: Piece | dict[str, Any]) -> Layout:
    return workpiece(piece).layout


def board(
    text: str = "BOARD",
    prepare: dict[str, Any] | None = None,
    guides: tuple[dict[str, Any], ...] = (BOARD_LINE, BOARD_RING),
    whole: dict[str, Any] | None = None,
    **more: Any,
) -> Layout:
    """Words on a line in the middle of a board, with a ring beside them."""
    lettering = {"id": "words", "guide": "line", "text": text, "face": "lato-bold", "height": 20,
                 "prepare": prepare}  # fmt: skip
    blank = more.pop("blank", {"kind": "rectangle", "width": 300, "height": 120})
    whole_piece = {"ulvent": 1, "blank": blank, "guides": list(guides), "prepare": whole,
                "letterings": [lettering | more]}  # fmt: skip
    return laid(whole_piece)


def found_in(piece: Piece | Layout | dict[str, Any]) -> tuple[Finding, ...]:
    """What there is to say of a piece before it is prepared, with all remedies tried."""
    layout = piece if isinstance(piece, Layout) else laid(piece)
    return tuple(
        finding.model_copy(
            update={
                "remedies": (
                    *finding.remedies,
                    *tried_remedies(layout, finding.kind, finding.lettering),
                )
            }
        )
        for finding in prove_layout(layout, shipped_faces)
    )


def proofed(piece: Piece | Layout | dict[str, Any]) -> Proof:
    """The whole proof of a piece."""
    layout = piece if isinstance(piece, Layout) else laid(piece)
    return prove(layout, prepared(layout), shipped_faces)


def performed(piece: Piece | dict[str, Any], **act: Any) -> Done:
    """What an act makes of a piece as it is seen."""
    return perform(_ACT.validate_python(act), workpiece(piece).solved, shipped_face)


def done(piece: Piece | dict[str, Any], **act: Any) -> Piece:
    """The piece after an act."""
    return performed(piece, **act).piece


def laid_out(guide: dict[str, Any], **changes: Any) -> Layout:
    """One lettering on one guide."""
    lettering = {"id": "x", "guide": "g", "text": "QUILLMERE", "face": "lato-bold", "height": 12}
    piece = {
        "ulvent": 1,
        "guides": [{"id": "g", **guide}],
        "letterings": [{**lettering, **changes}],
    }
    return laid(piece)


def lines(guide: dict[str, Any], **changes: Any) -> tuple[Setting, ...]:
    return laid_out(guide, **changes).settings


def line(guide: dict[str, Any], **changes: Any) -> Setting:
    (only,) = lines(guide, **changes)
    return only


def joint_gaps(setting: Setting) -> np.ndarray:
    """The gaps between runs, that over the seam of a closed guide the last one."""
    runs = setting.runs
    last = np.flatnonzero(np.diff(runs))
    found = setting.gaps.found[last].tolist()
    if setting.baseline.closed:
        ends = [len(runs) - 1, 0]
        middles = setting.middles[ends] + np.array([0.0, setting.baseline.length])
        over_seam = measure_gaps(
            setting.face,
            tuple(setting.clusters[end] for end in ends),
            setting.scales[ends],
            np.zeros(2),
            middles,
            setting.baseline.frames(middles),
        )
        found.append(float(over_seam.found[0]))
    return np.array(found)


def curve_of(layout: Layout) -> Curve:
    return layout.guides[0].curve


def drawn_letters(layout: Layout) -> list[Outline]:
    """The letters of a layout that are drawn, where they stand, mm."""
    return [
        line.placed_outline(index)
        for line in layout.settings
        for index in range(len(line.clusters))
        if line.drawn[index]
    ]

"""Makes the pictures of the documentation: kinds of guides, and even gaps beside the face's own.

.venv/bin/python tools/pictures.py
"""

from __future__ import annotations

from pathlib import Path
from typing import Any
from xml.sax.saxutils import escape

from ulvent.core.layout import Layout, lay_out
from ulvent.core.outlines.path_text import number
from ulvent.core.prepare import prepared
from ulvent.core.proof import material
from ulvent.core.recipe import parse_piece
from ulvent.core.shapes import Region, refitted
from ulvent.formats.svg_data import curve_data, outline_data
from ulvent.shipped_faces import shipped_face

DOCS = Path(__file__).resolve().parent.parent / "docs"
CELL, COLUMNS = 170.0, 4
INK, GUIDE, SOFT, BAR, OUT = "#1b2130", "#1f7365", "#565b66", "#94b5ac", "#8a5a00"

KINDS: list[tuple[str, list[dict[str, Any]], dict[str, Any]]] = [
    ("circle", [{"kind": "circle", "diameter": 96, "start": 180}], {"at": 0.25}),
    ("arch: chord and rise", [{"kind": "arch", "chord": 130, "rise": 38}], {}),
    ("arc: radius and angle", [{"kind": "arc", "radius": 60, "angle": 130}], {}),
    ("arc through three points",
     [{"kind": "arc-through", "points": [[-62, -20], [-10, 22], [62, 4]]}], {}),
    ("ellipse", [{"kind": "ellipse", "width": 130, "height": 78}], {"at": 0.25}),
    ("wave", [{"kind": "wave", "length": 92, "height": 16, "waves": 1.5}], {"at": 0.8333}),
    ("spiral", [{"kind": "spiral", "inner": 36, "outer": 120, "turns": 2.5, "start": 0,
                 "inward": True}], {"at": 0.3, "height": 9}),
    ("growing spiral", [{"kind": "growing-spiral", "inner": 18, "growth": 2.1, "turns": 2.2,
                         "inward": True, "start": 200}], {"at": 0.22, "height": 9}),
    ("rectangle",
     [{"kind": "rectangle", "width": 116, "height": 74}], {"at": 0.25}),
    ("polygon", [{"kind": "polygon", "sides": 6, "across": 116, "radius": 10}], {"at": 0.5}),
    ("star with rounded tips", [{"kind": "star", "tips": 7, "outer": 116, "inner": 88,
                                 "tip_radius": 8, "valley_radius": 14, "corners": "pass"}],
     {"at": 0.5714, "height": 7.5}),
    ("superellipse",
     [{"kind": "superellipse", "width": 116, "height": 96, "exponent": 4}], {"at": 0.25}),
    ("drawn through points",
     [{"kind": "drawn", "nodes": [{"at": a} for a in ([-68, -8], [-30, 20], [8, -10], [40, 12],
                                                      [68, -14])]}], {"at": 0.27}),
    ("middle line of two edges",
     [{"id": "a", "kind": "path", "d": "M-70 20C-40 52 10 10 70 30"},
      {"id": "b", "kind": "path", "d": "M-66 -18C-30 8 20 -40 66 -8"},
      {"kind": "between", "first": "a", "second": "b"}], {"touch": "middle"}),
    ("parallel, its loops cut off",
     [{"id": "a", "kind": "path", "d": "M-70 -20C-20 70 -20 -60 20 14C34 36 50 6 70 -4"},
      {"kind": "parallel", "guide": "a", "distance": 19}], {"at": 0.3}),
    ("laid flat: as long as another",
     [{"id": "a", "kind": "arch", "chord": 110, "rise": 34, "centre": [0, 4]},
      {"kind": "laid-flat", "guide": "a", "centre": [0, -28]}], {}),
]  # fmt: skip


RING: dict[str, Any] = {"kind": "circle", "diameter": 88, "start": 270}
RINGS: list[tuple[str, dict[str, Any], dict[str, Any]]] = [
    ("heads outward", RING, {"text": "TAWNY PLUM", "face": "cinzel-semibold", "height": 21}),
    ("heads inward", {**RING, "diameter": 138},
     {"text": "TOMATO PAMPHLET", "face": "lato-bold", "height": 18, "reading": "against"}),
]  # fmt: skip
BARS = 40.0
WANTED, HELD = 10.0, 3.0


READY: list[tuple[str, dict[str, Any], str]] = [
    ("as set: counters fall", {}, "removed"),
    ("bridges, 2 mm", {"bridges": {"width": 2}}, "removed"),
    ("joined, kept as one", {"join": {"over": 0.2}}, "kept"),
    ("border of 3 mm", {"borders": [{"distance": 3, "fill": 4}]}, "border"),
    ("inline", {"borders": [{"distance": -1.2, "joined": True}]}, "kept"),
    ("a bar carries it", {"bands": [{"along": "g0", "width": 4}]}, "kept"),
    ("middle line", {"strokes": {"kind": "middle"}}, "lines"),
    ("hatched", {"strokes": {"kind": "hatch", "pitch": 1.4, "pen": 0.6}}, "lines"),
]
"""Name, recipe, and how it is shown."""
MATERIAL, LOOSE = "#3d4a5c", "#d9a79f"


def main() -> None:
    _write("guides.svg", COLUMNS * CELL, -(-len(KINDS) // COLUMNS) * CELL, _guides())
    _write("prepared.svg", COLUMNS * CELL, 2 * CELL * 0.66, _prepared())
    _write("even-gaps.svg", 2 * CELL, len(RINGS) * (CELL + BARS), _even_gaps())


def _write(name: str, width: float, height: float, body: list[str]) -> None:
    head = (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:g} {height:g}" '
        f'width="{width:g}" height="{height:g}" font-family="sans-serif" font-size="10">',
        f'<rect width="{width:g}" height="{height:g}" fill="#fcfbf6"/>',
    )
    (DOCS / name).write_text("\n".join([*head, *body, "</svg>", ""]), encoding="utf-8")
    print(DOCS / name)


def _guides() -> list[str]:
    body: list[str] = []
    for index, (name, guides, lettering) in enumerate(KINDS):
        x = (index % COLUMNS + 0.5) * CELL
        y = (index // COLUMNS + 0.5) * CELL
        body.append(f'<g transform="translate({x:g} {y:g})">')
        body.append(_cell(laid(guides, lettering)))
        body.append(_words(name, CELL / 2 - 6) + "</g>")
    return body


def _even_gaps() -> list[str]:
    """The same words by the face's own spacing and with even gaps, with their gaps as bars."""
    body: list[str] = []
    for row, (side, guide, lettering) in enumerate(RINGS):
        for column, (spacing, name) in enumerate((("font", "the face’s own"), ("even", "even"))):
            layout = laid([guide], {**lettering, "spacing": spacing})
            x, y = (column + 0.5) * CELL, row * (CELL + BARS) + 0.5 * CELL
            body.append(f'<g transform="translate({x:g} {y:g})">{_cell(layout)}')
            body.append(_bars(layout, CELL / 2 - 8))
            body.append(_words(f"{name}, {side}", CELL / 2 + BARS - 8) + "</g>")
    return body


def _prepared() -> list[str]:
    """The same word, prepared in different ways."""
    body: list[str] = []
    for place, (name, recipe, shown) in enumerate(READY):
        lettering: dict[str, Any] = {"text": "BREAD", "height": 34, "prepare": recipe or None}
        if shown == "kept" and "join" in recipe:
            lettering |= {"spacing": "overlap", "overlap": 1.5, "face": "archivo-black",
                          "height": 30}  # fmt: skip
        layout = laid([{"kind": "line", "length": 150, "centre": [0, -14]}], lettering)
        x, y = (place % COLUMNS + 0.5) * CELL, (place // COLUMNS + 0.46) * CELL * 0.66
        body.append(f'<g transform="translate({x:g} {y:g})">{_ready(layout, shown)}')
        body.append(_words(name, CELL * 0.26) + "</g>")
    return body


def _ready(layout: Layout, shown: str) -> str:
    ready = prepared(layout)
    words = ready.layer_of("x")
    data = "".join(outline_data(outline) for outline in words.outlines)
    if shown == "lines":
        lines = "".join(outline_data(stroke) for stroke in words.strokes)
        return f'<path d="{data + lines}" fill="none" stroke="{INK}" stroke-width="0.8"/>'
    if shown == "border":
        outline = "".join(outline_data(one) for one in ready.layers[1].outlines)
        return (f'<path d="{outline}" fill="{BAR}" stroke="{GUIDE}"/>'
                f'<path d="{data}" fill="{INK}"/>')  # fmt: skip
    if shown == "kept":
        return f'<path d="{data}" fill="{MATERIAL}"/>'
    sheet = Region.box((-78.0, -24.0, 78.0, 34.0))
    stuff = material(ready.layers, sheet, "removed")
    loose = Region.joined(part.region for part in stuff.loose)
    return (f'<path d="{outline_data(refitted(stuff.stays))}" fill="{MATERIAL}"/>'
            f'<path d="{outline_data(refitted(loose))}" fill="{LOOSE}"/>')  # fmt: skip


def _bars(layout: Layout, y: float) -> str:
    """Each gap against the one that its designer gave it, which is the dashed line."""
    gaps = layout.settings[0].gaps
    shares = gaps.found / gaps.designed
    step = 9.0
    left = -step * (len(shares) - 1) / 2
    parts = []
    for index, share in enumerate(shares.tolist()):
        fill = BAR if abs(share - 1) < 0.1 else OUT
        high = WANTED * min(max(share, 0.05), HELD)
        parts.append(f'<rect x="{number(left + index * step - 2.5)}" y="{number(y)}" width="5" '
                     f'height="{number(high)}" fill="{fill}"/>')  # fmt: skip
    parts.append(f'<path d="M{number(left - 8)} {number(y + WANTED)}H{number(-left + 8)}" '
                 f'stroke="{GUIDE}" stroke-dasharray="2 2"/>')  # fmt: skip
    return "".join(parts)


def _words(text: str, y: float) -> str:
    return f'<text y="{number(y)}" text-anchor="middle" fill="{SOFT}">{escape(text)}</text>'


def laid(guides: list[dict[str, Any]], lettering: dict[str, Any]) -> Layout:
    named = [{"id": f"g{number_}", **guide} for number_, guide in enumerate(guides)]
    usual = {"id": "x", "guide": named[-1]["id"], "text": "QUILLMERE", "face": "lato-bold",
             "height": 11, "at": 0.5, "at_in": "share", "align": "centre"}  # fmt: skip
    piece = {"ulvent": 1, "guides": named, "letterings": [{**usual, **lettering}]}
    return lay_out(parse_piece(piece), shipped_face)


def _cell(layout: Layout) -> str:
    """One kind of guide about the middle of its cell."""
    x0, y0, x1, y1 = layout.reach()
    parts = [f'<g transform="translate({number(-(x0 + x1) / 2)} {number((y0 + y1) / 2 - 6)})">']
    for guide in layout.guides:
        parts.append(f'<path d="{curve_data(guide.curve)}" fill="none" stroke="{GUIDE}" '
                     'stroke-width="0.7" stroke-dasharray="6 1.5 1 1.5"/>')  # fmt: skip
    for setting in layout.settings:
        for index in range(len(setting.clusters)):
            data = outline_data(setting.placed_outline(index))
            parts.append(f'<path d="{data}" fill="{INK}"/>')
    return "".join([*parts, "</g>"])


if __name__ == "__main__":
    main()

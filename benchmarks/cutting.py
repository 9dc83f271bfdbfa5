"""Preparing and proofing: how long it takes, beside the same done plainly with shapely.

    python -m benchmarks.cutting

All in one run, so that a machine that changes its clock changes both sides alike. A ratio
above 1 says that Ulvent is faster. The plain side does what a script with shapely would:
letters as polylines within the same tolerance, `union_all`, `buffer`, `simplify`; and for
the proof one buffer a check, which says whether something is too thin but not where.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from statistics import median
from typing import Any

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Polygon

from ulvent.core.layout import Layout, lay_out
from ulvent.core.outlines import Outline
from ulvent.core.prepare import prepared
from ulvent.core.proof import proof_of
from ulvent.core.recipe import TOOL_SHEETS, parse_piece
from ulvent.core.shapes import Region, refitted
from ulvent.shipped_faces import face_named

ROUNDS = 3
TOLERANCE = 0.01
WORDS = "the russets ripen late and keep until spring "


def timed(work: Callable[[], Any]) -> float:
    """Median milliseconds of a few rounds."""
    times = []
    for _ in range(ROUNDS):
        begin = time.perf_counter()
        work()
        times.append(1e3 * (time.perf_counter() - begin))
    return median(times)


def ring_of(letters: int) -> Layout:
    """So many letters 12 mm high, round one ring, or two where they are over a thousand."""
    rings, words = [], []
    each = min(letters, 1000)
    for number in range(letters // each):
        text = (WORDS * (1 + each // 30))[: each + each // 6]
        while sum(not c.isspace() for c in text) > each:
            text = text[:-1]
        across = 3.2 * each + 20 + 60 * number
        rings.append({"id": f"ring{number}", "kind": "circle", "diameter": across})
        words.append({"id": f"w{number}", "guide": f"ring{number}", "text": text.strip(),
                      "face": "zilla-slab-semibold", "height": 12})  # fmt: skip
    sheet = TOOL_SHEETS[0].model_dump()
    document = {"ulvent": 1, "guides": rings, "letterings": words, "tool_sheets": [sheet]}
    return lay_out(parse_piece(document), face_named)


def outlines_of(layout: Layout) -> list[Outline]:
    """All letters as they stand."""
    return [
        setting.placed_outline(index)
        for setting in layout.settings
        for index in range(len(setting.clusters))
    ]


def polygons(outlines: list[Outline]) -> list[Polygon]:
    """The letters as a plain script has them."""
    found = []
    for outline in outlines:
        rings = [points for points, _ in outline.flattened(24)]
        whole = Polygon()
        for ring in sorted(rings, key=lambda r: -abs(Polygon(r).area)):
            part = Polygon(ring).buffer(0)
            whole = whole.difference(part) if whole.contains(part) else whole.union(part)
        found.append(whole)
    return found


def plain_proof(letters: list[Polygon]) -> list[Any]:
    """Thin strokes by opening, narrow gaps by closing, touching pairs, parts and their areas."""
    sheet = TOOL_SHEETS[0]
    every = shapely.union_all(letters)
    half = sheet.least_stroke / 2.0
    thin = every.difference(every.buffer(-half).buffer(half * 1.01))
    gap = sheet.least_gap / 2.0
    narrow = every.buffer(gap).buffer(-gap).difference(every.buffer(1e-3))
    tree = shapely.STRtree(letters)
    pairs = [p for p in tree.query(letters, predicate="intersects").T.tolist() if p[0] < p[1]]
    parts = list(shapely.get_parts(every))
    small = [part for part in parts if part.area < np.pi * sheet.least_part**2 / 4.0]
    return [thin, narrow, pairs, parts, small]


def main() -> None:
    layout = ring_of(60)
    outlines = outlines_of(layout)
    print(f"{len(outlines)} letters, {TOLERANCE} mm\n")

    def ours_union() -> Region:
        return Region.joined(Region.of(outline) for outline in outlines)

    union = ours_union()
    plain = polygons(outlines)
    joined = shapely.union_all(plain)
    grown = union.offset(1.6)
    rows: list[tuple[str, Callable[[], Any], Callable[[], Any]]] = [
        ("union", ours_union, lambda: shapely.union_all(polygons(outlines))),
        ("offset", lambda: union.offset(1.6).rings, lambda: joined.buffer(1.6, quad_segs=32)),
        ("few nodes, union", lambda: refitted(union), lambda: joined.simplify(TOLERANCE)),
        ("few nodes, offset", lambda: refitted(grown),
         lambda: joined.buffer(1.6, quad_segs=32).simplify(TOLERANCE)),
        ("all three", lambda: refitted(ours_union().offset(1.6)),
         lambda: shapely.union_all(polygons(outlines)).buffer(1.6, quad_segs=32)
         .simplify(TOLERANCE)),
    ]  # fmt: skip
    print(f"{'':20}{'Ulvent ms':>12}{'shapely ms':>12}{'ratio':>8}")
    for name, ours, theirs in rows:
        one, two = timed(ours), timed(theirs)
        print(f"{name:20}{one:12.1f}{two:12.1f}{two / one:8.2f}")
    flat = joined.buffer(1.6, quad_segs=32).simplify(TOLERANCE)
    points = len(shapely.get_coordinates(MultiPolygon(list(shapely.get_parts(flat)))))
    nodes = sum(refitted(grown).operations.count(operation) for operation in "LQC")
    print(f"\nnodes of the offset: {nodes}, of the simplified polyline: {points}\n")

    print(f"{'proof, letters':20}{'Ulvent ms':>12}{'prepared':>12}{'shapely ms':>12}{'ratio':>8}")
    for letters in (60, 250, 1000, 2000):
        layout = ring_of(letters)
        shapes = outlines_of(layout)
        whole = timed(lambda layout=layout: proof_of(layout, remedies=False))
        ready = timed(lambda layout=layout: prepared(layout))
        theirs = timed(lambda shapes=shapes: plain_proof(polygons(shapes)))
        print(f"{len(shapes):<20}{whole:12.0f}{ready:12.0f}{theirs:12.0f}{theirs / whole:8.2f}")


if __name__ == "__main__":
    main()

"""What a face is good for, measured on its own letters."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.remembered import remembered
from ulvent.core.faces.face import Face
from ulvent.core.outlines import Outline

_LETTERS = "HOnelaRs"
_SCANS = 24
_COUNTERS = "AOBDPRabdegopq0689"

THIN, BOLD = 0.11, 0.24
"""Strokes thinner or bolder than this share of the capitals' height are called so."""
STITCHES = 0.1
"""The thinnest stroke that stitches still cover at small sizes, as a share of the capitals'
height: 1 mm of thread on 10 mm letters. Common practice, no source."""


TRAITS = (
    "small stitching",
    "thin strokes",
    "bold strokes",
    "joined",
    "single stroke",
    "stencil",
)
"""All that a face can be, in the order in which it is asked for."""


@remembered(256)
def traits(face: Face) -> tuple[str, ...]:
    """Words for what a face is, out of `TRAITS`."""
    if face.single_stroke:
        return ("single stroke",)
    found: list[str] = []
    if face.joined:
        found.append("joined")
    if _has_no_counters(face):
        found.append("stencil")
    thinnest, usual = _strokes(face)
    if usual and usual < THIN:
        found.append("thin strokes")
    if usual > BOLD:
        found.append("bold strokes")
    if thinnest >= STITCHES and not face.joined:
        found.append("small stitching")
    return tuple(found)


def _outlines(face: Face, letters: str) -> list[Outline]:
    clusters = [face.shape(letter) for letter in letters]
    outlines = [
        face.cluster_outline(shaped.clusters[0].glyphs)
        for shaped in clusters
        if shaped.clusters and not shaped.missing
    ]
    return [outline for outline in outlines if outline]


def _has_no_counters(face: Face) -> bool:
    """Whether no letter encloses white: nothing falls out of a stencil."""
    outlines = _outlines(face, _COUNTERS)
    return bool(outlines) and not any(_encloses(outline) for outline in outlines)


def _encloses(outline: Outline) -> bool:
    areas = [_area(points) for points, _ in outline.polylines]
    return min(areas) < 0.0 < max(areas)


def _area(points: np.ndarray) -> float:
    x, y = points.T
    return float((x * np.roll(y, -1) - y * np.roll(x, -1)).sum() / 2.0)


def _strokes(face: Face) -> tuple[float, float]:
    """The thin and the usual width of strokes, as shares of the capitals' height."""
    runs: list[float] = []
    for outline in _outlines(face, _LETTERS):
        for flip in (False, True):
            runs.extend(_runs(outline, flip))
    if not runs:
        return 0.0, 0.0
    cap = face.metrics.cap_height
    return float(np.percentile(runs, 10)) / cap, float(np.median(runs)) / cap


def _runs(outline: Outline, flip: bool) -> list[float]:
    """Lengths of ink along scan lines across the outline, or down it."""
    contours = [points[:, ::-1] if flip else points for points, _ in outline.polylines]
    starts = np.concatenate(contours)
    ends = np.concatenate([np.roll(points, -1, axis=0) for points in contours])
    low, high = starts[:, 1].min(), starts[:, 1].max()
    found: list[float] = []
    for share in (np.arange(_SCANS) + 0.5) / _SCANS:
        y = low + share * (high - low)
        crosses = (starts[:, 1] <= y) != (ends[:, 1] <= y)
        a, b = starts[crosses], ends[crosses]
        x = np.sort(a[:, 0] + (y - a[:, 1]) / (b[:, 1] - a[:, 1]) * (b[:, 0] - a[:, 0]))
        found.extend((x[1::2] - x[::2]).tolist() if len(x) % 2 == 0 else [])
    return found

"""Lettering kept only inside, or outside, of a shape."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from ulvent.core.base.arrays import Floats, Integers, Points
from ulvent.core.base.fields import Coordinate, Identifier, Model
from ulvent.core.base.inputs import Figure, GuideChoice, Option
from ulvent.core.base.tolerances import JOINT
from ulvent.core.outlines import Polyline
from ulvent.core.shapes import Region
from ulvent.core.steps.cutout import Cutout
from ulvent.core.steps.step import Step
from ulvent.core.steps.work import Work

MOST_CUTS = 20
_MOST_AT_ONCE = 2_000_000
"""Pairs of chords and edges that are looked at together."""


class CutBack(Model):
    """Lettering kept only inside, or only outside, of a shape that is `margin` mm smaller."""

    to: Identifier | None = None
    keep: Literal["inside", "outside"] = "inside"
    margin: Coordinate = 0.0


def _take(recipe: tuple[CutBack, ...], work: Work) -> None:
    for index, cut in enumerate(recipe):
        inside = cut.keep == "inside"
        shape = work.closed(cut.to, f"cut_back[{index}].to")
        shape = shape.offset(-cut.margin if inside else cut.margin)
        work.cutouts = [part for one in work.cutouts for part in _cut(one, shape, inside)]
        work.lines = [
            replace(one, outline=None, line=part)
            for one in work.lines
            for line in one.dense
            for part in clipped(line, shape, inside)
        ]


def _cut(letter: Cutout, shape: Region, inside: bool) -> list[Cutout]:
    left = letter.area.meet(shape) if inside else letter.area.minus(shape)
    if abs(left.area - letter.area.area) <= JOINT:
        return [letter]
    return [replace(letter, area=part, outline=None) for part in left.parts]


def clipped(line: Polyline, shape: Region, inside: bool) -> list[Polyline]:
    """The parts of a dense line that are inside, or outside, of a shape."""
    points, closed = line
    dense = np.concatenate([points, points[:1]]) if closed else points
    cut = _with_crossings(dense, shape)
    keep = shape.contains((cut[:-1] + cut[1:]) / 2.0) == inside
    if closed and keep.all():
        return [line]
    edges = np.flatnonzero(np.diff(np.concatenate([[False], keep, [False]]).astype(int)))
    found = [cut[begin : end + 1] for begin, end in edges.reshape(-1, 2).tolist()]
    if closed and len(found) > 1 and keep[0] and keep[-1]:
        found[0] = np.concatenate([found.pop(), found[0][1:]])
    return [Polyline(piece, False) for piece in found]


def _with_crossings(dense: Floats, shape: Region) -> Floats:
    """A line with a point more wherever it crosses the edge of a shape."""
    begins, ways = dense[:-1], np.diff(dense, axis=0)
    chords = [np.array([0]), np.arange(len(ways))]
    shares = [np.array([0.0]), np.ones(len(ways))]
    for ring in shape.rings:
        parts = 1 + len(begins) * len(ring) // _MOST_AT_ONCE
        for some in np.array_split(np.arange(len(begins)), parts):
            chord, share = _crossings(begins[some], ways[some], ring)
            chords.append(some[chord])
            shares.append(share)
    chord, share = np.concatenate(chords), np.concatenate(shares)
    order = np.lexsort((share, chord))
    points: Points = begins[chord[order]] + ways[chord[order]] * share[order][:, None]
    return points


def _crossings(begins: Floats, ways: Floats, ring: Points) -> tuple[Integers, Floats]:
    """Which chords cross a ring, once for each crossing, and at which shares of their ways."""
    edges = np.roll(ring, -1, axis=0) - ring
    cross = ways[:, None, 0] * edges[:, 1] - ways[:, None, 1] * edges[:, 0]
    off = ring - begins[:, None]
    with np.errstate(divide="ignore", invalid="ignore"):
        t = (off[..., 0] * edges[:, 1] - off[..., 1] * edges[:, 0]) / cross
        u = (off[..., 0] * ways[:, None, 1] - off[..., 1] * ways[:, None, 0]) / cross
    chord, edge = np.nonzero((t > 0.0) & (t < 1.0) & (u >= 0.0) & (u < 1.0))
    return chord, t[chord, edge]


STEP = Step(
    field="cut_back",
    recipe=Annotated[tuple[CutBack, ...], Field(max_length=MOST_CUTS)],
    rank=40,
    title="Cut back",
    hint="only what is inside, or outside, of a shape",
    first={"keep": "inside", "margin": 0},
    take=_take,
    inputs=(
        GuideChoice("to", "Shape", or_blank=True),
        Option("keep", "Keeping", (("inside", "what is inside"), ("outside", "what is outside"))),
        Figure("margin", "Margin"),
    ),
    left_out=(),
)

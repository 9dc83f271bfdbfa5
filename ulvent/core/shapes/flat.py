"""Outlines as dense polylines: near to the curve, and with no turn that could be a corner.

A chord is nowhere farther than `DENSE` from its curve, turns by less than `SMOOTH_TURN`
from the one before, and is shorter than `LONG_CHORD`. So in a polyline a greater turn is a
corner, and a longer chord is a straight line: what was smooth, sharp or straight can still
be told after regions were joined, cut and offset.
"""

from __future__ import annotations

import math

import numpy as np

from ulvent.core.base.arrays import Booleans, Controls, Floats, Integers, wrapped
from ulvent.core.base.remembered import remembered
from ulvent.core.base.tolerances import DENSE, LONG_CHORD, ROUNDING, SMOOTH_TURN
from ulvent.core.curves import ArcSegment, Curve
from ulvent.core.curves.cubics import arc_nodes, between_nodes, points_at
from ulvent.core.outlines import Outline, Polyline

_MOST_CHORDS = 4000
_MOST_DOUBLINGS = 6
_SIXTEENTH = 22.5


@remembered(4096)
def flat_contours(outline: Outline, scale: float = 1.0) -> tuple[Polyline, ...]:
    """Each contour as a dense line in the outline's unit; `scale` is mm per unit."""
    contours = outline.contours
    if not contours:
        return ()
    controls = np.concatenate([contour.cubics for contour in contours]) * scale
    straight = np.concatenate([contour.straight for contour in contours])
    starts = _chord_starts(controls, straight)
    found: list[Polyline] = []
    at = 0
    for contour in contours:
        mine = starts[at : at + len(contour.cubics)]
        at += len(contour.cubics)
        points = np.concatenate(mine) / scale
        if not contour.closed:
            points = np.concatenate([points, contour.cubics[-1:, 3]])
        found.append(Polyline(points, contour.closed))
    return tuple(found)


def outline_of(curve: Curve) -> Outline:
    """A curve as one contour; circular arcs as cubics of a sixteenth of a turn, 6e-8 r off."""
    operations, points = ["M"], [np.array([curve.segments()[0].start])]
    for segment in curve.segments():
        for piece in _arc_cubics(segment) if isinstance(segment, ArcSegment) else [segment]:
            operations.append({2: "L", 3: "Q", 4: "C"}[len(piece)])
            points.append(np.array(piece[1:]))
    if curve.closed:
        operations.append("Z")
    return Outline("".join(operations), np.concatenate(points))


def _arc_cubics(arc: ArcSegment) -> Controls:
    parts = math.ceil(abs(arc.sweep) / _SIXTEENTH - ROUNDING)
    begin, sweep = math.radians(arc.begin), math.radians(arc.sweep)
    return between_nodes(*arc_nodes(arc.centre, arc.radius, begin, sweep, parts))


def _chord_starts(controls: Controls, straight: Booleans) -> list[Floats]:
    """For each cubic its points but the last one, mm."""
    counts = np.where(straight, 1, _first_counts(controls))
    points: list[Floats] = [controls[index, :1] for index in range(len(controls))]
    todo = np.flatnonzero(~straight)
    for _ in range(_MOST_DOUBLINGS):
        if not len(todo):
            break
        flat, owner = _at_equal_steps(controls[todo], counts[todo])
        bounds = np.searchsorted(owner, np.arange(len(todo) + 1)).tolist()
        for place, index in enumerate(todo.tolist()):
            points[index] = flat[bounds[place] : bounds[place + 1] - 1]
        chords = np.diff(flat, axis=0)
        angles = np.arctan2(chords[:, 1], chords[:, 0])
        turns = np.abs(wrapped(np.diff(angles)))
        inside = (owner[2:] == owner[:-2]) & (turns > SMOOTH_TURN)
        # A cusp turns on a point: no number of chords makes it smooth.
        sharp = np.unique(owner[:-2][inside])
        sharp = sharp[counts[todo][sharp] < _MOST_CHORDS]
        counts[todo[sharp]] *= 2
        todo = todo[sharp]
    return points


def _first_counts(controls: Controls) -> Integers:
    """How many chords each cubic needs by its bend, its turn and its length."""
    steps = np.diff(controls, axis=1)
    bends = np.hypot(*np.moveaxis(np.diff(steps, axis=1), 2, 0)).max(axis=1)
    by_bend = np.sqrt(6.0 * bends / (8.0 * DENSE))
    angles = np.arctan2(steps[:, :, 1], steps[:, :, 0])
    turns = np.abs(wrapped(np.diff(angles, axis=1)))
    by_turn = turns.sum(axis=1) / (0.6 * SMOOTH_TURN)
    by_length = np.hypot(*np.moveaxis(steps, 2, 0)).sum(axis=1) / (0.8 * LONG_CHORD)
    needed = np.ceil(np.maximum(np.maximum(by_bend, by_turn), np.maximum(by_length, 2.0)))
    return np.asarray(np.minimum(needed, _MOST_CHORDS), dtype=int)


def _at_equal_steps(controls: Controls, counts: Integers) -> tuple[Floats, Integers]:
    """Points of all cubics at equal parameter steps, ends included, and whose each is."""
    owner = np.repeat(np.arange(len(counts)), counts + 1)
    firsts = np.cumsum(counts + 1) - (counts + 1)
    t = (np.arange(len(owner)) - firsts[owner]) / counts[owner]
    return points_at(controls[owner], t), owner


def divided(line: Floats, step: float, closed: bool = True) -> Floats:
    """A line (k, 2) with places on its edges, no farther apart than a step."""
    ways = (np.roll(line, -1, axis=0) - line)[: None if closed else -1]
    counts = np.maximum(np.ceil(np.hypot(*ways.T) / step).astype(int), 1)
    owners = np.repeat(np.arange(len(ways)), counts)
    shares = np.concatenate([np.arange(count) / count for count in counts])
    found: Floats = line[owners] + shares[:, None] * ways[owners]
    return found if closed else np.concatenate([found, line[-1:]])

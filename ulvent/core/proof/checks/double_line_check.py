"""Lines that lie on each other, and would be cut or drawn twice."""

from __future__ import annotations

import math

import numpy as np

from ulvent.core.base.tolerances import FITTING
from ulvent.core.base.trees import point_tree
from ulvent.core.outlines import Polyline, even_places
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import xy

_SAMPLE = 0.1
_DOUBLED = 1.0
"""Lines that lie on each other over less than this, mm, only cross."""
_MOST_DRAWN = 30_000.0
"""Single lines that come to more than this, mm, are not held against others."""
_PARALLEL = 0.999


def _look(subject: Subject) -> list[Finding]:
    samples, ways, whose, _, _ = even_places(_lines(subject), _SAMPLE, 2)
    if not len(samples):
        return []
    pairs = point_tree(samples).query_pairs(0.75 * _SAMPLE, output_type="ndarray")
    one, two = pairs.T
    apart = whose[one] != whose[two]
    one, two = one[apart], two[apart]
    parallel = np.abs(np.einsum("ni,ni->n", ways[one], ways[two])) > _PARALLEL
    off = samples[two] - samples[one]
    across = np.abs(off[:, 0] * ways[one, 1] - off[:, 1] * ways[one, 0]) < FITTING
    doubled = np.unique(one[parallel & across])
    length = len(doubled) * _SAMPLE
    if length < _DOUBLED:
        return []
    return [
        CHECK.finding(
            f"about {length:.1f} mm of lines lie on each other and would be cut twice",
            "Take one of them out, or join them.",
            length,
            places=(xy(samples[doubled[0]]),),
            key=CHECK.kind,
        )
    ]


def _lines(subject: Subject) -> list[Polyline]:
    """All lines that a tool would follow: of letters and borders, guides, and the blank's edge."""
    lines: list[Polyline] = []
    curves = [guide.curve for guide in subject.ready.guides]
    if subject.layout.piece.edge is not None:
        curves += subject.layout.blank
    for curve in curves:
        count = max(2, math.ceil(curve.length / _SAMPLE))
        stations = np.linspace(0.0, curve.length, count + 1)
        lines.append(Polyline(curve.points(stations), False))
    for layer in subject.ready.layers:
        for cutout in layer.cutouts:
            lines.extend(Polyline(ring, True) for ring in cutout.area.rings)
    drawn = [line for layer in subject.ready.layers for one in layer.lines for line in one.dense]
    # Hatching that is very fine or large is left out: it would be all there is to look at.
    if sum(line.walk().length for line in drawn) <= _MOST_DRAWN:
        lines.extend(drawn)
    return lines


CHECK = Check(
    kind="double-line",
    rank=60,
    severity="warning",
    unit="mm",
    looks={"layers": _look},
)

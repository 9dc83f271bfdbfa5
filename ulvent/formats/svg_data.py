"""What is drawn as SVG draws it: path data and matrices, y down.

Everything else in Ulvent has y up; the screen's points and boxes are turned in `web/turning`.
"""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Matrices, Points
from ulvent.core.curves import Curve
from ulvent.core.outlines import Outline
from ulvent.core.outlines.path_text import FINE, Step, arc_to, number, path_data, segment_data
from ulvent.core.shapes import arc_of


def outline_data(outline: Outline, arcs: bool = False) -> str:
    """Path data of an outline, y down as SVG has it; with `arcs`, arcs are said to be so."""
    steps: list[Step] = []
    at = np.zeros(2)
    for operation, points in outline.steps():
        arc = arc_of(np.stack([at, *points])) if arcs and operation == "C" else None
        if arc is not None:
            flag = "0" if arc.sweep > 0.0 else "1"
            steps.append((arc_to(number(arc.radius, FINE), flag), points[2:].tolist()))
        else:
            steps.append((operation, points.tolist()))
        if len(points):
            at = points[-1]
    return path_data(steps)


def curve_data(curve: Curve) -> str:
    """Path data of a curve, y down as SVG has it; circular arcs stay arcs."""
    return segment_data(curve.segments(), curve.closed)


def broken_line_data(points: Points, closed: bool = False) -> str:
    """Path data of a broken line (n, 2) that is only looked at: to a hundredth of a mm."""
    line = "M" + "L".join(f"{x:.2f} {-y:.2f}" for x, y in points.tolist())
    return line + "Z" if closed else line


def matrices_data(matrices: Matrices) -> list[float]:
    """Six figures a matrix (n, 2, 3), a b c d e f, for outlines and results with y down."""
    figures = np.stack(
        [
            matrices[:, 0, 0],
            -matrices[:, 1, 0],
            -matrices[:, 0, 1],
            matrices[:, 1, 1],
            matrices[:, 0, 2],
            -matrices[:, 1, 2],
        ],
        axis=1,
    )
    flat: list[float] = np.round(figures, 6).ravel().tolist()
    return flat

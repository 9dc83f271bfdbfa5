"""Letterings set on guides of the zoo, for tests."""

from __future__ import annotations

from typing import Any

import numpy as np

from ulvent.core.curves import Curve
from ulvent.core.layout import Layout, lay_out
from ulvent.core.recipe.piece import parse_piece
from ulvent.core.setting import Setting
from ulvent.core.setting.gaps.gap import measure_gaps
from ulvent.shipped_faces import shipped_face

RING = {"kind": "circle", "diameter": 200}
ELLIPSE = {"kind": "ellipse", "width": 220, "height": 140}
ROUNDED = {"kind": "rectangle", "width": 220, "height": 140, "radius": 30}
LINE = {"kind": "line", "length": 2000}
SPIRAL = {"kind": "spiral", "inner": 60, "gain": 30, "turns": 3}
GROWING = {"kind": "growing-spiral", "inner": 40, "growth": 1.8, "turns": 3}


def laid_out(guide: dict[str, Any], **changes: Any) -> Layout:
    """One lettering on one guide."""
    lettering = {"id": "x", "guide": "g", "text": "QUILLMERE", "face": "lato-bold", "height": 12}
    piece = {
        "ulvent": 1,
        "guides": [{"id": "g", **guide}],
        "letterings": [{**lettering, **changes}],
    }
    return lay_out(parse_piece(piece), shipped_face)


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

"""Gaps on guides of every bend, against a plain slow computation with true projections.

Letters are placed as rigid areas; the points of their softened sides are projected onto a
dense polyline of the baseline, and the white is the length of the parallel between them,
row by row. Nothing is taken for its circle of curvature, as the measure does.
"""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np
from scipy.spatial import cKDTree
from shapely.geometry import Polygon, box
from shapely.ops import unary_union

from tests.makings import line
from ulvent.core.setting import Setting
from ulvent.core.setting.gaps.profiles import softening

ROWS = 20
GUIDES: dict[str, dict[str, Any]] = {
    "convex": {"kind": "circle", "diameter": 90},
    "concave": {"kind": "circle", "diameter": 90, "turn": "counterclockwise"},
    "ellipse": {"kind": "ellipse", "width": 160, "height": 80},
    "inflected": {"kind": "wave", "length": 130, "height": 24, "waves": 2},
    "spiral": {"kind": "spiral", "inner": 60, "gain": 25, "turns": 2},
    "growing": {"kind": "growing-spiral", "inner": 40, "growth": 1.6, "turns": 2},
    "rounded": {"kind": "rectangle", "width": 130, "height": 80, "radius": 26},
    "drawn": {"kind": "drawn", "nodes": [{"at": [45 * i, (-1) ** i * 11]} for i in range(5)]},
}
WORDS = "TOWN AVE HILL"


def side(setting: Setting, index: int, sign: int, heights: np.ndarray) -> np.ndarray:
    """A softened side in the letter's own frame, mm, from the middle of its advance."""
    how = softening(setting.face, "capital")
    scale = float(setting.scales[index])
    outline = setting.outline(index).flattened(64)
    area = unary_union([Polygon(points * scale).buffer(0) for points, _ in outline])
    edge = np.full(ROWS, -np.inf)
    half = (heights[1] - heights[0]) / 2
    for row, y in enumerate(heights):
        slab = area.intersection(box(-1e4, y - half, 1e4, y + half))
        if not slab.is_empty:
            edge[row] = slab.bounds[2] if sign > 0 else -slab.bounds[0]
    recess = how.recess * scale
    eased = np.array([(edge - abs(heights - y)).max() for y in heights])
    softened = eased.max() - recess * (1 - np.exp(-(eased.max() - eased) / recess))
    return sign * softened - float(setting.widths[index]) / 2


def slow_gaps(setting: Setting) -> np.ndarray:
    how = softening(setting.face, "capital")
    scale = setting.scale
    heights = (np.arange(ROWS) + 0.5) / ROWS * setting.capital
    middles = setting.middles
    dense = np.linspace(middles.min() - 30, middles.max() + 30, 40_001)
    frames = setting.baseline.frames(dense)

    def projected(index: int, sign: int) -> tuple[np.ndarray, np.ndarray]:
        """Stations and turnings at the rows' heights over the baseline."""
        x = side(setting, index, sign, heights)
        at = setting.baseline.frames(middles[[index]])
        points = at.points + x[:, None] * at.tangents + heights[:, None] * at.normals
        # A foot beneath the letter, not on another turn of the guide.
        near = np.flatnonzero(np.abs(dense - middles[index]) < 3 * setting.capital)
        found = near[cKDTree(frames.points[near]).query(points)[1]]
        over = np.einsum("ni,ni->n", points - frames.points[found], frames.normals[found])
        order = np.argsort(over)
        stations, turnings = dense[found][order], frames.turnings[found][order]
        return (
            np.interp(heights, over[order], stations),
            np.interp(heights, over[order], turnings),
        )

    gaps = []
    for pair in range(len(middles) - 1):
        (ends, first), (starts, second) = projected(pair, 1), projected(pair + 1, -1)
        white = (starts - ends) - heights * (second - first)
        c, e = how.recess * scale, how.easing * scale
        white = white.min() + c * (1 - np.exp(-(white - white.min()) / c))
        gaps.append(1 / np.mean(1 / (np.maximum(white, -0.6 * e) + e)) - e)
    return np.array(gaps)


class OnEveryBend(unittest.TestCase):
    def compare(self, found: Setting) -> None:
        wanted = slow_gaps(found)
        self.assertTrue(np.isfinite(found.gaps.found).all())
        np.testing.assert_allclose(found.gaps.found, wanted, atol=0.02)

    def test_by_the_face_and_evenly(self) -> None:
        """Within a hundredth of a gap, also where the bend changes under a letter."""
        for name, guide in GUIDES.items():
            for changes in ({}, {"standoff": 4}, {"standoff": -4}, {"spacing": "even"}):
                with self.subTest(f"{name} {changes}"):
                    found = line(
                        guide,
                        text=WORDS,
                        height=9,
                        align="centre",
                        at=0.5,
                        at_in="share",
                        **changes,
                    )
                    self.compare(found)

    def test_across_the_seam(self) -> None:
        found = line(GUIDES["ellipse"], text=WORDS, height=9, align="centre", at=0)
        self.compare(found)


class CommonGaps(unittest.TestCase):
    def test_the_single_stroke_face_by_the_standard(self) -> None:
        """ISO 3098-1, from memory: 0.2 h of white between letters drawn with a stroke of h/10, so
        0.3 h between the middles of strokes; with one gap for all every pair has it, on a
        ring too."""
        own = line(GUIDES["convex"], text="HAMBURG", face="hershey-sans", spacing="same")
        usual = float(np.median(own.gaps.found))
        for guide in ({"kind": "line", "length": 300}, GUIDES["convex"]):
            found = line(guide, text="HAMBURG", face="hershey-sans", spacing="same", height=10,
                         tracking=3.0 - usual / 1.2)  # fmt: skip
            np.testing.assert_allclose(found.gaps.found, 3.0, atol=1e-6)

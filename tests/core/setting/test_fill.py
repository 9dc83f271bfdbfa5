"""A shape filled with words: inside it, every word once, lines as long as there is room."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np
import shapely

from ulvent.core.base.errors import PieceError
from ulvent.core.layout import Layout, lay_out
from ulvent.core.recipe import parse_piece
from ulvent.core.setting import Setting
from ulvent.shipped_faces import face_named

WORDS = (
    "The russets ripen late and keep until the spring, the pippins are for pies and the "
    "costards for the press"
)
SHAPES: tuple[dict[str, Any], ...] = (
    {"kind": "circle", "diameter": 130},
    {"kind": "rectangle", "width": 140, "height": 90, "radius": 20},
    {"kind": "star", "tips": 5, "outer": 200, "inner": 100},
    {"kind": "path", "d": "M0 0 L120 10 C150 60 90 60 60 110 C30 60 -30 60 0 0 Z"},
)


def filled(shape: dict[str, Any], fill: dict[str, Any], **more: Any) -> Layout:
    words = {"id": "w", "guide": "g", "text": WORDS, "face": "lato-bold", "height": 5,
             "fill": fill}  # fmt: skip
    guides = [{"id": "g"} | shape]
    return lay_out(parse_piece({"ulvent": 1, "guides": guides, "letterings": [words | more]}),
                   face_named)  # fmt: skip


def ink(setting: Setting) -> np.ndarray:
    outlines = [setting.placed_outline(index) for index in range(len(setting.clusters))]
    return np.concatenate([outline.flattened(8)[0][0] for outline in outlines])


class Filled(unittest.TestCase):
    def test_all_letters_keep_the_margin_whatever_the_shape_way_and_angle(self) -> None:
        for shape in SHAPES:
            for fill in ({"margin": 3}, {"margin": 4, "angle": 25}, {"margin": 3, "again": True}):
                with self.subTest(shape["kind"], fill=fill):
                    layout = filled(shape, fill)
                    curve = layout.guides[0].curve
                    ring = shapely.Polygon(curve.points(np.linspace(0, curve.length, 8000)))
                    inner = ring.buffer(0.01 - fill["margin"], quad_segs=64)
                    shapely.prepare(inner)
                    for line in layout.settings:
                        self.assertTrue(shapely.intersects_xy(inner, ink(line)).all())

    def test_every_word_is_set_once_and_none_is_broken(self) -> None:
        for shape in SHAPES:
            layout = filled(shape, {"margin": 3})
            lines = [line.lettering.text for line in layout.settings]
            self.assertEqual(" ".join(lines).split(), WORDS.split(), shape["kind"])
            self.assertLess(max(line.overhang for line in layout.settings), 1e-9)

    def test_lines_are_as_long_as_their_stretch_but_for_the_last(self) -> None:
        *lines, last = filled(SHAPES[1], {"margin": 3}).settings
        self.assertGreater(len(lines), 1)
        for line in lines:
            self.assertAlmostEqual(line.length, line.baseline.length, places=6)
            tracked = line.lettering.tracking
            self.assertTrue(0.0 <= tracked < 0.4 * 5)
        self.assertLess(last.length, last.baseline.length)

    def test_lines_are_a_pitch_apart_and_centred_from_top_to_bottom(self) -> None:
        layout = filled(SHAPES[1], {"margin": 3, "pitch": 11, "again": True})
        levels = [float(line.baseline.points([0.0])[0, 1]) for line in layout.settings]
        np.testing.assert_allclose(np.diff(levels), -11.0, atol=1e-9)

    def test_again_fills_the_shape(self) -> None:
        once, again = (filled(SHAPES[0], {"again": a}) for a in (False, True))
        count = [sum(len(line.clusters) for line in one.settings) for one in (once, again)]
        self.assertGreater(count[1], 1.5 * count[0])

    def test_round_and_round_stands_on_parallels_of_the_shape(self) -> None:
        layout = filled(SHAPES[0], {"way": "around", "margin": 4, "pitch": 9}, height=6)
        self.assertGreater(len(layout.settings), 1)
        radii = [float(np.hypot(*line.baseline.points([0.0])[0])) for line in layout.settings]
        np.testing.assert_allclose(np.diff(radii), -9.0, atol=1e-6)
        farthest = max(np.hypot(*ink(line).T).max() for line in layout.settings)
        self.assertLess(farthest, 65.0 - 4.0 + 1e-6)

    def test_what_has_no_room_overflows_and_is_not_lost(self) -> None:
        layout = filled({"kind": "circle", "diameter": 30}, {"margin": 2})
        self.assertGreater(layout.settings[-1].overhang, 0.0)
        text = " ".join(line.lettering.text for line in layout.settings)
        self.assertEqual(text.split(), WORDS.split())

    def test_an_open_guide_and_a_margin_that_leaves_nothing_are_refused(self) -> None:
        for shape, field in (
            ({"kind": "line", "length": 100}, "letterings[0].fill"),
            ({"kind": "circle", "diameter": 9}, "letterings[0].fill.margin"),
        ):
            with self.assertRaises(PieceError) as wrong:
                filled(shape, {"margin": 3})
            self.assertEqual(wrong.exception.problems[0].field, field)


if __name__ == "__main__":
    unittest.main()

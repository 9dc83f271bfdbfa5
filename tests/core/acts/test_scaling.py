"""A guide, or the whole piece, made larger and smaller: lengths grow, and nothing else."""

from __future__ import annotations

import math
import unittest
from typing import Any

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from shapely.affinity import scale
from shapely.geometry import Polygon

from tests import zoo
from tests.makings import RING, document, done, drawn_letters, laid
from ulvent.core.base.errors import PieceError
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.drawing.dimensions import dimensions
from ulvent.core.guides import guide_curve
from ulvent.core.guides.kinds import kind_of
from ulvent.core.layout import solved
from ulvent.core.recipe import Piece, parse_guide, parse_piece
from ulvent.core.shapes import flat_contours
from ulvent.demo import demo_pieces


def one_guide(recipe: dict[str, Any], **lettering: Any) -> Piece:
    words = {"id": "t", "guide": "g", "text": "PEAR", "face": "lato-bold", "height": 10}
    letterings = [words | lettering] if lettering else []
    return parse_piece(document(guides=[{"id": "g", **recipe}], letterings=letterings))


KERFED = {"id": "a", "tool": "beam", "works": [{"what": "cut"}], "kerf": [{"width": 0.2}]}


class AGuide(unittest.TestCase):
    def test_a_scale_becomes_figures_that_one_would_measure(self) -> None:
        """A ring of 203.2 that was scaled by 0.8 is one of 162.56, and says so."""
        piece = one_guide({**RING, "diameter": 203.2, "scaled": 0.8, "centre": [10, 5]})
        guide = piece.guides[0]
        self.assertEqual((guide.diameter, guide.scaled, guide.centre), (162.56, 1.0, (10.0, 5.0)))
        self.assertAlmostEqual(laid(piece).guides[0].curve.length, math.pi * 162.56, delta=1e-9)

    def test_the_line_stays_where_it_was(self) -> None:
        for name, recipe in zoo.RECIPES.items():
            with self.subTest(name):
                scaled = {"id": "g", **recipe, "scaled": 1.7, "turned": 20}
                before = parse_guide(scaled)
                (after,) = parse_piece(document(guides=[scaled], letterings=[])).guides
                curves = [guide_curve(guide) for guide in (before, after)]
                lengths = [curve.length for curve in curves]
                self.assertAlmostEqual(lengths[0], lengths[1], delta=1e-6 * lengths[0])
                stations = np.linspace(0.0, min(lengths), 9)
                np.testing.assert_allclose(
                    curves[0].points(stations), curves[1].points(stations), atol=1e-5
                )

    def test_every_kind_is_resized_by_what_one_asks(self) -> None:
        for name, recipe in zoo.RECIPES.items():
            piece = one_guide({**recipe, "turned": 0})
            if not kind_of(piece.guides[0]).scales:
                continue
            with self.subTest(name):
                half = done(piece, act="resize-guide", guide="g", measure="percent", to=50)
                now, then = (laid(one).guides[0].curve.length for one in (piece, half))
                self.assertAlmostEqual(then, now / 2.0, delta=1e-6 * now)
                long = done(piece, act="resize-guide", guide="g", measure="length", to=321)
                self.assertAlmostEqual(laid(long).guides[0].curve.length, 321.0, delta=1e-3)
                wide = done(piece, act="resize-guide", guide="g", measure="width", to=123)
                x0, _, x1, _ = curve_bounds(laid(wide).guides[0].curve)
                self.assertAlmostEqual(x1 - x0, 123.0, delta=1e-3)

    def test_what_has_no_height_is_not_scaled_by_it(self) -> None:
        with self.assertRaisesRegex(PieceError, "no height"):
            done(one_guide({"kind": "line", "length": 90}), act="resize-guide", guide="g",
                 measure="height", to=5)  # fmt: skip

    def test_a_guide_whose_scale_is_solved_shows_its_real_size(self) -> None:
        piece = one_guide(
            {"kind": "rectangle", "width": 200, "height": 100, "radius": 20},
            fit={"kind": "guide", "figure": "scaled"},
        )
        layout = laid(piece)
        box = curve_bounds(layout.guides[0].curve)
        shown = {one.field: one for one in dimensions(layout) if one.owner == "g"}
        self.assertAlmostEqual(shown["width"].value, box[2] - box[0], places=6)
        self.assertAlmostEqual(shown["height"].value, box[3] - box[1], places=6)
        self.assertTrue(shown["width"].solved)

        kept = done(laid_solved(piece), act="keep-figures", lettering="t")
        self.assertIsNone(kept.letterings[0].fit)
        self.assertEqual(kept.guides[0].scaled, 1.0)
        self.assertAlmostEqual(kept.guides[0].width, box[2] - box[0], places=6)


def laid_solved(piece: Piece) -> Piece:
    return solved(laid(piece))


class TheWholePiece(unittest.TestCase):
    def test_every_demo_piece_at_80_percent(self) -> None:
        """Letters, guides, blank: each outline is the old one scaled, by shapely's own affinity."""
        for piece in demo_pieces():
            with self.subTest(piece.title):
                small = done(piece, act="scale-piece", to=80)
                before, after = laid(piece), laid(small)
                for old, new in zip(before.guides, after.guides, strict=True):
                    self.assertAlmostEqual(new.curve.length, 0.8 * old.curve.length, places=3)
                olds, news = drawn_letters(before), drawn_letters(after)
                self.assertEqual(len(olds), len(news))
                for old, new in zip(olds, news, strict=True):
                    for (a, _), (b, _) in zip(flat_contours(old), flat_contours(new), strict=False):
                        if len(a) < 4 or len(b) < 4:
                            continue
                        want = scale(Polygon(a), 0.8, 0.8, origin=(0, 0)).bounds
                        np.testing.assert_allclose(Polygon(b).bounds, want, atol=0.02)

    @given(st.floats(0.05, 20.0))
    def test_there_and_back_is_as_before(self, factor: float) -> None:
        piece = parse_piece(document())
        there = done(piece, act="scale-piece", to=100.0 * factor)
        back = done(there, act="scale-piece", to=100.0 / factor)
        self.assertAlmostEqual(back.blank.diameter, 300.0, places=6)
        self.assertAlmostEqual(back.letterings[0].height, 18.0, places=6)

    def test_80_percent_of_a_foot(self) -> None:
        sheet = {"kind": "rectangle", "width": 304.8, "height": 304.8}
        piece = parse_piece(
            document(
                blank=sheet,
                sheet={"width": 600, "height": 400},
                prepare={"borders": [{"distance": 3, "fill": 2}]},
                run={"passes": [KERFED]},
            )
        )
        small = done(piece, act="scale-piece", to=80)
        self.assertEqual((small.blank.width, small.blank.height), (243.84, 243.84))
        self.assertEqual(small.prepare.borders[0].distance, 2.4)
        # Tools and the sheet in the store stay what they are.
        self.assertEqual(small.run, piece.run)
        self.assertEqual(small.sheet, piece.sheet)

    def test_by_a_length_and_to_another_blank(self) -> None:
        piece = parse_piece(document())
        wide = done(piece, act="scale-piece", measure="width", to=150)
        self.assertEqual((wide.blank.diameter, wide.guides[0].diameter), (150.0, 120.0))
        tag = {"kind": "rectangle", "width": 500, "height": 200}
        on_it = done(piece, act="scale-piece", blank=tag)
        self.assertEqual(on_it.blank.width, 500.0)
        self.assertAlmostEqual(on_it.guides[0].diameter, 160.0)

    def test_what_is_no_length_stays(self) -> None:
        lettering = {"at": 0.25, "at_in": "share", "width": 1.2, "slant": 10}
        piece = one_guide(RING, **lettering, fit={"kind": "gap", "gives": [
            {"figure": "width", "least": 0.8}, {"figure": "height", "least": 4}]})  # fmt: skip
        (after,) = done(piece, act="scale-piece", to=50).letterings
        self.assertEqual((after.at, after.width, after.slant), (0.25, 1.2, 10.0))
        self.assertEqual([one.least for one in after.fit.gives], [0.8, 2.0])

    def test_typed_figures_come_back_scaled(self) -> None:
        piece = one_guide(RING, at=0)
        fitted = done(piece, act="set-fit", lettering="t", kind="guide")
        half = done(laid_solved(fitted), act="scale-piece", to=50)
        typed = done(laid_solved(half), act="set-fit", lettering="t")
        self.assertAlmostEqual(typed.guides[0].diameter, 100.0, places=6)

    def test_one_way_is_given(self) -> None:
        for wrong in ({}, {"to": 80, "blank": {"kind": "disc", "diameter": 9}}):
            with self.assertRaisesRegex(ValueError, "not both"):
                done(parse_piece(document()), act="scale-piece", **wrong)


if __name__ == "__main__":
    unittest.main()

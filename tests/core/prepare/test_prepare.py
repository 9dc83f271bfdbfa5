"""Preparing a laid-out piece: each step against shapely or plain geometry."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.areas import apart, as_shapely, nodes, polygons_of
from tests.makings import BOARD_LINE, BOARD_RING, board, workpiece
from ulvent.core.base.errors import PieceError
from ulvent.core.curves import nearest
from ulvent.core.outlines import Outline
from ulvent.core.prepare import Layer, Prepared, prepared
from ulvent.core.proof.unreached import unreached
from ulvent.core.shapes import Region
from ulvent.formats.out import FORMATS

Steps = dict[str, Any]


def layer(text: str = "BOARD", prepare: Steps | None = None, **more: Any) -> Layer:
    return prepared(board(text, prepare, **more)).layer_of("words")


def written(ready: Prepared) -> Outline:
    return Outline.joined(outline for one in ready.layers for outline in one.outlines)


class Join(unittest.TestCase):
    def test_nothing_done_leaves_the_faces_own_outlines(self) -> None:
        layout = board()
        (setting,) = layout.settings
        mine = prepared(layout).layer_of("words").outlines
        for index, outline in enumerate(mine):
            self.assertEqual(outline.operations, setting.placed_outline(index).operations)
            self.assertTrue(np.array_equal(outline.points, setting.placed_outline(index).points))

    def test_a_joined_script_is_one_outline_with_the_union_of_its_letters(self) -> None:
        face = {"face": "dancing-script-bold", "tracking": -0.4}
        apart_ = layer("mammal", **face)
        one = layer("mammal", {"join": {}}, **face)
        self.assertEqual((len(apart_.cutouts), len(one.cutouts)), (6, 1))
        union = shapely.union_all([polygons_of(piece.area) for piece in apart_.cutouts])
        # Slits up to 0.04 mm are closed.
        self.assertAlmostEqual(one.area.area / union.area, 1.0, delta=1e-3)
        self.assertLess(apart(polygons_of(one.area), as_shapely(one.outlines[0])), 0.01)
        own = sum(nodes(outline) for outline in apart_.outlines)
        self.assertLessEqual(nodes(one.outlines[0]), 1.3 * own)

    def test_only_overlaps_of_more_than_the_typed_amount_are_joined(self) -> None:
        face = {"face": "archivo-black", "spacing": "overlap", "overlap": 0.5}
        self.assertEqual(len(layer("HILL", {"join": {"over": 0.4}}, **face).cutouts), 1)
        self.assertEqual(len(layer("HILL", {"join": {"over": 0.6}}, **face).cutouts), 4)

    def test_letters_made_to_overlap_do_so_by_the_typed_amount(self) -> None:
        """Straight stems on a straight guide: the common part is as wide as was asked for."""
        pieces = layer("HIH", face="archivo-black", spacing="overlap", overlap=0.8).cutouts
        for one, two in zip(pieces, pieces[1:], strict=False):
            common = polygons_of(one.area).intersection(polygons_of(two.area))
            x0, _, x1, _ = common.bounds
            self.assertAlmostEqual(x1 - x0, 0.8, delta=0.02)

    def test_every_face_holds_together_on_a_line_and_on_a_ring(self) -> None:
        for face in ("lato-bold", "eb-garamond", "zilla-slab-semibold", "kaushan-script"):
            for guide in ("line", "ring"):
                with self.subTest(face, guide=guide):
                    found = layer("Orchard", {"join": {"over": 0.1}}, face=face, guide=guide,
                                  spacing="overlap", overlap=0.6, height=14)  # fmt: skip
                    self.assertEqual(len(found.area.parts), 1)


class Shapes(unittest.TestCase):
    def test_a_band_carries_loose_letters(self) -> None:
        band = {"bands": [{"along": "line", "width": 4}]}
        found = layer("DRAB", band, tracking=2)
        self.assertEqual((len(layer("DRAB", tracking=2).area.parts), len(found.area.parts)), (4, 1))
        bar = shapely.box(-100, -2, 300, 2)
        self.assertAlmostEqual(polygons_of(found.area).intersection(bar).area / bar.area, 1.0, 4)

    def test_a_rim_runs_inside_the_blanks_edge(self) -> None:
        found = layer(
            "OAK",
            {"bands": [{"width": 5}]},
            blank={"kind": "disc", "diameter": 100},
            height=8,
            at=90,
        )
        rim = max(found.cutouts, key=lambda piece: piece.area.area).area
        self.assertAlmostEqual(rim.area, np.pi * (50**2 - 45**2), delta=0.5)

    def test_cut_back_inside_and_outside_add_up_to_the_lettering(self) -> None:
        guides = (BOARD_LINE, {**BOARD_RING, "diameter": 60})
        inside = layer("BOARD", {"cut_back": [{"to": "ring"}]}, guides=guides, at=75)
        outside = layer(
            "BOARD", {"cut_back": [{"to": "ring", "keep": "outside"}]}, guides=guides, at=75
        )
        letters = layer("BOARD", guides=guides, at=75).area.area
        self.assertAlmostEqual(inside.area.area + outside.area.area, letters, places=3)
        circle = shapely.Point(0, 0).buffer(30.01, quad_segs=200)
        self.assertTrue(circle.covers(polygons_of(inside.area)))

    def test_what_is_hollowed_out_to_nothing_is_no_piece(self) -> None:
        found = layer("i.", {"borders": [{"distance": -0.4, "joined": True}],
                             "rounding": {"outside": 1.0}}, height=3)  # fmt: skip
        self.assertTrue(all(not piece.area.is_empty for piece in found.cutouts))
        away = layer("OAK", {"cut_back": [{"to": "ring", "margin": 44.9}]})
        self.assertEqual(away.cutouts, ())

    def test_letters_inside_of_the_shape_are_left_alone_to_the_point(self) -> None:
        found = layer("OAK", {"cut_back": [{}]})
        self.assertTrue(all(piece.outline is not None for piece in found.cutouts))

    def test_an_open_guide_is_refused_by_the_name_of_its_field(self) -> None:
        with self.assertRaises(PieceError) as wrong:
            prepared(board("OAK", {"cut_back": [{"to": "line"}]}))
        (problem,) = wrong.exception.problems
        self.assertEqual(problem.field, "letterings[0].prepare.cut_back[0].to")

    def test_a_guide_that_is_not_there_is_refused(self) -> None:
        with self.assertRaises(PieceError) as wrong:
            board("OAK", {"bands": [{"along": "gone", "width": 2}]})
        self.assertEqual(wrong.exception.problems[0].field, "letterings[0].prepare.bands[0].along")

    def test_a_name_taken_out_of_a_disc(self) -> None:
        found = layer("OAK", {"taken_out": {"of": "ring"}}, at=78)
        disc = np.pi * 45**2
        self.assertAlmostEqual(found.area.area, disc - layer("OAK", at=78).area.area, delta=1.0)
        self.assertEqual(len(found.area.parts), 3)  # the disc, and two counters
        tied = layer("OAK", {"taken_out": {"of": "ring"}, "bridges": {"width": 1}}, at=78)
        self.assertEqual(len(tied.area.parts), 1)

    def test_single_lines_are_cut_back_as_well(self) -> None:
        found = layer("OAK", {"cut_back": [{"to": "ring"}]}, face="hershey-sans", at=48)
        ends = np.concatenate([line.line.points for line in found.lines if line.line])
        self.assertLess(np.hypot(*ends.T).max(), 45.0 + 1e-6)
        self.assertGreater(np.hypot(*ends.T).max(), 44.0)


class Borders(unittest.TestCase):
    def test_a_border_is_a_layer_of_its_own_at_its_distance(self) -> None:
        ready = prepared(board("OAK", {"borders": [{"distance": 1.6}]}))
        words, border = ready.layers
        self.assertEqual(border.id, "border-words-1")
        theirs = polygons_of(words.area).buffer(1.6, quad_segs=64)
        self.assertLess(apart(theirs, as_shapely(Outline.joined(border.outlines))), 0.025)

    def test_holes_narrower_than_the_typed_size_are_filled(self) -> None:
        kept = prepared(board("O8", {"borders": [{"distance": 1}]})).layers[1]
        filled = prepared(board("O8", {"borders": [{"distance": 1, "fill": 6}]})).layers[1]
        holes = [sum(len(part.rings) - 1 for part in one.area.parts) for one in (kept, filled)]
        self.assertEqual(holes, [3, 1])

    def test_an_inline_joined_leaves_the_rim_of_the_letter(self) -> None:
        rim = layer("OAK", {"borders": [{"distance": -0.8, "joined": True}]}).area
        plain = polygons_of(layer("OAK").area)
        self.assertAlmostEqual(
            rim.area, plain.area - plain.buffer(-0.8, quad_segs=64).area, delta=0.05
        )

    def test_single_lines_have_borders_too(self) -> None:
        ready = prepared(board("I", {"borders": [{"distance": 2}]}, face="hershey-sans"))
        (border,) = (one for one in ready.layers if one.kind == "border")
        lines = [shapely.LineString(p) for o in ready.layers[0].strokes for p, _ in o.flattened(9)]
        theirs = shapely.union_all([line.buffer(2.0, quad_segs=64) for line in lines])
        self.assertAlmostEqual(border.area.area / theirs.area, 1.0, delta=2e-3)


class ForTheTool(unittest.TestCase):
    def test_rounded_corners_have_the_radius_and_no_stroke_is_lost(self) -> None:
        radius = 0.6
        rounded = layer("KEW", {"rounding": {"outside": radius, "inside": radius}})
        for piece in rounded.cutouts:
            polygon = polygons_of(piece.area)
            again = polygon.buffer(-radius, quad_segs=64).buffer(radius, quad_segs=64)
            self.assertLess(polygon.symmetric_difference(again).area, 0.02)
        self.assertEqual(len(rounded.area.parts), 3)
        thin = layer("KEW", {"rounding": {"outside": 1.2}}, face="eb-garamond", height=20)
        self.assertEqual(len(thin.area.parts), 3)
        self.assertIn("thinner", thin.notes[0])

    def test_what_a_cutter_does_not_reach_is_what_opening_and_closing_take(self) -> None:
        area = layer("KEW").area
        inside, outside = (unreached(area, 2.0, side) for side in ("inside", "outside"))
        polygon = polygons_of(area)
        opened = polygon.buffer(-1.0, quad_segs=64).buffer(1.0, quad_segs=64)
        closed = polygon.buffer(1.0, quad_segs=64).buffer(-1.0, quad_segs=64)
        self.assertAlmostEqual(inside.area, polygon.difference(opened).area, delta=0.15)
        self.assertAlmostEqual(outside.area, closed.difference(polygon).area, delta=0.15)

    def test_every_step_at_once_gives_closed_valid_outlines(self) -> None:
        steps = {
            "join": {}, "bands": [{"along": "line", "width": 2}], "borders": [{"distance": 2}],
            "bridges": {"width": 1}, "rounding": {"outside": 0.2, "inside": 0.2},
            "cut_back": [{}],
        }  # fmt: skip
        ready = prepared(board("Board & 8", steps))
        for outline in (outline for one in ready.layers for outline in one.outlines):
            self.assertTrue(as_shapely(outline).is_valid)
            self.assertEqual(outline.operations.count("M"), outline.operations.count("Z"))
        self.assertEqual([one.id for one in ready.layers], ["lettering-words", "border-words-1"])

    def test_the_words_stay_what_they_were(self) -> None:
        """Preparing works on copies: the piece that is kept, and its letters, are as before."""
        layout = board("BOARD", {"join": {}, "bridges": {"width": 1}})
        kept = layout.piece.model_dump_json()
        letters = [layout.settings[0].placed_outline(i).points.copy() for i in range(5)]
        before = prepared(layout).layer_of("words").area.area
        self.assertEqual(layout.piece.model_dump_json(), kept)
        for index, points in enumerate(letters):
            np.testing.assert_array_equal(layout.settings[0].placed_outline(index).points, points)
        self.assertEqual(prepared(layout).layer_of("words").area.area, before)

    @settings(max_examples=25)
    @given(st.floats(0.05, 3.0), st.sampled_from(["OAK", "g8", "&", "Wi"]))
    def test_a_border_and_its_inverse_leave_at_least_the_letters(
        self, distance: float, text: str
    ) -> None:
        ready = prepared(board(text, {"borders": [{"distance": distance}]}))
        words, border = ready.layers
        back = Region.joined(piece.area for piece in border.cutouts).offset(-distance)
        missing = words.area.minus(back.offset(0.002))
        self.assertLess(missing.area, 1e-3)


class Guides(unittest.TestCase):
    def test_a_guide_is_written_once_and_only_when_it_is_a_line_of_its_own(self) -> None:
        cut = {**BOARD_RING, "output": "cut"}
        twin = {**cut, "id": "twin"}
        layout = board(guides=(BOARD_LINE, cut, twin), guide="ring")
        self.assertEqual([g.recipe.id for g in prepared(layout).guides], ["ring"])
        svg = FORMATS["svg"].write(workpiece(layout.piece), False).decode()
        self.assertEqual(svg.count('id="cut-Ring'), 1)
        self.assertEqual(
            FORMATS["svg"]
            .write(workpiece(board(guide="ring").piece), False)
            .decode()
            .count('id="cut-Ring'),
            0,
        )

    def test_the_line_is_the_very_one_that_the_letters_stand_on(self) -> None:
        layout = board(guides=(BOARD_LINE, {**BOARD_RING, "output": "draw"}), guide="ring")
        (guide,) = prepared(layout).guides
        (setting,) = layout.settings
        feet = setting.frames.points
        self.assertLess(np.abs(guide.curve.points(nearest(guide.curve, feet)) - feet).max(), 1e-6)


class WholePiece(unittest.TestCase):
    def test_letterings_are_joined_to_one_another(self) -> None:
        layout = board("OO", whole={"join": {}, "bands": [{"along": "line", "width": 3}]})
        ready = prepared(layout)
        self.assertEqual([one.kind for one in ready.layers], ["whole"])
        self.assertEqual(len(ready.layers[0].cutouts), 1)
        self.assertEqual(ready.layer_of("").id, "whole")

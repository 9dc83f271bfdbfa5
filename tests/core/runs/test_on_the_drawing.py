"""What is done by hand on the drawing of a run."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np
import shapely

from tests.makings import document, workpiece
from ulvent.core.base.errors import PieceError
from ulvent.core.runs import PassRun
from ulvent.core.runs.on_the_drawing import done_by_hand
from ulvent.core.workshop import Workpiece

BOARD = {"kind": "rectangle", "width": 200, "height": 100}
LIE = {"turned": 90, "at": [10, 20]}


def board(**more: Any) -> Workpiece:
    words = {"id": "words", "guide": "line", "text": "OK", "face": "lato-bold", "height": 40}
    line = {"id": "line", "kind": "line", "length": 150}
    cut = {"id": "cut", "tool": "beam", "works": [{"what": "letters", "of": "words"}]}
    made = {"blank": BOARD, "guides": [line], "letterings": [words], "edge": "cut"}
    run = {"passes": [{**cut, "works": [{"what": "cut"}], **more.pop("cut", {})}]}
    return workpiece(document(**made | more, run=run))


def with_done(work: Workpiece, *args: Any) -> Workpiece:
    assert work.piece.run is not None
    sheet = done_by_hand(work.layout, work.groups, work.piece.run, "cut", *args)
    return workpiece(work.piece.model_copy(update={"run": sheet}))


def the_pass(work: Workpiece) -> PassRun:
    return work.run.passes[0]


class ByHand(unittest.TestCase):
    def test_a_line_begins_where_it_is_pulled_to_however_the_piece_lies(self) -> None:
        for lie in ({}, LIE):
            work = board(lie=lie)
            edge = the_pass(work).tracks[-1].points
            wanted = edge[len(edge) // 3] * 0.3 + edge[len(edge) // 3 + 1] * 0.7
            begun = with_done(work, "begin", tuple(wanted.tolist()))
            at = the_pass(begun).tracks[-1].points
            self.assertLess(np.hypot(*(at[0] - wanted)), 0.3)
            # It is the same line still, and pulled elsewhere it begins there.
            self.assertAlmostEqual(shapely.Polygon(at).area, shapely.Polygon(edge).area, places=6)
            there = edge[0] * 0.5 + edge[1] * 0.5
            places = (tuple(there.tolist()), tuple(at[0].tolist()))
            pulled = with_done(begun, "begin", *places)
            self.assertEqual(len(pulled.piece.run.passes[0].begins), 1)
            self.assertLess(np.hypot(*(the_pass(pulled).tracks[-1].points[0] - there)), 0.3)
            gone = with_done(pulled, "begin", None, places[0])
            self.assertEqual(gone.piece.run, work.piece.run)

    def test_tabs_stand_where_they_are_set(self) -> None:
        work = board(cut={"works": [{"what": "edge"}]})
        edge = shapely.LinearRing(the_pass(work).tracks[0].points)
        wanted = [(50.0, 0.0), (120.0, 100.0), (200.0, 30.0)]
        for at in wanted:
            work = with_done(work, "tab", at)
        left = edge.difference(
            shapely.union_all([shapely.LineString(t.points) for t in the_pass(work).tracks])
            .buffer(1e-6)
        )  # fmt: skip
        found = sorted(tuple(np.round(one.centroid.coords[0], 1)) for one in left.geoms)
        self.assertEqual(len(found), 3)
        for one, at in zip(found, sorted(wanted), strict=True):
            np.testing.assert_allclose(one, at, atol=0.3)
        self.assertAlmostEqual(left.length, 6.0, delta=0.01)
        fewer = with_done(work, "tab", None, wanted[1])
        self.assertEqual(len(the_pass(fewer).tracks), 2)

    def test_tabs_by_distance(self) -> None:
        for apart, number in ((100.0, 6), (250.0, 2), (5000.0, 1)):
            tabs = {"apart": apart, "width": 2}
            work = board(cut={"works": [{"what": "edge"}], "tabs": tabs})
            self.assertEqual(len(the_pass(work).tracks), number)

    def test_what_lies_there_is_worked_on_or_no_longer(self) -> None:
        work = board()
        letter = tuple(the_pass(work).tracks[0].points[0].tolist())
        without = with_done(work, "work", letter)
        self.assertEqual([one.what for one in without.piece.run.passes[0].works], ["edge"])
        again = with_done(without, "work", letter)
        self.assertEqual({one.what for one in again.piece.run.passes[0].works}, {"letters", "edge"})
        with self.assertRaisesRegex(PieceError, "switch it off instead"):
            with_done(without, "work", (0.0, 50.0))

    def test_where_nothing_lies_it_is_said(self) -> None:
        for does in ("begin", "tab", "work"):
            with self.assertRaisesRegex(PieceError, "lies there"):
                with_done(board(), does, (100.0, 500.0))


class Weeding(unittest.TestCase):
    def test_lines_across_the_box_keep_clear_of_what_is_cut(self) -> None:
        made = board(cut={"tool": "blade", "works": [{"what": "letters", "of": "words"}]})
        sheet = made.piece.run.model_copy(update={"weeding": 4.0, "weeding_apart": 12.0})
        (one,) = workpiece(made.piece.model_copy(update={"run": sheet})).run.passes
        across = [line for line in one.lines if line.name == "Line for weeding"]
        box = next(line for line in one.lines if line.name == "Box for weeding")
        letters = [line for line in one.lines if line.closed and line is not box]
        self.assertGreater(len(across), 3)
        ink = shapely.union_all([shapely.Polygon(letter.points) for letter in letters])
        for line in across:
            self.assertGreater(shapely.LineString(line.points).distance(ink), 0.79)
            self.assertTrue(shapely.Polygon(box.points).buffer(1e-6).covers(
                shapely.LineString(line.points)))  # fmt: skip
        # The box comes last: film that is off already would no longer lie still.
        self.assertIs(one.lines[one.tracks[-1].line], box)

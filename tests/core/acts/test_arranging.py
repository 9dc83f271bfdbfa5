"""Changing one's mind: words to another guide, guides of another kind, copies, other orders."""

from __future__ import annotations

import unittest

import numpy as np
from pydantic import TypeAdapter

from tests import zoo
from tests.makings import RING, document, done, laid, performed
from ulvent.core.acts import AnyAct, Made, perform_all
from ulvent.core.acts.become_act import becomes
from ulvent.core.acts.begin import on_edge, piece_on, started_on
from ulvent.core.base.errors import PieceError
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.guides.blanks import BLANKS
from ulvent.core.guides.kinds import STARTS
from ulvent.core.recipe import Piece, parse_piece
from ulvent.core.recipe.beginnings import BEGINNINGS
from ulvent.shipped_faces import shipped_face

ACT: TypeAdapter[AnyAct] = TypeAdapter(AnyAct)
ARCH = {"id": "arch", "kind": "arch", "chord": 200, "rise": 40}
WORDS = {"id": "t", "guide": "g", "text": "PEAR", "face": "lato-bold", "height": 10}


def two_guides(**lettering: object) -> Piece:
    guides = [{"id": "g", **RING}, ARCH]
    return parse_piece(document(guides=guides, letterings=[WORDS | lettering]))


class ToAnotherGuide(unittest.TestCase):
    def test_words_keep_their_place_along_the_line(self) -> None:
        piece = two_guides(at=157.08)
        (moved,) = done(piece, act="move-lettering", lettering="t", guide="arch").letterings
        self.assertEqual((moved.guide, moved.at_in), ("arch", "share"))
        self.assertAlmostEqual(moved.at, 0.25, places=4)

    def test_a_named_place_stays_that(self) -> None:
        piece = two_guides(at_in="top", at=3)
        (moved,) = done(piece, act="move-lettering", lettering="t", guide="arch").letterings
        self.assertEqual((moved.at_in, moved.at), ("top", 3.0))

    def test_a_line_that_was_kept_for_the_words_goes(self) -> None:
        removed = done(two_guides(), act="remove-guide", guide="g")
        self.assertTrue(removed.guides[0].removed)
        moved = done(removed, act="move-lettering", lettering="t", guide="arch")
        self.assertEqual([one.id for one in moved.guides], ["arch"])

    def test_no_such_guide(self) -> None:
        with self.assertRaisesRegex(PieceError, "no guide “x”"):
            done(two_guides(), act="move-lettering", lettering="t", guide="x")


class BetweenEdges(unittest.TestCase):
    def test_words_along_a_middle_line_stand_upright(self) -> None:
        """Whichever way the edges run, letters on the new line have their heads up."""
        for lower in (False, True):
            edges = [
                {"id": name, "kind": "path", "d": d}
                for name, d in (("a", "M100 30L-100 40"), ("b", "M-100 0L100 -10"))
            ]
            order = ["b", "a"] if lower else ["a", "b"]
            after = done(document(guides=edges, letterings=[]), act="start-guide",
                         start="middle line", on=order)  # fmt: skip
            line = laid(after).guides[-1].curve
            self.assertGreater(line.frames([line.length / 2.0]).tangents[0][0], 0.9)

    def test_a_pair_that_has_no_middle_says_why(self) -> None:
        ring = {"id": "a", **RING}
        after = done(document(guides=[ring, ARCH], letterings=[]), act="start-guide",
                     start="middle line", on=["a", "arch"])  # fmt: skip
        with self.assertRaisesRegex(PieceError, "closed.*open|open.*closed"):
            laid(after)


class AnotherKind(unittest.TestCase):
    def test_each_becomes_each_of_its_family_and_stays_as_large(self) -> None:
        seen = set()
        for name, recipe in zoo.RECIPES.items():
            piece = parse_piece(document(guides=[{"id": "g", **recipe}], letterings=[WORDS]))
            for kind in becomes(piece.guides[0]):
                seen.add(kind)
                with self.subTest(f"{name} becomes {kind}"):
                    after = done(piece, act="become", guide="g", kind=kind)
                    self.assertEqual(after.guides[0].kind, kind)
                    self.assertEqual(after.letterings, piece.letterings)
                    old, new = (laid(one).guides[0].curve for one in (piece, after))
                    self.assertEqual(old.closed, new.closed)
        self.assertEqual(
            seen, {"circle", "ellipse", "rectangle", "superellipse", "line", "arch", "wave"}
        )

    def test_a_rectangle_and_a_soft_square_are_as_wide_and_high(self) -> None:
        recipe = {"id": "g", "kind": "rectangle", "width": 180, "height": 90, "centre": [5, 6]}
        piece = parse_piece(document(guides=[recipe], letterings=[]))
        soft = done(piece, act="become", guide="g", kind="superellipse")
        boxes = [curve_bounds(laid(one).guides[0].curve) for one in (piece, soft)]
        np.testing.assert_allclose(boxes[0], boxes[1], atol=1e-6)
        with self.assertRaisesRegex(PieceError, "cannot become “arch”"):
            done(piece, act="become", guide="g", kind="arch")


class Copies(unittest.TestCase):
    def test_words_go_to_a_free_place(self) -> None:
        piece = two_guides(at_in="top")
        made = performed(piece, act="duplicate", letterings=["t"])
        copy = made.piece.letterings[-1]
        self.assertEqual((copy.id, copy.text, copy.at_in, copy.reading),
                         ("t-2", "PEAR", "bottom", "against"))  # fmt: skip
        self.assertEqual(made.made, (Made("lettering", "t-2"),))

    def test_a_guide_comes_with_its_words(self) -> None:
        after = done(two_guides(), act="duplicate", guides=["g"])
        self.assertEqual([one.id for one in after.guides], ["g", "arch", "g-2"])
        self.assertEqual([(one.id, one.guide) for one in after.letterings],
                         [("t", "g"), ("t-2", "g-2")])  # fmt: skip
        self.assertNotEqual(after.guides[2].centre, after.guides[0].centre)

    def test_several_at_once_keep_what_they_are_made_from_and_stand_on(self) -> None:
        inner = {"id": "in", "kind": "parallel", "guide": "g", "distance": -10}
        arch = {"id": "arch", "kind": "arch", "chord": 90, "rise": 20}
        piece = parse_piece(
            document(
                guides=[{"id": "g", **RING}, inner, arch],
                letterings=[
                    {**WORDS, "id": "a", "guide": "in"},
                    {**WORDS, "id": "b", "guide": "arch"},
                ],
            )
        )
        copied = performed(piece, act="duplicate", guides=["in", "g"], letterings=["a", "b"])
        after = copied.piece
        line, ring = laid(after).guides[3:5]
        self.assertEqual((after.guides[3].id, after.guides[3].guide), ("in-2", "g-2"))
        # The copies lie beside each other as the first ones do.
        first, again = (
            np.subtract(curve_bounds(outer.curve), curve_bounds(inner.curve))
            for outer, inner in (laid(piece).guides[:2], (ring, line))
        )
        np.testing.assert_allclose(again, first, atol=1e-6)
        # Words on a copied guide come with it, once.
        self.assertEqual(
            [(one.id, one.guide) for one in after.letterings],
            [("a", "in"), ("b", "arch"), ("a-2", "in-2"), ("b-2", "arch")],
        )
        self.assertEqual([one.id for one in copied.made], ["in-2", "g-2", "b-2"])

    def test_acts_in_a_row_are_one_change_or_none(self) -> None:
        piece = two_guides()
        moves = [{"act": "move-lettering", "lettering": "t", "guide": "arch"},
                 {"act": "remove-guide", "guide": "g"}]  # fmt: skip
        after = perform_all([ACT.validate_python(one) for one in moves], piece, shipped_face).piece
        self.assertEqual(([one.id for one in after.guides], after.letterings[0].guide),
                         (["arch"], "arch"))  # fmt: skip
        wrong = [*moves, {"act": "remove-guide", "guide": "g"}]
        with self.assertRaisesRegex(PieceError, "no guide “g”"):
            perform_all([ACT.validate_python(one) for one in wrong], piece, shipped_face)

    def test_between_pieces(self) -> None:
        ring = {"id": "g", **RING}
        inner = {"id": "in", "kind": "parallel", "guide": "g", "distance": -10}
        there = parse_piece(document(guides=[inner, ring], letterings=[{**WORDS, "guide": "in"}]))
        copied = there.model_dump(mode="json")
        after = done(two_guides(), act="paste", guides=copied["guides"],
                     letterings=copied["letterings"])  # fmt: skip
        self.assertEqual([one.id for one in after.guides], ["g", "arch", "in", "g-2"])
        self.assertEqual(after.guides[2].guide, "g-2")
        self.assertEqual(after.letterings[-1].guide, "in")
        alone = done(two_guides(), act="paste", letterings=copied["letterings"], on="arch")
        self.assertEqual(alone.letterings[-1].guide, "arch")
        with self.assertRaisesRegex(PieceError, "choose the guide"):
            done(two_guides(), act="paste", letterings=copied["letterings"])

    def test_other_orders(self) -> None:
        piece = done(two_guides(), act="duplicate", letterings=["t"])
        up = done(piece, act="reorder", of="lettering", id="t-2", by=-1)
        self.assertEqual([one.id for one in up.letterings], ["t-2", "t"])
        self.assertEqual(done(up, act="reorder", of="lettering", id="t-2", by=-1), up)
        guides = done(piece, act="reorder", of="guide", id="g", by=1).guides
        self.assertEqual([one.id for one in guides], ["arch", "g"])


class Beginning(unittest.TestCase):
    def test_every_blank_with_every_guide_and_its_own_edge(self) -> None:
        for name, kind in BLANKS.items():
            if kind.first is None:
                continue
            blank = kind.recipe(kind=name, **kind.first)
            lines = {
                start: started_on(start, blank) for start, one in STARTS.items() if not one.needs
            }
            lines |= {f"edge {d}": on_edge(blank, d) for d in (0.0, 3.0)}
            for start, guides in lines.items():
                with self.subTest(f"{name}, {start}"):
                    layout = laid(piece_on("TAWNY PLUM", blank, guides, {}, shipped_face))
                    (line,) = layout.settings
                    self.assertTrue(line.drawn.all())
                    self.assertGreater(line.room, 0.0)
                    # The letters stand on their feet: they rise from their baseline.
                    middle = line.matrices[len(line.matrices) // 2]
                    self.assertGreater(middle[1, 1], -1e-9)

    def test_an_edge_lies_inside_by_its_distance(self) -> None:
        for name, kind in BLANKS.items():
            if kind.first is None:
                continue
            blank = kind.recipe(kind=name, **kind.first)
            layout = laid(piece_on("", blank, on_edge(blank, 3.0), {}, shipped_face))
            curve, edge = layout.guides[-1].curve, layout.blank[0]
            points = edge.points(np.linspace(0.0, edge.length, 4000))
            mine = curve.points(np.linspace(0.0, curve.length, 50))
            far = np.hypot(*(mine[:, None] - points[None]).transpose(2, 0, 1)).min(axis=1)
            np.testing.assert_allclose(far, 3.0, atol=0.01, err_msg=name)

    def test_no_room_inside(self) -> None:
        disc = BLANKS["disc"].recipe(kind="disc", diameter=20)
        with self.assertRaisesRegex(PieceError, "less than 10"):
            on_edge(disc, 12.0)

    def test_every_starting_point_is_sound_with_any_words(self) -> None:
        for one in BEGINNINGS.values():
            for words in ("", "QUINCE", "A good many words for a small place, all in one line"):
                with self.subTest(f"{one.name}: {words}"):
                    layout = laid(one.piece(words))
                    self.assertTrue(layout.settings)
            faults = [line.overhang for line in laid(one.piece("")).settings]
            self.assertLessEqual(max(faults), 1e-6, one.name)

    def test_new_words_are_no_larger_than_suits_their_guide(self) -> None:
        for diameter in (12.0, 90.0, 2000.0):
            piece = parse_piece(document(guides=[{"id": "g", **RING, "diameter": diameter}],
                                         letterings=[]))  # fmt: skip
            after = done(piece, act="add-lettering", guide="g")
            self.assertLessEqual(after.letterings[0].height, 0.15 * diameter)
            self.assertGreaterEqual(after.letterings[0].height, 0.03 * diameter)


if __name__ == "__main__":
    unittest.main()

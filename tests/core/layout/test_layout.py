"""A whole piece: measured, proved, pulled straight, slid."""

from __future__ import annotations

import unittest

import numpy as np

from tests import zoo
from tests.makings import document, found_in, laid, with_lettering
from ulvent.core.acts.slide import slid_after, slid_along
from ulvent.core.drawing.dimensions import dimensions
from ulvent.core.drawing.strip import pull_straight
from ulvent.core.layout import lay_out
from ulvent.core.layout.measure import measure
from ulvent.core.recipe import parse_piece
from ulvent.demo import barrel_head, demo_pieces
from ulvent.shipped_faces import shipped_face


class Measuring(unittest.TestCase):
    def test_has_the_shape_that_the_docs_give(self) -> None:
        found = measure(laid(document())).model_dump()
        self.assertEqual(set(found), {"guides", "letterings"})
        self.assertEqual(set(found["guides"][0]), {"id", "length", "closed"})
        self.assertEqual(set(found["letterings"][0]), {"id", "length", "room", "clusters"})
        clusters = found["letterings"][0]["clusters"]
        self.assertEqual(set(clusters[0]), {"text", "station", "x", "y", "angle", "advance", "gap"})
        self.assertEqual("".join(c["text"] for c in clusters), "QUILLMEREORCHARD")
        self.assertIsNone(clusters[-1]["gap"])
        self.assertTrue(all(isinstance(c["gap"], float) for c in clusters[:-1]))

    def test_a_letter_on_the_top_of_a_ring_reads_level(self) -> None:
        found = measure(laid(with_lettering(text="H"))).letterings[0].clusters[0]
        np.testing.assert_allclose([found.x, found.y, found.angle], [0, 120, 0], atol=1e-9)
        self.assertAlmostEqual(found.station % 753.9822368615503, 0.0)


class Proving(unittest.TestCase):
    def test_the_demo_is_without_fault(self) -> None:
        for piece in demo_pieces():
            with self.subTest(piece.title):
                self.assertEqual(found_in(lay_out(piece, shipped_face)), ())

    def test_overflow_says_how_much_and_which_letters(self) -> None:
        layout = laid(with_lettering(height=80, align="start"))
        (finding,) = found_in(layout)
        self.assertEqual((finding.kind, finding.severity), ("overflow", "fault"))
        self.assertAlmostEqual(finding.figure, -layout.settings[0].room)
        self.assertEqual(finding.letters[-1], "D")
        self.assertIn(f"{finding.figure:.2f} mm", finding.message)

    def test_missing_letters_are_named(self) -> None:
        (finding,) = found_in(laid(with_lettering(text="A仮B")))
        self.assertEqual(finding.kind, "missing-letters")
        self.assertIn("“仮” (U+4EEE) at place 2", finding.message)


class Strips(unittest.TestCase):
    def test_letters_stand_at_their_feet_as_wide_as_the_guide_under_them(self) -> None:
        layout = laid(with_lettering(standoff=12, at=200))
        strip = pull_straight(layout, layout.guides[0], against=False)
        line, setting = strip.letterings[0], layout.settings[0]
        # A ring of 132 pulled down on one of 120: widths shrink by that, heights stay.
        np.testing.assert_allclose(line.matrices[:, 0, 0], setting.scale * 120 / 132)
        np.testing.assert_allclose(line.matrices[:, 1, 1], setting.scale)
        np.testing.assert_allclose(line.matrices[:, 1, 2], 12)
        middles = line.matrices[:, 0, 2] + setting.advances / 2 * 120 / 132
        np.testing.assert_allclose(middles, setting.feet)

    def test_turned_so_that_a_line_against_the_guide_reads(self) -> None:
        layout = laid(with_lettering(reading="against", at=300))
        strip = pull_straight(layout, layout.guides[0], against=True)
        starts = strip.letterings[0].matrices[:, 0, 2]
        self.assertTrue((np.diff(starts) > 0).all())
        self.assertTrue(strip.letterings[0].upright)
        other = pull_straight(layout, layout.guides[0], against=False)
        self.assertFalse(other.letterings[0].upright)

    def test_what_is_free_and_what_is_taken_make_the_whole(self) -> None:
        layout = lay_out(barrel_head(), shipped_face)
        for against in (False, True):
            strip = pull_straight(layout, layout.guides[0], against)
            free = sum(end - begin for begin, end in strip.free)
            taken = sum(
                s.length * layout.guides[0].curve.length / s.baseline.length
                for s in layout.settings
            )
            self.assertAlmostEqual(free + taken, strip.guide.curve.length)


class Sliding(unittest.TestCase):
    def test_by_a_length_in_reading_direction(self) -> None:
        layout = lay_out(barrel_head(), shipped_face)
        guide = layout.guides[0].curve
        name, pressed = layout.piece.letterings
        self.assertAlmostEqual(slid_along(name, guide, 10).at * guide.length,
                               name.at * guide.length + 10, places=3)  # fmt: skip
        self.assertAlmostEqual(slid_along(pressed, guide, 10).at * guide.length,
                               pressed.at * guide.length - 10, places=3)  # fmt: skip

    def test_after_a_pointer_and_round_the_seam(self) -> None:
        layout = laid(document())
        guide, lettering = layout.guides[0].curve, layout.piece.letterings[0]
        after = slid_after(lettering, guide, (0.0, 125.0), (125.0, 0.0))
        self.assertAlmostEqual(after.at, guide.length / 4, places=3)
        back = slid_after(lettering, guide, (0.0, 125.0), (-125.0, 0.0))
        self.assertAlmostEqual(back.at, 3 * guide.length / 4, places=3)

    def test_stays_on_an_open_guide(self) -> None:
        piece = document(guides=[{"id": "rim", "kind": "path", "d": "M0 0H100"}])
        layout = laid(piece)
        guide, lettering = layout.guides[0].curve, layout.piece.letterings[0]
        self.assertEqual(slid_along(lettering, guide, 500).at, 100)
        self.assertEqual(slid_along(lettering, guide, -500).at, 0)


class Dimensions(unittest.TestCase):
    def test_each_is_as_long_on_the_drawing_as_it_says(self) -> None:
        """Those with a line: what the figure says is how far apart its ends are."""
        pieces = demo_pieces()
        pieces += [parse_piece(document(guides=[{"id": "rim", **recipe}]))
                   for recipe in zoo.RECIPES.values()]  # fmt: skip
        seen: set[str] = set()
        for piece in pieces:
            for found in dimensions(lay_out(piece, shipped_face)):
                drawn = float(np.hypot(*np.subtract(found.end, found.start)))
                if drawn and found.unit == "mm":
                    seen.add(found.field)
                    with self.subTest(f"{piece.title} {found.owner} {found.field}"):
                        self.assertAlmostEqual(drawn, abs(found.value))
        self.assertLessEqual(
            {"diameter", "height", "rise", "chord", "outer", "radius", "distance"}, seen
        )

    def test_a_placed_guide_carries_its_dimensions_along(self) -> None:
        piece = document(guides=[{"id": "rim", **zoo.RECIPES["arch"], "turned": 90,
                                  "centre": [10, 20], "scaled": 2}])  # fmt: skip
        rise = next(d for d in dimensions(laid(piece)) if d.field == "rise")
        np.testing.assert_allclose([rise.start, rise.end], [(10, 20), (-50, 20)], atol=1e-9)


if __name__ == "__main__":
    unittest.main()

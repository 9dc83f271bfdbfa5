"""A whole piece: measured, and without fault."""

from __future__ import annotations

import unittest

import numpy as np

from tests.makings import document, found_in, laid, laid_out, with_lettering
from ulvent.core.layout import lay_out
from ulvent.core.layout.measure import measure
from ulvent.demo import demo_pieces
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

    def test_what_is_over_by_less_than_could_be_said_is_no_fault(self) -> None:
        length = laid_out({"kind": "line", "length": 500}).settings[0].length
        for over, faults in ((0.003, 0), (0.02, 1)):
            layout = laid_out({"kind": "line", "length": length - over})
            self.assertEqual(len(found_in(layout)), faults)

    def test_overflow_says_how_much_and_which_letters(self) -> None:
        layout = laid(with_lettering(height=80, align="start"))
        (finding,) = [one for one in found_in(layout) if one.kind == "overflow"]
        self.assertEqual((finding.kind, finding.severity), ("overflow", "fault"))
        self.assertAlmostEqual(finding.figure, -layout.settings[0].room)
        self.assertEqual(finding.letters[-1], "D")
        self.assertIn(f"{finding.figure:.2f} mm", finding.message)

    def test_missing_letters_are_named(self) -> None:
        (finding,) = found_in(laid(with_lettering(text="A仮B")))
        self.assertEqual(finding.kind, "missing-letters")
        self.assertIn("“仮” (U+4EEE) at place 2", finding.message)


if __name__ == "__main__":
    unittest.main()

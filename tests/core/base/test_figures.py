"""Typed figures. The inch is 25.4 mm (CSS Values and Units)."""

from __future__ import annotations

import contextlib
import doctest
import unittest

from hypothesis import given
from hypothesis import strategies as st

from ulvent.core.base import figures
from ulvent.core.base.figures import FigureError, parse_length


class Figures(unittest.TestCase):
    def test_what_makers_type(self) -> None:
        for text, millimetres in {
            "12.5": 12.5,
            "12,5": 12.5,
            "25.4/2": 12.7,
            "3/8in": 9.525,
            "1 3/8 in": 34.925,
            '1 1/2"': 38.1,
            "1ft + 2": 306.8,
            "2 * (40 - 3.2)": 73.6,
            "10 cm": 100.0,
            "-4": -4.0,
            "−4 mm": -4.0,
            "12 × 2 ÷ 3": 8.0,
            " .5in ": 12.7,
        }.items():
            with self.subTest(text):
                self.assertAlmostEqual(parse_length(text), millimetres)

    def test_in_a_piece_that_is_shown_in_inches_plain_figures_are_inches(self) -> None:
        """1 in = 25.4 mm (ISO 31-1), once for each length however it is bracketed."""
        for text, inches in {
            "3": 3, "1 3/8": 1.375, "1/2": 0.5, "2*(1+1/2)": 3, "(1+2)/4": 0.75, "-3": -3,
            "1 + 2": 3, "(1+2)in": 3, "2 * (3in)": 6,
        }.items():  # fmt: skip
            with self.subTest(text):
                self.assertAlmostEqual(parse_length(text, "in"), 25.4 * inches)
        self.assertAlmostEqual(parse_length("1 + 2mm", "in"), 27.4)
        self.assertAlmostEqual(parse_length("(1 + 2mm) * 2", "in"), 54.8)
        self.assertAlmostEqual(parse_length("30mm", "in"), 30.0)

    def test_what_is_none_is_refused_with_words(self) -> None:
        for text, reason in {
            "": "type a figure",
            "abc": "not a figure",
            "3/0": "divided by 0",
            "3in*2in": "one unit",
            "(3": "bracket",
            "3 4": "wrong place",
            "3+": "missing",
            "9" * 200: "at most",
            "((((((((((((((((((1))))))))))))))))))": "too many brackets",
            "__import__('os')": "not a figure",
        }.items():
            with self.subTest(text[:20]), self.assertRaisesRegex(FigureError, reason):
                parse_length(text)

    @given(st.text(alphabet='0123456789.,/*+-() inmft"', max_size=40))
    def test_any_text_is_a_figure_or_refused(self, text: str) -> None:
        with contextlib.suppress(FigureError):
            self.assertIsInstance(parse_length(text), float)

    @given(st.floats(-1e6, 1e6))
    def test_a_plain_figure_is_itself(self, value: float) -> None:
        self.assertAlmostEqual(parse_length(f"{value:.6f}"), value, places=5)

    def test_the_examples_in_the_docstring_run(self) -> None:
        self.assertEqual(doctest.testmod(figures).failed, 0)


if __name__ == "__main__":
    unittest.main()

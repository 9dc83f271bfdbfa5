"""The document: what is let in, and how a wrong field is named."""

from __future__ import annotations

import itertools
import math
import unittest
from typing import Any

import numpy as np

from tests.makings import document, with_guide, with_lettering, workpiece
from ulvent.core.base.errors import PieceError
from ulvent.core.layout import lay_out
from ulvent.core.recipe import MOST_LETTERS, parse_piece
from ulvent.formats.svg_writing import write_svg
from ulvent.shipped_faces import shipped_face


class Reading(unittest.TestCase):
    def test_the_example_is_read_and_keeps_what_it_says(self) -> None:
        piece = parse_piece(document())
        self.assertEqual(piece.letterings[0].text, "QUILLMERE ORCHARD")
        self.assertEqual(parse_piece(piece.model_dump(mode="json")), piece)

    def test_little_is_needed(self) -> None:
        piece = parse_piece({"ulvent": 1})
        self.assertEqual((piece.blank, piece.guides, piece.letterings), (None, (), ()))


class WrongPieces(unittest.TestCase):
    def test_the_wrong_field_is_named(self) -> None:
        circle = {"kind": "circle", "diameter": 3}
        wrong: list[tuple[Any, str, str]] = [
            ([], "", "object"),
            ({}, "ulvent", "missing"),
            ({"ulvent": 2}, "ulvent", "newer"),
            (document(colour="red"), "colour", "not a field"),
            (with_lettering(hight=3), "letterings[0].hight", "not a field"),
            (with_lettering(height="x"), "letterings[0].height", "number"),
            (with_lettering(height=0), "letterings[0].height", "greater than 0"),
            (with_lettering(height=math.nan), "letterings[0].height", ""),
            (with_lettering(reading="up"), "letterings[0].reading", "'along' or 'against'"),
            (with_lettering(spacing="loose"), "letterings[0].spacing", "font"),
            (with_lettering(guide="rin"), "letterings[0].guide", "no guide “rin”"),
            (with_lettering(text="a\tb"), "letterings[0].text", "place 2"),
            (with_lettering(text="x" * (MOST_LETTERS + 1)), "letterings[0].text", "2000"),
            (with_lettering(id="1 2"), "letterings[0].id", "letter"),
            (with_guide(kind="oval"), "guides[0].kind", "circle"),
            (with_guide(), "guides[0].kind", "missing"),
            (with_guide(kind="circle"), "guides[0].diameter", "missing"),
            (with_guide(kind="circle", diameter=-1), "guides[0].diameter", "greater than 0"),
            (with_guide(kind="circle", diameter=3, centre=[1]), "guides[0].centre[1]", "missing"),
            (with_guide(kind="circle", diameter=1e9), "guides[0].diameter", "at most"),
            (document(guides=[{"id": "a", **circle}, {"id": "A", **circle}]),
             "guides[1].id", "twice"),
            (document(guides=[{"id": f"g{i}", **circle} for i in range(201)]), "guides", "200"),
        ]  # fmt: skip
        for piece, field, reason in wrong:
            with self.subTest(field + " " + reason):
                with self.assertRaises(PieceError) as caught:
                    parse_piece(piece)
                problems = {problem.field: problem.reason for problem in caught.exception.problems}
                self.assertIn(field, problems)
                self.assertIn(reason, problems[field])

    def test_letters_are_counted_over_the_whole_piece(self) -> None:
        many = document()
        one = many["letterings"][0]
        many["letterings"] = [{**one, "id": f"l{i}", "text": "x" * 2000} for i in range(11)]
        with self.assertRaisesRegex(PieceError, "letterings: have 22000 characters"):
            parse_piece(many)

    def test_extreme_figures_are_laid_out_or_refused(self) -> None:
        extremes = (1e-9, 1e-3, 1e5)
        for height, diameter, standoff in itertools.product(extremes, extremes, (-1e5, 0, 1e5)):
            with self.subTest(f"{height} {diameter} {standoff}"):
                piece = with_lettering(height=height, standoff=standoff)
                piece["guides"][0]["diameter"] = diameter
                try:
                    work = workpiece(piece)
                    layout = work.layout
                except PieceError as error:
                    self.assertIn("standoff", str(error))
                    continue
                self.assertTrue(np.isfinite(layout.settings[0].matrices).all())
                self.assertTrue(write_svg(work))

    def test_what_cannot_be_laid_out_is_named_too(self) -> None:
        wrong = [
            (with_lettering(face="no-such-face"), "letterings[0].face", "no face"),
            (with_lettering(reading="against", standoff=130), "letterings[0].standoff", "radius"),
            (with_guide(kind="path", d="M0 0 L"), "guides[0].d", "takes 2 numbers"),
        ]
        for piece, field, reason in wrong:
            with self.subTest(field):
                with self.assertRaises(PieceError) as caught:
                    lay_out(parse_piece(piece), shipped_face)
                self.assertEqual(caught.exception.problems[0].field, field)
                self.assertIn(reason, caught.exception.problems[0].reason)


if __name__ == "__main__":
    unittest.main()

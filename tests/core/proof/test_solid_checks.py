"""The proof of parts: what is too thin, stretched, loose, or upright where it must lean."""

from __future__ import annotations

import unittest
from typing import Any

from tests.makings import document, workpiece
from ulvent.core.proof import Finding

BAND = {"kind": "band", "inner": 18, "width": 8, "thickness": 1.8}


def found(kind: str, blank: dict[str, Any], solid: dict[str, Any], **words: Any) -> list[Finding]:
    guide = {"id": "g", "kind": "belt", "girth": 1} if blank["kind"] == "band" else {
        "id": "g", "kind": "line", "length": 100}  # fmt: skip
    lettering = {"id": "w", "guide": "g", "text": "QUOINS", "face": "lato-bold", "height": 4,
                 "at": 0.5, "at_in": "share", "align": "centre", **words}  # fmt: skip
    piece = document(blank=blank, guides=[guide], letterings=[lettering], solid=solid)
    return [one for one in workpiece(piece).proof.findings if one.kind == kind]


class Checks(unittest.TestCase):
    def test_a_cutter_wider_than_the_strokes(self) -> None:
        """Strokes of Lato Bold at 4 mm are 0.7 mm wide."""
        sunk = {"relief": {"relief": "sunk", "by": 0.4}, "making": "milling"}
        (wide,) = found("thin-relief", BAND, {**sunk, "cutter": 1.5})
        self.assertIn("cutter of 1.5 mm", wide.message)
        self.assertGreater(wide.figure, 50.0)
        self.assertEqual(found("thin-relief", BAND, {**sunk, "cutter": 0.3}), [])

    def test_walls_too_thin_to_be_printed_or_cast(self) -> None:
        self.assertEqual(found("thin-relief", BAND, {"making": "printing"}), [])
        small = {"height": 1.6}
        self.assertTrue(found("thin-relief", BAND, {"making": "printing"}, **small))
        self.assertTrue(found("thin-relief", BAND, {"making": "casting"}, **small))

    def test_letters_stretched_by_a_crowned_side(self) -> None:
        crowned = {**BAND, "crown": 8}
        (said,) = found("stretched", crowned, {"relief": {"by": 0.3}})
        self.assertIn("narrower at the head", said.message)
        self.assertEqual(found("stretched", BAND, {"relief": {"by": 0.3}}), [])

    def test_counters_that_are_cut_loose(self) -> None:
        plate = {"kind": "rectangle", "width": 60, "height": 30}
        (loose,) = found("loose-solid", plate, {"relief": {"relief": "through"}}, height=8)
        self.assertEqual(loose.figure, 2.0)
        self.assertEqual(found("loose-solid", plate, {}, height=8), [])

    def test_a_casting_with_upright_walls_and_its_remedy(self) -> None:
        (said,) = found("no-draft", BAND, {"making": "casting"})
        (remedy,) = said.remedies
        self.assertEqual(found("no-draft", BAND, remedy.changes["solid"]), [])

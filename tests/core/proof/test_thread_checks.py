"""What the proof says of thread; limits are common practice, no source."""

from __future__ import annotations

import unittest
from typing import Any

from tests.makings import document, workpiece
from ulvent.core.proof import Finding


def proofed(text: str, height: float, face: str = "lato-bold", **sewing: Any) -> list[Finding]:
    """The findings of thread for words on a line."""
    line = {"id": "l", "kind": "line", "length": 4.0 * height * len(text)}
    words = {"id": "t", "guide": "l", "text": text, "face": face, "height": height}
    piece = document(guides=[line], letterings=[words], blank=None, sewing=sewing)
    return list(workpiece(piece).proof.findings)


def of(findings: list[Finding], key: str) -> list[Finding]:
    return [one for one in findings if one.key.startswith(key)]


class Thread(unittest.TestCase):
    def test_low_letters_are_named_with_what_the_cloth_needs(self) -> None:
        (found,) = of(proofed("OK", 4.0), "low-thread")
        self.assertEqual((found.figure, found.limit, found.letters), (4.0, 5.0, ("O", "K")))
        self.assertEqual(of(proofed("OK", 4.0, thread="60"), "low-thread"), [])
        (found,) = of(proofed("OK", 8.0, cloth="towelling"), "low-thread")
        self.assertEqual(found.limit, 10.0)

    def test_narrow_satin_becomes_a_line_by_its_remedy(self) -> None:
        satin = {"letterings": [{"of": "t", "stitch": "satin"}]}
        (found,) = of(proofed("il", 6.0, "lato-regular", **satin), "narrow-satin")
        self.assertLess(found.figure, 1.0)
        (remedy,) = found.remedies
        mended = proofed("il", 6.0, "lato-regular", **remedy.changes["sewing"])
        self.assertEqual(of(mended, "narrow-satin"), [])
        self.assertEqual(of(proofed("il", 20.0, **satin), "narrow-satin"), [])

    def test_long_stitches_and_crowded_ones(self) -> None:
        self.assertEqual(of(proofed("OK", 18.0), "long-stitch"), [])
        self.assertEqual(of(proofed("OK", 18.0), "crowded"), [])
        # Two letters on one another, closely sewn.
        line = {"id": "l", "kind": "line", "length": 100}
        words = {"guide": "l", "text": "OK", "face": "lato-bold", "height": 18}
        twice = [{"id": "t", **words}, {"id": "u", **words}]
        piece = document(guides=[line], letterings=twice, blank=None, sewing={"spacing": 0.25})
        (found,) = of(list(workpiece(piece).proof.findings), "crowded")
        self.assertGreater(found.figure, 16)

    def test_what_does_not_go_into_the_hoop(self) -> None:
        hoop = {"width": 40, "height": 40}
        (found,) = of(proofed("OKAY", 20.0, hoop=hoop), "several-hoopings")
        self.assertEqual(found.severity, "hint")
        (found,) = of(proofed("OK", 60.0, hoop=hoop), "outside-hoop")
        self.assertEqual(found.severity, "fault")
        self.assertIn("the hoop holds 40 × 40 mm", found.message)
        self.assertEqual(of(proofed("O", 20.0, hoop=hoop), "outside-hoop"), [])

    def test_a_piece_that_says_nothing_of_thread_is_not_looked_at(self) -> None:
        line = {"id": "l", "kind": "line", "length": 100}
        words = {"id": "t", "guide": "l", "text": "OK", "face": "lato-bold", "height": 3}
        found = workpiece(document(guides=[line], letterings=[words], blank=None)).proof.findings
        self.assertEqual(of(list(found), "low-thread"), [])

"""Proof for runs: what a machine would do wrong is found before it does."""

from __future__ import annotations

import unittest
from typing import Any

from tests.makings import document, workpiece
from ulvent.core.proof import Finding

BOARD = {"kind": "rectangle", "width": 300, "height": 120}
LINE = [{"id": "line", "kind": "line", "length": 280}]
LETTERS = {"what": "letters", "of": "words"}
EDGE = {"what": "edge"}


def proofed(
    *passes: dict[str, Any], kind: str, thickness: float | None = None, **run: Any
) -> list[Finding]:
    words = {"id": "words", "guide": "line", "text": "OAK", "face": "lato-bold", "height": 40}
    sheet = {"passes": list(passes), **run}
    solid = {"thickness": thickness} if thickness else None
    piece = document(
        blank=BOARD, guides=LINE, letterings=[words], edge="cut", run=sheet, solid=solid
    )
    return [one for one in workpiece(piece).proof.findings if one.kind == kind]


def one(id: str, tool: str, *works: dict[str, str], **more: Any) -> dict[str, Any]:
    return {"id": id, "tool": tool, "works": list(works), **more}


class Runs(unittest.TestCase):
    def test_what_leaves_the_bed_is_said_with_how_far_and_where(self) -> None:
        cut = one("a", "beam", EDGE)
        bed = {"width": 250, "height": 200}
        (found,) = proofed(cut, kind="off-bed", bed=bed)
        self.assertEqual((found.severity, found.unit), ("fault", "mm"))
        self.assertAlmostEqual(found.figure, 50.0, places=3)
        self.assertAlmostEqual(found.places[0][0], 150.0, places=3)
        self.assertEqual(proofed(cut, kind="off-bed", bed={"width": 300, "height": 120}), [])
        # Begun farther in, it leaves it by as much more; from the middle it does not fit either.
        (found,) = proofed(cut, kind="off-bed", bed=bed, at=[5, 0])
        self.assertAlmostEqual(found.figure, 55.0, places=3)
        middle = {**bed, "zero": "centre", "width": 300}
        self.assertEqual(proofed(cut, kind="off-bed", bed=middle, zero="centre"), [])
        # What the tool runs on beyond its rows counts.
        fill = one("f", "beam-fill", LETTERS, filling={"overscan": 100})
        self.assertEqual(len(proofed(fill, kind="off-bed", bed={"width": 300, "height": 120})), 1)

    def test_lines_that_two_passes_cut(self) -> None:
        blade, beam = one("a", "blade", EDGE, LETTERS), one("b", "beam", EDGE)
        (found,) = proofed(blade, beam, kind="cut-twice")
        # The board's edge is 840 mm long.
        self.assertAlmostEqual(found.figure, 840.0, delta=5.0)
        self.assertEqual(proofed(one("p", "pen", EDGE, LETTERS), beam, kind="cut-twice"), [])
        self.assertEqual(proofed(one("a", "blade", LETTERS), beam, kind="cut-twice"), [])
        self.assertEqual(proofed({**blade, "held": True}, beam, kind="cut-twice"), [])

    def test_parts_that_are_loose_when_they_are_worked_on(self) -> None:
        out, draw = one("a", "beam", EDGE), one("b", "pen", LETTERS)
        (found,) = proofed(out, draw, kind="falls-early")
        self.assertEqual((found.severity, found.figure), ("fault", 5.0))  # O, A with counters; K
        self.assertEqual(proofed(draw, out, kind="falls-early"), [])
        tabs = {**out, "tabs": {"number": 3}}
        self.assertEqual(proofed(tabs, draw, kind="falls-early"), [])
        self.assertEqual(proofed(one("a", "blade", EDGE), draw, kind="falls-early"), [])

    def test_a_tool_wider_than_a_hollow(self) -> None:
        wide = one("a", "router", LETTERS, depth=3, kerf=[{"width": 6}])
        (found,) = proofed(wide, kind="wide-tool")
        self.assertGreater(found.figure, 1.0)
        fine = one("a", "router", LETTERS, depth=3, kerf=[{"width": 0.05}])
        self.assertEqual(proofed(fine, kind="wide-tool"), [])

    def test_a_flat_cutter_leaves_what_it_does_not_come_into(self) -> None:
        clear = one("a", "flat-bit", LETTERS, depth=2, carving={"bit": 3})
        (found,) = proofed(clear, kind="wide-tool")
        fine = {**clear, "carving": {"bit": 0.2}}
        less = proofed(fine, kind="wide-tool")
        self.assertLess(sum(one.figure for one in less), 0.1 * found.figure)

    def test_a_groove_through_the_plate(self) -> None:
        """A pointed cutter of 60 degrees goes 1.73 times as deep as half the stroke is wide."""
        groove = one("a", "v-bit", LETTERS, carving={"angle": 20})
        (found,) = proofed(groove, kind="too-deep", thickness=3)
        self.assertEqual(found.severity, "fault")
        self.assertGreater(found.figure, 3.0)
        self.assertEqual(proofed({**groove, "depth": 2}, kind="too-deep", thickness=3), [])
        self.assertEqual(proofed(groove, kind="no-depth"), [])
        self.assertEqual(len(proofed(one("a", "flat-bit", LETTERS), kind="no-depth")), 1)

    def test_figures_that_are_nobodys_own(self) -> None:
        beam = one("a", "beam", EDGE)
        self.assertEqual(len(proofed(beam, kind="usual-figures")), 1)
        self.assertEqual(proofed({**beam, "speed": 8, "power": 70}, kind="usual-figures"), [])

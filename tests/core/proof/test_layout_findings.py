"""What is said of letters while they are set: those that leave the blank, or the tool's area."""

from __future__ import annotations

import unittest

from shapely.geometry import Point, Polygon

from tests.makings import document, found_in, laid, proofed
from ulvent.core.layout import Layout
from ulvent.core.proof.leaving import inside_of, letters_outside
from ulvent.core.shapes import flat_contours


def words(**changes: object) -> dict[str, object]:
    return {"id": "t", "guide": "rim", "text": "PEARS AND PLUMS", "face": "lato-bold",
            "height": 18, "at": 0, "align": "centre"} | changes  # fmt: skip


class Leaving(unittest.TestCase):
    def test_the_same_letters_leave_as_shapely_says(self) -> None:
        for shape in ("rigid", "bent"):
            for diameter in (240, 262, 270, 278, 290):
                guides = [{"id": "rim", "kind": "circle", "diameter": diameter, "start": 90,
                           "centre": [4, 0]}]  # fmt: skip
                with self.subTest(f"{shape} {diameter}"):
                    layout = laid(document(guides=guides, letterings=[words(shape=shape)]))
                    self.assertEqual(self.ours(layout), self.by_shapely(layout))

    def ours(self, layout: Layout) -> list[int]:
        (line,) = layout.settings
        return letters_outside(line, inside_of(layout.blank))

    def by_shapely(self, layout: Layout) -> list[int]:
        (line,) = layout.settings
        disc = Point(0, 0).buffer(150.02, 720)
        return [
            index
            for index in range(len(line.clusters))
            if not all(
                disc.covers(Polygon(points))
                for points, _ in flat_contours(line.placed_outline(index))
            )
        ]

    def test_it_is_said_at_once_with_the_letters(self) -> None:
        guides = [{"id": "rim", "kind": "circle", "diameter": 290, "start": 90}]
        (finding,) = found_in(document(guides=guides, letterings=[words(text="PIP")]))
        self.assertEqual(finding.message, "3 letters leave the blank: “P”, “I”")
        self.assertEqual((finding.kind, finding.severity, finding.lettering),
                         ("leaving-blank", "warning", "t"))  # fmt: skip
        self.assertEqual(len(finding.places), 3)

    def test_in_the_proof_it_is_said_once(self) -> None:
        guides = [{"id": "rim", "kind": "circle", "diameter": 290, "start": 90}]
        kinds = [
            one.kind for one in proofed(document(guides=guides, letterings=[words()])).findings
        ]
        self.assertIn("outside-blank", kinds)
        self.assertNotIn("leaving-blank", kinds)

    def test_the_tools_area_as_the_piece_lies_on_it(self) -> None:
        area = {"width": 320, "height": 200}
        piece = document(area=area, letterings=[words(text="PIP")])
        self.assertIn("leaving-area", [one.kind for one in found_in(piece)])
        turned = piece | {"lie": {"at": [0, -60]}}
        self.assertNotIn("leaving-area", [one.kind for one in found_in(turned)])


if __name__ == "__main__":
    unittest.main()

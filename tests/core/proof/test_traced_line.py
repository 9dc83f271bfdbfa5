"""A traced guide is offered smooth lines, each with how far it is off."""

from __future__ import annotations

import re
import unittest

import numpy as np
import shapely

from tests.makings import document
from tests.worst_cases import traced
from ulvent.core.recipe import parse_piece
from ulvent.core.workshop import Workpiece, Workshop
from ulvent.shipped_faces import shipped_face


def opened(data: str) -> Workpiece:
    guide = {"id": "g", "kind": "path", "d": data, "centre": [5.0, -3.0], "turned": 20.0}
    words = {"id": "t", "guide": "g", "text": "QUILLMERE ORCHARD", "face": "lato-bold", "height": 4}
    piece = document(guides=[guide], letterings=[words])
    return Workshop(shipped_face).of(parse_piece(piece))


def kinds(work: Workpiece) -> list[str]:
    return [finding.kind for finding in work.findings]


class TracedLine(unittest.TestCase):
    def test_smooth_lines_are_as_near_as_is_said(self) -> None:
        """Held against shapely's Hausdorff distance of dense lines."""
        work = opened(traced(500))
        self.assertIn("traced-line", kinds(work))
        remedies = work.remedies("traced-line", "t")
        self.assertGreater(len(remedies), 1)
        for remedy in remedies:
            points, off = map(float, re.findall(r"[\d.]+", remedy.label))
            smooth = opened(remedy.changes["d"])
            self.assertNotIn("traced-line", kinds(smooth))
            self.assertLess(points, 100)
            one, two = (
                shapely.LinearRing(each.layout.guides[0].curve.points(stations(each)))
                for each in (work, smooth)
            )
            self.assertAlmostEqual(
                shapely.hausdorff_distance(one, two), off, delta=0.05 * off + 0.01
            )

    def test_what_is_no_traced_line_is_left_alone(self) -> None:
        self.assertNotIn("traced-line", kinds(opened("M0 0C20 40 60 -20 80 10L150 0")))
        self.assertNotIn("traced-line", kinds(opened(traced(40))))


def stations(work: Workpiece) -> np.ndarray:
    return np.linspace(0.0, work.layout.guides[0].curve.length, 6000, endpoint=False)


if __name__ == "__main__":
    unittest.main()

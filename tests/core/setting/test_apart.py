"""Stacked and upright letters evenly apart, held against shapely's distances between outlines."""

from __future__ import annotations

import itertools
import unittest

import numpy as np

from tests.areas import polygons_of
from tests.makings import line
from ulvent.core.setting import Setting
from ulvent.core.shapes import Region

DOWN = {"kind": "line", "length": 400, "turned": -90}
RING = {"kind": "circle", "diameter": 160, "start": 90}


def distances(found: Setting) -> np.ndarray:
    inks = [
        polygons_of(Region.of(found.placed_outline(index))) for index in range(len(found.clusters))
    ]
    return np.array([one.distance(two) for one, two in itertools.pairwise(inks)])


class Apart(unittest.TestCase):
    def test_upright_letters_on_a_ring_are_evenly_apart(self) -> None:
        for guide in (DOWN, RING):
            for shape in ("stacked", "stacked-upright"):
                for spacing in ("even", "same"):
                    with self.subTest(f"{guide['kind']} {shape} {spacing}"):
                        found = line(
                            guide, text="ORCHARDLY", height=11, shape=shape, spacing=spacing, at=30
                        )
                        apart = distances(found)
                        self.assertGreater(apart.min(), 0.3)
                        np.testing.assert_allclose(apart, apart.mean(), atol=0.12)

    def test_by_the_face_they_are_not(self) -> None:
        plain = distances(line(RING, text="ORCHARDLY", height=11, shape="stacked-upright", at=30))
        self.assertGreater(float(np.ptp(plain)), 1.0)

    def test_words_stay_apart_and_spacing_opens_all(self) -> None:
        found = [
            distances(
                line(DOWN, text="TO IT", height=10, shape="stacked", spacing="even", tracking=more)
            )
            for more in (0.0, 2.0)
        ]
        self.assertGreater(found[0][1], found[0][0] + 2.0)
        np.testing.assert_allclose(found[1][[0, 2]] - found[0][[0, 2]], 2.0, atol=0.1)

    def test_the_place_that_they_are_held_at_stays(self) -> None:
        for align, which in (("start", 0), ("end", -1)):
            places = [
                line(
                    DOWN,
                    text="HIM",
                    height=10,
                    shape="stacked",
                    spacing=spacing,
                    at=200,
                    align=align,
                ).middles[which]
                for spacing in ("font", "even")
            ]
            self.assertAlmostEqual(places[0], places[1], delta=0.05, msg=align)


if __name__ == "__main__":
    unittest.main()

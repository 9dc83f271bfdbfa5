"""The least rectangle against shapely's, which finds it by turning calipers."""

from __future__ import annotations

import math
import unittest

import numpy as np
import shapely
from hypothesis import given
from hypothesis import strategies as st

from ulvent.core.shapes import Region, least_box

_COORDINATES = st.floats(-50.0, 50.0, allow_nan=False)
_POINTS = st.lists(st.tuples(_COORDINATES, _COORDINATES), min_size=3, max_size=12)


class LeastBoxes(unittest.TestCase):
    @given(_POINTS)
    def test_it_is_as_small_as_shapely_s(self, points: list[tuple[float, float]]) -> None:
        hull = shapely.MultiPoint(points).convex_hull
        if hull.geom_type != "Polygon" or hull.buffer(-0.5).is_empty:
            return
        found = least_box(Region.of_rings([np.array(hull.exterior.coords)[-2::-1]]))
        least = shapely.oriented_envelope(hull).area
        self.assertLessEqual(found.length * found.width, 1.011 * least)
        self.assertGreaterEqual(found.length * found.width, 0.999 * least)
        self.assertGreaterEqual(found.length, found.width)
        self.assertAlmostEqual(found.hull, hull.area, delta=1e-3 * hull.area)
        across = np.array([-found.way[1], found.way[0]])
        off = np.abs(
            (np.array(hull.exterior.coords) - found.middle) @ np.array([found.way, across]).T
        )
        self.assertLessEqual(off[:, 0].max(), found.length / 2.0 + 1e-3)
        self.assertLessEqual(off[:, 1].max(), found.width / 2.0 + 1e-3)

    def test_a_turned_bar_lies_along_its_edges_and_a_disc_stands(self) -> None:
        turned = shapely.affinity.rotate(shapely.box(0, 0, 20, 3), 33, origin=(0, 0))
        bar = least_box(Region.of_rings([np.array(turned.exterior.coords)[-2::-1]]))
        self.assertAlmostEqual(math.degrees(math.atan2(*bar.way[::-1])) % 180.0, 33.0, places=2)
        disc = least_box(Region.disc(np.zeros(2), 5.0))
        self.assertGreater(abs(disc.way[1]), 0.99)


if __name__ == "__main__":
    unittest.main()

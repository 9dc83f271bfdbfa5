"""How thin a region is and where, against the distance transform of a fine raster (scipy)."""

from __future__ import annotations

import unittest

import numpy as np
import shapely
from scipy.ndimage import distance_transform_edt

from tests.areas import outline_faces, polygons_of, word
from ulvent.core.shapes import Region
from ulvent.core.shapes.thin import thin_places

PIXEL = 0.05


def raster(region: Region) -> tuple[np.ndarray, tuple[float, float]]:
    """Pixels whose middle is inside, by shapely, with a margin of ink's own absence."""
    x0, y0, x1, y1 = region.bounds
    xs = np.arange(x0 - 4 * PIXEL, x1 + 4 * PIXEL, PIXEL)
    ys = np.arange(y0 - 4 * PIXEL, y1 + 4 * PIXEL, PIXEL)
    polygons = polygons_of(region)
    shapely.prepare(polygons)
    inside = shapely.contains_xy(polygons, *np.meshgrid(xs, ys))
    return inside, (float(xs[0]), float(ys[0]))


def dumb_bell(neck: float) -> Region:
    return Region.joined(
        [
            Region.disc(np.array([0.0, 0.0]), 10.0),
            Region.disc(np.array([14.0, 0.0]), 10.0),
            Region.box((0.0, -neck / 2.0, 14.0, neck / 2.0)),
        ]
    )


class Thickness(unittest.TestCase):
    def test_a_neck_is_found_exactly_and_in_its_place(self) -> None:
        for neck in (0.2, 0.5, 0.9):
            with self.subTest(neck):
                (place, *others) = thin_places(dumb_bell(neck), 1.0)
                self.assertAlmostEqual(place.thickness, neck, delta=1e-6)
                self.assertLess(abs(place.at[1]), 1e-6)
                self.assertEqual(others, [])
                self.assertEqual(thin_places(dumb_bell(neck), 0.9 * neck), [])

    def test_no_corner_is_called_thin(self) -> None:
        star = [((5.0 if i % 2 else 12.0) * np.exp(1j * np.pi * i / 5.0)) for i in range(10)]
        for ring in (
            np.array([[0, 0], [20, 0], [20, 15], [0, 15]], dtype=float),
            np.array([[z.real, z.imag] for z in star]),
        ):
            self.assertEqual(thin_places(Region.of_rings([ring]), 1.0), [])

    def test_the_white_between_two_parts_is_measured_the_same_way(self) -> None:
        two = Region.joined([Region.box((0, 0, 5, 9)), Region.box((5.35, 0, 9, 9))])
        (place,) = thin_places(two, 0.5, white=True)
        self.assertAlmostEqual(place.thickness, 0.35, places=6)

    def test_letters_of_all_faces_are_as_thin_as_the_raster_says(self) -> None:
        """Where a place was found the raster's largest disc has its diameter: within a pixel
        for the middle one, within two for four in five. The rest are tips and crotches, where
        the raster's disc is of the wider place beside."""
        off: list[float] = []
        for _, face in outline_faces():
            region = Region.joined(Region.of(letter) for letter in word(face, "Hagen", 14.0))
            inside, (x0, y0) = raster(region)
            depth = distance_transform_edt(inside) * PIXEL
            for place in thin_places(region, 1.0)[:20]:
                column = round((place.at[0] - x0) / PIXEL)
                row = round((place.at[1] - y0) / PIXEL)
                near = depth[row - 1 : row + 2, column - 1 : column + 2].max()
                off.append(abs(2.0 * float(near) - place.thickness))
        self.assertGreater(len(off), 60)
        self.assertLess(float(np.median(off)), PIXEL)
        self.assertLess(float(np.quantile(off, 0.8)), 2.0 * PIXEL)

    def test_what_an_opening_of_the_raster_loses_over_a_length_is_found(self) -> None:
        """No stroke clearly thinner than the limit is missed, and none is made up."""
        limit = 1.0
        asked = {True: 0, False: 0}
        for name, face in outline_faces():
            region = Region.joined(Region.of(letter) for letter in word(face, "Hagen", 14.0))
            inside, _ = raster(region)
            depth = distance_transform_edt(inside) * PIXEL
            for radius, found in ((0.44 * limit, True), (0.6 * limit, False)):
                opened = distance_transform_edt(depth <= radius) == 0.0
                regrown = distance_transform_edt(~opened) * PIXEL <= radius
                share = (inside & ~regrown).sum() / inside.sum()
                places = thin_places(region, limit)
                with self.subTest(name, radius=radius):
                    clear = share > 0.1 if found else share < 0.005
                    asked[found] += clear
                    if clear:
                        self.assertEqual(bool(places), found)
        # Faces fine and faces bold enough to be told about are both among those shipped.
        self.assertGreaterEqual(min(asked.values()), 5, asked)

"""Bridges: how many parts are left is counted by shapely and by scipy's labelling of a raster."""

from __future__ import annotations

import math
import unittest

import numpy as np
import shapely
from scipy.ndimage import label

from tests.areas import outline_faces, polygons_of
from tests.makings import board
from ulvent.core.base.tolerances import JOINT
from ulvent.core.faces import Face
from ulvent.core.prepare import prepared
from ulvent.core.shapes import Region
from ulvent.core.steps.bridge_search import (
    Bridge,
    BridgeChange,
    angle_toward,
    bridges_of,
    fall_of,
    letter_bridges,
    sheet_round,
)
from ulvent.shipped_faces import shipped_face

HEIGHT = 25.0
LETTERS = "ABDOPQRabdegopq04689&@%Å"
ROMAN = ("lato-bold", "zilla-slab-semibold", "eb-garamond", "alfa-slab-one", "kaushan-script")


def letter(face: Face, text: str) -> tuple[Region, float, object]:
    outline = face.cluster_outline(face.shape(text).clusters[0].glyphs)
    scale = HEIGHT / face.metrics.cap_height
    return Region.of(outline, np.array([[scale, 0, 0], [0, scale, 0]])), scale, outline


def bridged(ink: Region, bridges: tuple[Bridge, ...]) -> Region:
    return ink.minus(Region.joined(bridge.region() for bridge in bridges))


def _bridges(text: str, **more: str) -> tuple[Bridge, ...]:
    layout = board(text, {"bridges": {"width": 1}}, height=6, **more)
    return prepared(layout).layer_of("words").bridges


class OnePiece(unittest.TestCase):
    def test_every_letter_leaves_one_sheet_by_shapelys_count(self) -> None:
        for name in ROMAN:
            face = shipped_face(name)
            for text in LETTERS:
                ink, scale, outline = letter(face, text)
                for width in (0.8, 2.0):
                    with self.subTest(name, letter=text, width=width):
                        left = bridged(ink, letter_bridges(outline, scale, width))
                        sheet = shapely.box(*sheet_round(ink, 6.0).bounds)
                        parts = shapely.get_parts(sheet.difference(polygons_of(left)))
                        big = [part for part in parts if part.area > 0.01]
                        self.assertEqual(len(big), 1)

    def test_and_by_labelling_a_raster(self) -> None:
        pixel = 0.1
        for name in ("lato-bold", "archivo-black"):
            for text in "B8@":
                ink, scale, outline = letter(shipped_face(name), text)
                left = polygons_of(bridged(ink, letter_bridges(outline, scale, 1.5)))
                shapely.prepare(left)
                x0, y0, x1, y1 = sheet_round(ink, 3.0).bounds
                grid = np.meshgrid(np.arange(x0, x1, pixel), np.arange(y0, y1, pixel))
                sheet = ~shapely.contains_xy(left, *grid)
                _, before = label(~shapely.contains_xy(polygons_of(ink), *grid))
                _, after = label(sheet)
                with self.subTest(name, letter=text):
                    self.assertGreater(before, 1)
                    self.assertEqual(after, 1)

    def test_bridges_are_as_wide_as_asked_and_hold_all_that_would_fall(self) -> None:
        ink, scale, outline = letter(shipped_face("lato-bold"), "B")
        found = letter_bridges(outline, scale, 1.5)
        left = bridged(ink, found)
        self.assertEqual(fall_of(left, 1.4, sheet_round(ink, 6.0)).islands, [])
        self.assertGreater(len(fall_of(ink, 1.4, sheet_round(ink, 6.0)).islands), 0)
        for bridge in found:
            self.assertAlmostEqual(bridge.region().area, 1.5 * bridge.length, places=6)

    def test_what_a_bridge_holds_is_not_tied_again_however_the_letter_stands(self) -> None:
        """A bridge is a neck just as wide as what holds."""
        for text in ("DODQRAB", "QUILLMERE ORCHARD AND OLD PEARS"):
            bridges = _bridges(text, guide="ring")
            self.assertEqual(len(bridges), sum(len(_bridges(letter)) for letter in text))

    def test_what_several_letters_enclose_is_tied_too(self) -> None:
        ring = Region.disc(np.zeros(2), 40.0).minus(Region.disc(np.zeros(2), 34.0))
        dot = Region.disc(np.zeros(2), 6.0)
        ink = Region.joined([ring, dot])
        found = bridges_of(ink, 2.0)
        left = bridged(ink, tuple(found))
        self.assertEqual(fall_of(left, 1.9, sheet_round(ink, 6.0)).islands, [])


class Places(unittest.TestCase):
    def test_an_o_is_tied_upright_above_and_below(self) -> None:
        for name, face in outline_faces():
            if face.shape("O").missing or face.metrics.cap_height == 0 or name in (
                "kaushan-script", "dancing-script-bold"
            ):  # fmt: skip
                continue
            _, scale, outline = letter(face, "O")
            with self.subTest(name):
                found = letter_bridges(outline, scale, 2.0)
                self.assertEqual(len(found), 2)
                for bridge in found:
                    (bx, by), (ex, ey) = bridge.begin, bridge.end
                    upright = abs(math.degrees(math.atan2(ey - by, ex - bx))) % 180.0
                    self.assertAlmostEqual(upright, 90.0, delta=1e-6)
                self.assertLess(abs(found[0].middle[0] - found[1].middle[0]), 2.0)

    def test_the_same_letter_has_the_same_bridges_wherever_it_stands(self) -> None:
        """Taken back to the letter's own frame by the inverse of how it stands."""
        layout = board("ROQRORR", {"bridges": {"width": 1}}, guide="ring")
        (setting,) = layout.settings
        found: dict[str, list[np.ndarray]] = {}
        bridges = prepared(layout).layer_of("words").bridges
        for index, cluster in enumerate(setting.clusters):
            stands = np.vstack([setting.matrices[index], [0, 0, 1]])
            ends = [(*p, 1.0) for b in bridges if b.letter == index for p in (b.begin, b.end)]
            own = (np.linalg.inv(stands) @ np.array(ends).T)[:2].T
            found.setdefault(cluster.text, []).append(own * setting.scale)
        self.assertEqual(
            {text: len(them) for text, them in found.items()}, {"R": 4, "O": 2, "Q": 1}
        )
        for them in found.values():
            self.assertGreater(len(them[0]), 0)
            for other in them[1:]:
                np.testing.assert_allclose(other, them[0], atol=1e-9)

    def test_one_taken_away_by_hand_is_gone_and_the_other_stays(self) -> None:
        _, scale, outline = letter(shipped_face("lato-bold"), "O")
        both = letter_bridges(outline, scale, 2.0)
        one = letter_bridges(outline, scale, 2.0, (BridgeChange(letter=0, bridge=0, removed=True),))
        self.assertEqual([b.number for b in one], [1])
        self.assertEqual(one[0].begin, both[1].begin)

    def test_pulled_toward_a_point_it_stands_there_however_the_letter_is_turned(self) -> None:
        _, scale, outline = letter(shipped_face("lato-bold"), "O")
        bridge = letter_bridges(outline, scale, 2.0)[0]
        for turn, flip in ((0.0, 1.0), (70.0, 1.0), (-130.0, -1.0)):
            cos, sin = math.cos(math.radians(turn)), math.sin(math.radians(turn))
            matrix = np.array([[cos, -sin * flip, 40.0], [sin, cos * flip, -7.0]])
            placed = bridge.moved(matrix)
            for angle in (0.0, 45.0, -120.0):
                local = np.array(bridge.about) + 9.0 * np.array(
                    [math.cos(math.radians(angle)), math.sin(math.radians(angle))]
                )
                x, y = (matrix[:, :2] @ local + matrix[:, 2]).tolist()
                self.assertAlmostEqual(
                    angle_toward((x, y), placed.about, placed.axes), angle, places=9
                )

    def test_one_moved_by_hand_stands_where_it_was_asked_for(self) -> None:
        _, scale, outline = letter(shipped_face("lato-bold"), "O")
        change = BridgeChange(letter=0, bridge=0, angle=0.0)
        moved = letter_bridges(outline, scale, 2.0, (change,))[0]
        self.assertLess(abs(moved.angle), 8.0)
        self.assertGreater(moved.end[0] - moved.begin[0], JOINT)

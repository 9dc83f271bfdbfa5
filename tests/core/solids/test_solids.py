"""Parts: volumes by closed forms, meshes by trimesh, developments by geodesics."""

from __future__ import annotations

import math
import unittest
from typing import Any

import numpy as np
import trimesh
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.makings import document, done, workpiece
from ulvent.core.base.arrays import Floats
from ulvent.core.base.errors import PieceError
from ulvent.core.guides.round_blanks import BandBlank, SideBlank
from ulvent.core.layout.measure import measure
from ulvent.core.shapes import Region
from ulvent.core.solids import MadeSolid, Mesh, ring_sizes
from ulvent.core.solids.prisms import profile, walled
from ulvent.core.solids.ring_sizes import inner_of
from ulvent.core.solids.surface import RoundFace, stretches
from ulvent.core.workshop import Workpiece

CLOSE = 5e-4
"""The share by which a volume may be off its closed form: 0.05 %."""
WORDS = {"id": "w", "guide": "g", "text": "ROUND AND ROUND • ", "face": "lato-bold", "height": 3.0,
         "spacing": "even", "fit": {"kind": "gap"}}  # fmt: skip
BELT = {"id": "g", "kind": "belt", "girth": 1.0}
CYLINDER = {"kind": "side", "diameter": 60, "height": 30}
CONE = {"kind": "side", "diameter": 60, "top": 40, "height": 30}
FLARED = {"kind": "side", "diameter": 40, "top": 60, "height": 30}
BAND = {"kind": "band", "inner": 18, "width": 8, "thickness": 1.8}
CROWNED = {**BAND, "back_width": 5, "crown": 12}
UNEVEN = {**BAND, "thickness": 2.4, "back_thickness": 1.4}
SIGNET = {"kind": "signet", "head_width": 14, "head_height": 12, "inner": 18, "width": 8,
          "back_width": 4, "thickness": 2}  # fmt: skip


def part(blank: dict[str, Any], solid: dict[str, Any] | None = None, **more: Any) -> Workpiece:
    """A piece on a blank: words all round it, unless something else is said."""
    made: dict[str, Any] = {"guides": [BELT], "letterings": [WORDS], **more}
    return workpiece(document(blank=blank, solid=solid, **made))


def bare(blank: dict[str, Any], solid: dict[str, Any] | None = None) -> MadeSolid:
    return workpiece(document(blank=blank, solid=solid, guides=[], letterings=[])).solid


def witness(mesh: Mesh) -> trimesh.Trimesh:
    return trimesh.Trimesh(mesh.vertices, mesh.triangles, process=False)


class Volumes(unittest.TestCase):
    def assert_volume(self, solid: MadeSolid, wanted: float) -> None:
        self.assertLess(abs(solid.volume / wanted - 1.0), CLOSE)

    def test_bodies_by_their_closed_forms(self) -> None:
        self.assert_volume(bare({"kind": "disc", "diameter": 200}), math.pi * 100**2 * 3.0)
        self.assert_volume(bare(CYLINDER), math.pi * 30**2 * 30.0)
        tube = bare(CYLINDER, {"bore": 50.0})
        self.assert_volume(tube, math.pi * (30**2 - 25**2) * 30.0)
        frustum = math.pi * 30.0 / 3.0 * (30**2 + 30 * 20 + 20**2)
        self.assert_volume(bare(CONE), frustum)
        self.assert_volume(bare(FLARED), frustum)
        self.assert_volume(bare(BAND), math.pi * (10.8**2 - 9.0**2) * 8.0)

    def test_a_bevelled_cylinder_loses_two_rings_of_a_triangle(self) -> None:
        """Pappus: the area of the triangle times the way of its middle."""
        solid = bare(CYLINDER, {"edge": "bevelled", "edge_size": 2.0})
        ring = 2.0 * 2.0 / 2.0 * 2.0 * math.pi * (30.0 - 2.0 / 3.0)
        self.assert_volume(solid, math.pi * 30**2 * 30.0 - 2.0 * ring)

    def test_a_rounded_cylinder_loses_what_lies_outside_of_quarter_circles(self) -> None:
        """Pappus again: a square less a quarter disc, whose middle lies r(10 − 3π)/(12 − 3π) from
        the sides that touch the circle (standard result)."""
        r, out = 2.0, (10.0 - 3.0 * math.pi) / (12.0 - 3.0 * math.pi)
        ring = r * r * (1.0 - math.pi / 4.0) * 2.0 * math.pi * (30.0 - r + r * out)
        solid = bare(CYLINDER, {"edge": "rounded", "edge_size": r})
        self.assert_volume(solid, math.pi * 30**2 * 30.0 - 2.0 * ring)

    def test_lettering_on_a_plate_is_its_area_times_its_height(self) -> None:
        """With counters; on a dial of 200 mm with figures of 15 mm raised by 2 mm (common
        practice, no source)."""
        words = {"id": "w", "guide": "g", "text": "0 5 10 15 20", "face": "lato-bold", "height": 15}
        ring = {"id": "g", "kind": "circle", "diameter": 150}
        for relief, sign in (("raised", 1.0), ("sunk", -1.0)):
            piece = part({"kind": "disc", "diameter": 200},
                         {"thickness": 4, "relief": {"relief": relief, "by": 2.0}},
                         guides=[ring], letterings=[words])  # fmt: skip
            ink = sum(layer.area.area for layer in piece.ready.layers)
            with self.subTest(relief):
                body = math.pi * 100**2 * 4.0
                self.assertAlmostEqual(
                    piece.solid.volume - body, sign * 2.0 * ink, delta=CLOSE * 2.0 * ink + 7.0
                )
                self.assertEqual(piece.solid.box[1][2], 6.0 if relief == "raised" else 4.0)


class Walls(unittest.TestCase):
    SQUARE = Region.box((0.0, 0.0, 10.0, 10.0))

    def test_walls_that_lean_make_a_frustum(self) -> None:
        """V = h/3 · (A + √(A·B) + B)."""
        inset = 2.0 * math.tan(math.radians(20.0))
        solid = walled(self.SQUARE, 0.0, profile(2.0, 20.0), 0.01)
        a, b = 100.0, (10.0 - 2.0 * inset) ** 2
        self.assertAlmostEqual(solid.volume(), 2.0 / 3.0 * (a + math.sqrt(a * b) + b), places=6)

    def test_walls_that_meet_make_a_roof(self) -> None:
        """A bar so narrow that its walls meet before they are at their height: a hipped roof,
        V = w²/4·tan · (l − w/3), on what stands below it."""
        bar = Region.box((0.0, 0.0, 30.0, 2.0))
        solid = walled(bar, -1.0, profile(5.0, 45.0), 0.01)
        roof = 2.0**2 / 4.0 * (30.0 - 2.0 / 3.0)
        self.assertAlmostEqual(solid.volume(), 60.0 + roof, delta=0.02 * roof)
        self.assertAlmostEqual(solid.bounding_box()[5], 1.0, delta=0.01)

    def test_a_groove_is_as_deep_as_the_circle_that_fits_in_says(self) -> None:
        """A pointed cutter of 60° in a disc of radius 3: r / tan 30° deep, a cone."""
        disc = Region.disc(np.zeros(2), 6.0)
        solid = walled(disc, -0.1, profile(20.0, 30.0), 0.01)
        deep = 3.0 / math.tan(math.radians(30.0))
        self.assertAlmostEqual(solid.bounding_box()[5], deep, delta=0.02)
        cone = math.pi * 9.0 * deep / 3.0
        self.assertAlmostEqual(solid.volume() - disc.area * 0.1, cone, delta=0.01 * cone)

    def test_a_rounded_edge_keeps_within_its_tolerance(self) -> None:
        heights = profile(3.0, edge="rounded", size=1.0, off=0.01)
        for z, inset in heights[1:]:
            self.assertAlmostEqual(math.hypot(1.0 - inset, z - 2.0) if z > 2.0 else 1.0, 1.0)
        self.assertLess(len(heights), 16)


class Meshes(unittest.TestCase):
    def test_all_bodies_and_reliefs_are_closed_and_of_one_piece(self) -> None:
        ring = {"id": "c", "kind": "circle", "diameter": 8}
        for blank in (CYLINDER, CONE, FLARED, BAND, CROWNED, UNEVEN, SIGNET):
            for relief in (
                {"relief": "raised", "by": 0.5, "edge": "rounded", "edge_size": 0.1},
                {"relief": "sunk", "by": 0.5, "draft": 8},
                {"relief": "grooved", "by": 0.8},
            ):
                solid = {"bore": 20} if blank["kind"] == "side" else {}
                on = BELT if blank is not SIGNET else ring
                words = {**WORDS, "guide": on["id"], "height": 1.6 if blank is SIGNET else 3.0}
                made = part(blank, {**solid, "relief": relief}, guides=[on], letterings=[words])
                with self.subTest(blank=blank, relief=relief["relief"]):
                    (mesh,) = made.solid.meshes
                    seen = witness(mesh)
                    self.assertTrue(seen.is_watertight and seen.is_winding_consistent)
                    self.assertEqual(seen.body_count, 1)
                    self.assertAlmostEqual(seen.volume, made.solid.volume, places=6)
                    body = bare(blank, solid).volume
                    self.assertGreater((seen.volume - body) * (1 if relief["relief"] == "raised"
                                                               else -1), 0.0)  # fmt: skip

    def test_letters_cut_through_leave_their_counters_lying(self) -> None:
        words = {"id": "w", "guide": "g", "text": "O", "face": "lato-bold", "height": 20}
        line = {"id": "g", "kind": "line", "length": 40}
        plate = {"kind": "rectangle", "width": 60, "height": 60}
        through = {"relief": {"relief": "through"}}
        made = part(plate, through, guides=[line], letterings=[words])
        names = [mesh.name for mesh in made.solid.meshes]
        self.assertEqual(names, ["Barrel head", "Barrel head, part 2"])

    def test_lettering_apart_fills_what_is_sunk(self) -> None:
        made = part(BAND, {"apart": True, "relief": {"relief": "sunk", "by": 0.5}}).solid
        body, letters = made.meshes
        whole = bare(BAND).volume
        self.assertNotEqual(body.colour, letters.colour)
        self.assertAlmostEqual(body.volume + letters.volume, whole, delta=2e-3 * whole)

    def test_a_casting_is_larger_by_what_it_shrinks(self) -> None:
        plain, grown = bare(BAND).volume, bare(BAND, {"shrinkage": 2.0}).volume
        self.assertAlmostEqual(grown / plain, 1.0 / 0.98**3, places=6)


class Developments(unittest.TestCase):
    """Ways on the flat side are as long as the shortest ways on the part."""

    def on_part(self, face: RoundFace, flat: Floats) -> Floats:
        return face.carried(np.concatenate([flat, np.zeros((len(flat), 1))], axis=1))

    def assert_isometric(self, face: RoundFace, reach: float, high: float) -> None:
        random = np.random.default_rng(7)
        begins = random.uniform((-reach, -high), (reach, high), (200, 2))
        ends = random.uniform((-reach, -high), (reach, high), (200, 2))
        shares = np.linspace(0.0, 1.0, 4001)[:, None]
        for begin, end in zip(begins, ends, strict=True):
            way = self.on_part(face, begin + shares * (end - begin))
            long = float(np.sqrt((np.diff(way, axis=0) ** 2).sum(axis=1)).sum())
            flat = math.dist(begin, end)
            self.assertLess(abs(long - flat), 1e-6 * flat)

    def test_a_cylinder_and_cones_keep_every_length(self) -> None:
        for blank in (CYLINDER, CONE, FLARED):
            side = SideBlank.model_validate(blank).round_side
            with self.subTest(blank):
                self.assert_isometric(RoundFace(side, 0.0), 40.0, 12.0)

    def test_a_cone_by_the_law_of_cosines_in_its_sector(self) -> None:
        """The shortest way between two points of a cone, by their distances from the apex and the
        angle between them in the sector, 2π·sin β for a whole turn (standard result)."""
        side = SideBlank.model_validate(CONE).round_side
        face, sine = RoundFace(side, 0.0), side.slope
        flat = np.random.default_rng(3).uniform((-30.0, -10.0), (30.0, 10.0), (200, 2))
        x, y, z = self.on_part(face, flat).T
        # z of the lower edge is −15 here: the axis height of the middle is 0.
        apex = 25.0 / sine
        far = np.hypot(x, y) / sine
        turn = np.arctan2(x, -y) * sine
        np.testing.assert_allclose(np.hypot(x, y), 25.0 - z * 10.0 / 30.0, atol=1e-9)
        ways = np.sqrt(
            far[:100] ** 2 + far[100:] ** 2
            - 2.0 * far[:100] * far[100:] * np.cos(turn[:100] - turn[100:])
        )  # fmt: skip
        np.testing.assert_allclose(ways, np.hypot(*(flat[:100] - flat[100:]).T), atol=1e-9)
        self.assertAlmostEqual(apex, math.hypot(25.0, 25.0 * 3.0), places=9)

    def test_a_band_that_is_thicker_at_the_front_is_not_stretched(self) -> None:
        side = BandBlank.model_validate(UNEVEN).round_side
        points = np.random.default_rng(5).uniform((-30.0, -3.0), (30.0, 3.0), (300, 2))
        found = stretches(RoundFace(side, 0.0), points)
        self.assertLess(np.abs(found - 1.0).max(), 2e-3)

    def test_a_crowned_band_is_true_on_the_letters_own_line(self) -> None:
        """`0.991 to 1.001` on a crown of 12 mm was measured before, with letters of 3 mm."""
        side = BandBlank.model_validate(CROWNED).round_side
        face = RoundFace(side, -1.0)
        line = np.stack([np.linspace(-20, 20, 50), np.full(50, -1.0)], axis=1)
        np.testing.assert_allclose(stretches(face, line), 1.0, atol=1e-6)
        head = line + (0.0, 3.0)
        self.assertLess(np.abs(stretches(face, head) - 1.0).max(), 0.02)

    def test_what_remains_of_stretch_is_said_of_each_letter(self) -> None:
        said = part(CROWNED).solid.stretched
        self.assertEqual(len(said), len([one for one in WORDS["text"] if one != " "]))
        # The head of a capital, 3 mm up a crown of 12 mm, has fallen back by 12 · (1 − cos 1/4).
        most = 12.0 * (1.0 - math.cos(3.0 / 12.0)) / 10.8
        self.assertAlmostEqual(-min(one.narrower for one in said), most, delta=0.002)
        self.assertEqual({one.at for one in said if one.letter == "D"}, {"head"})
        self.assertEqual(part(CYLINDER).solid.stretched, ())

    def test_letters_on_the_mesh_are_as_wide_and_high_as_set(self) -> None:
        """A ring of 25.305 mm with lettering raised by 1 mm (common practice, no source): on its
        face, an H is as high as typed, and as wide, measured along the outside."""
        band = {"kind": "band", "inner": 25.305, "width": 10, "thickness": 2}
        word = {"id": "w", "guide": "g", "text": "H", "face": "lato-bold", "height": 5.0,
                "at": 0.5, "at_in": "share", "align": "centre"}  # fmt: skip
        made = part(band, {"apart": True, "tolerance": 0.005}, letterings=[word])
        letters = made.solid.meshes[1].vertices
        radius = 25.305 / 2.0 + 2.0
        np.testing.assert_allclose(np.hypot(*letters[:, :2].T).max(), radius + 1.0, atol=0.01)
        foot = letters[np.hypot(*letters[:, :2].T) < radius + 0.01]
        self.assertAlmostEqual(np.ptp(foot[:, 2]), 5.0, delta=0.01)
        angles = np.arctan2(foot[:, 0], -foot[:, 1])
        box = made.ready.layers[0].area.bounds
        self.assertAlmostEqual(np.ptp(angles) * radius, box[2] - box[0], delta=0.02)


class RoundTheSeam(unittest.TestCase):
    def test_letters_stand_as_far_apart_over_the_seam_as_elsewhere(self) -> None:
        for blank in (CYLINDER, CONE, FLARED, CROWNED):
            words = {**WORDS, "text": "OOOOOOO"}
            found = measure(part(blank, letterings=[words]).layout)
            stations = [one.station for one in found.letterings[0].clusters]
            pitch = found.guides[0].length / 7.0
            with self.subTest(blank):
                self.assertTrue(found.guides[0].closed)
                np.testing.assert_allclose(np.diff(stations), pitch, atol=1e-6)

    def test_the_guide_is_as_long_as_the_part_is_round_there(self) -> None:
        for level in (-4.0, 0.0, 5.0):
            belt = {**BELT, "centre": [0, level]}
            found = measure(part(CONE, guides=[belt], letterings=[]).layout)
            slant = math.hypot(30.0, 10.0)
            wanted = 2.0 * math.pi * (25.0 - level * 10.0 / slant)
            self.assertAlmostEqual(found.guides[0].length, wanted, places=9)

    def test_words_across_the_seam_do_not_leave_the_blank(self) -> None:
        words = {**WORDS, "fit": None, "at": 0.0, "align": "centre", "text": "SEAM"}
        kinds = [one.kind for one in part(BAND, letterings=[words]).proof.findings]
        self.assertNotIn("outside-blank", kinds)
        self.assertNotIn("leaving-blank", kinds)
        high = {**words, "height": 9.0}
        kinds = [one.kind for one in part(BAND, letterings=[high]).proof.findings]
        self.assertIn("outside-blank", kinds)

    @settings(deadline=None, max_examples=40)
    @given(st.floats(20.0, 400.0), st.floats(-40.0, 40.0), st.floats(-3.0, 3.0))
    def test_each_lap_is_the_one_before_carried_on(
        self, girth: float, lean: float, laps: float
    ) -> None:
        belt = {"id": "g", "kind": "belt", "girth": girth, "lean": lean, "centre": [3, 4],
                "turned": 20}  # fmt: skip
        piece = workpiece(document(blank=None, guides=[belt], letterings=[]))
        curve = piece.layout.guides[0].curve
        ends = curve.frames(np.array([-1e-9, 0.0, girth * laps, girth * laps + 1e-6]))
        np.testing.assert_allclose(ends.points[0], ends.points[1], atol=1e-6)
        step = ends.points[3] - ends.points[2]
        np.testing.assert_allclose(step, 1e-6 * ends.tangents[2], atol=1e-7)


class Refused(unittest.TestCase):
    def assert_refused(self, field: str, work: Workpiece) -> None:
        with self.assertRaises(PieceError) as caught:
            _ = work.solid
        self.assertEqual(caught.exception.problems[0].field, field)

    def test_what_cannot_be_made_names_its_field(self) -> None:
        line = {"id": "g", "kind": "line", "length": 40}
        word = {**WORDS, "fit": None}
        self.assert_refused("blank", workpiece(document(blank=None)))
        self.assert_refused("solid.bore", part(CYLINDER, {"bore": 70}))
        self.assert_refused("solid.bore", part(CYLINDER, {"relief": {"relief": "through"}}))
        self.assert_refused("solid.relief.by", part(BAND, {"relief": {"relief": "sunk", "by": 2}}))
        self.assert_refused(
            "solid.rim",
            part({"kind": "disc", "diameter": 30}, {"rim": {"width": 20, "depth": 1}},
                 guides=[line], letterings=[word]),
        )  # fmt: skip
        wrong = {
            "solid.letterings[0].of": {"letterings": [{"of": "nobody"}]},
            "solid.relief.edge_size": {"relief": {"edge": "rounded", "edge_size": 2}},
        }
        for field, solid in wrong.items():
            with self.subTest(field), self.assertRaises(PieceError) as caught:
                part(BAND, solid)
            self.assertEqual(caught.exception.problems[0].field, field)


class RingSizes(unittest.TestCase):
    def test_iso_8653_is_the_inner_circumference_in_mm(self) -> None:
        for size in (41, 54, 60, 76):
            self.assertAlmostEqual(ring_sizes(size / math.pi).iso, size)

    def test_a_size_is_typed_and_said_again(self) -> None:
        for scale, size in (("iso", "52.5"), ("british", "M½"), ("american", "6.75")):
            sizes = ring_sizes(inner_of(scale, size))
            said = {"iso": f"{sizes.iso:g}", "british": sizes.british,
                    "american": f"{sizes.american:g}"}  # fmt: skip
            self.assertEqual(said[scale], size)
        self.assertAlmostEqual(inner_of("british", "m 1/2"), inner_of("british", "M.5"))
        for scale, size in (("iso", "five"), ("iso", "0"), ("british", "ß"), ("american", "99")):
            with self.assertRaises(PieceError) as caught:
                inner_of(scale, size)
            self.assertEqual(caught.exception.problems[0].field, "size")

    def test_a_ring_is_made_to_a_size_and_nothing_else_is(self) -> None:
        band = {"kind": "band", "inner": 20.0, "width": 6.0, "thickness": 2.0}
        act = {"act": "size-ring", "scale": "iso", "size": "54"}
        ring = done(workpiece(document(blank=band)).piece, **act).blank
        assert isinstance(ring, BandBlank)
        self.assertAlmostEqual(ring.inner, 17.1887, places=4)
        with self.assertRaises(PieceError) as caught:
            done(workpiece(document()).piece, **act)
        self.assertEqual(caught.exception.problems[0].field, "blank")

    def test_other_scales(self) -> None:
        """ISO 54 is about M½ or N and 6¾ or 7 (conversion tables, from memory)."""
        found = ring_sizes(54 / math.pi)
        self.assertIn(found.british, ("M½", "N"))
        self.assertIn(found.american, (6.75, 7.0))

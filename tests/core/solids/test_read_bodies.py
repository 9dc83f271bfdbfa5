"""Bodies that are read: their faces found, and lettering that stands on them.

Bodies are made by trimesh, an independent library, with sizes that are known; it reads and judges
what comes out too.
"""

from __future__ import annotations

import math
import unittest
from typing import Any

import numpy as np
import trimesh
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.makings import document
from ulvent.core.acts.scale_piece_act import ScalePiece
from ulvent.core.base.errors import PieceError
from ulvent.core.recipe.read_body import packed, unpacked
from ulvent.core.runs.run_choices import run_choices
from ulvent.core.solids.found_faces import FoundFace, found_faces
from ulvent.core.solids.triangles import Triangles
from ulvent.core.workshop import Workpiece, Workshop
from ulvent.shipped_faces import shipped_face

TOLERANCE = 0.01


def as_read(mesh: trimesh.Trimesh) -> Triangles:
    """As a file has it: in single precision."""
    vertices = np.asarray(mesh.vertices, dtype=np.float32).astype(float)
    return Triangles(vertices, np.asarray(mesh.faces))


def turned(mesh: trimesh.Trimesh, seed: int) -> trimesh.Trimesh:
    random = np.random.default_rng(seed)
    move = trimesh.transformations.random_rotation_matrix(random.random(3))
    move[:3, 3] = random.uniform(-80.0, 80.0, 3)
    mesh.apply_transform(move)
    return mesh


def lettered(
    mesh: trimesh.Trimesh, face: FoundFace, text: str, relief: dict[str, Any], beside: float = 0.0
) -> Workpiece:
    read = as_read(mesh)
    blank = face.blank.model_dump(mode="json")
    body = {
        "name": "part.stl", "face": blank, "mesh": packed(read.vertices, read.triangles),
        "frame": face.frame.ravel().tolist(), "depth": face.depth, "sag": face.sag,
    }  # fmt: skip
    guide = (
        {"id": "g", "kind": "line", "length": 50, "centre": [beside, 0]}
        if face.kind == "flat"
        else {"id": "g", "kind": "belt", "girth": 100, "centre": [0, 0]}
    )
    lettering = {"id": "t", "guide": "g", "face": "lato-bold", "height": 6, "text": text}
    solid = {"body": body, "relief": relief}
    return Workshop(shipped_face).of_document(
        document(blank=blank, guides=[guide], letterings=[lettering], solid=solid)
    )


def as_mesh(work: Workpiece) -> trimesh.Trimesh:
    (one,) = work.solid.meshes
    return trimesh.Trimesh(one.vertices, one.triangles)


class Faces(unittest.TestCase):
    @settings(max_examples=25)
    @given(
        st.integers(0, 10_000), st.integers(8, 240), st.floats(2.0, 60.0), st.floats(3.0, 80.0),
        st.floats(0.3, 1.0),
    )  # fmt: skip
    def test_the_side_of_any_cylinder_or_cone_is_found_however_it_lies(
        self, seed: int, sides: int, radius: float, height: float, narrower: float
    ) -> None:
        narrower = 1.0 if narrower > 0.95 else narrower
        # A cone that is nearly a disc is not looked for.
        assume(radius * (1.0 - narrower) < 1.5 * height)
        outline = [[0, 0], [radius, 0], [radius * narrower, height], [0, height]]
        body = turned(trimesh.creation.revolve(outline, sections=sides), seed)
        face = next(one for one in found_faces(as_read(body)) if one.kind != "flat")
        self.assertEqual(face.kind, "cylinder" if narrower == 1.0 else "cone")
        self.assertEqual(face.around, 360.0)
        blank = face.blank.model_dump()
        low, high = sorted((blank["diameter"], blank["top"] or blank["diameter"]))
        self.assertAlmostEqual(low, 2.0 * radius * narrower, delta=0.02)
        self.assertAlmostEqual(high, 2.0 * radius, delta=0.02)
        self.assertAlmostEqual(blank["height"], height, delta=0.02)
        # Laid out, its corners stand on the side, from 0 to its height.
        corners = body.vertices @ face.frame[:, :3].T + face.frame[:, 3]
        radii = np.hypot(corners[:, 0], corners[:, 1])
        edge = radii > 0.2 * radius
        share = corners[edge, 2] / height
        meant = (
            blank["diameter"] + ((blank["top"] or blank["diameter"]) - blank["diameter"]) * share
        ) / 2
        self.assertLess(np.abs(radii[edge] - meant).max(), 0.03)
        # A chord's rise over its arc, r (1 − cos π/n).
        rise = radius * (1.0 - math.cos(math.pi / sides))
        self.assertLessEqual(face.sag, rise + 0.02)

    def test_flat_faces_are_those_of_a_box_and_discs_and_rings_are_told(self) -> None:
        box = turned(trimesh.creation.box((40, 30, 5)), 3)
        faces = found_faces(as_read(box))
        self.assertEqual([round(face.area) for face in faces], [1200, 1200, 200, 200, 150, 150])
        self.assertEqual([round(face.depth) for face in faces], [5, 5, 30, 30, 40, 40])
        tube = turned(trimesh.creation.annulus(16, 20, 30, sections=96), 4)
        kinds = {face.kind: face for face in found_faces(as_read(tube))}
        self.assertEqual(
            kinds["flat"].blank.model_dump(), {"kind": "ring", "outer": 40, "inner": 32}
        )
        # The bore is no face to letter on.
        self.assertEqual(sum(face.kind == "cylinder" for face in found_faces(as_read(tube))), 1)
        self.assertAlmostEqual(kinds["cylinder"].depth, 4.0, delta=0.05)

    def test_what_bends_both_ways_is_not_offered(self) -> None:
        for ball in (trimesh.creation.icosphere(3, 20), trimesh.creation.uv_sphere(20)):
            self.assertEqual(found_faces(as_read(ball)), [])

    def test_a_side_of_so_many_strips_that_each_seems_flat_is_one(self) -> None:
        fine = trimesh.creation.cylinder(40, 90, sections=4800)
        self.assertEqual(found_faces(as_read(fine))[0].blank.model_dump()["diameter"], 80.0)

    def test_a_cone_that_ends_in_a_point_is_lettered_on_short_of_it(self) -> None:
        for seed in (1, 2, 3):
            cone = turned(trimesh.creation.cone(20, 30, sections=64), seed)
            face = next(one for one in found_faces(as_read(cone)) if one.kind == "cone")
            blank = face.blank.model_dump()
            sizes = sorted((blank["diameter"], blank["top"]))
            np.testing.assert_allclose(sizes, (2.0, 40.0), atol=0.02)
            self.assertAlmostEqual(blank["height"], 28.5, delta=0.02)

    def test_half_a_cylinder_says_how_far_it_goes(self) -> None:
        whole = trimesh.creation.cylinder(20, 30, sections=96)
        half = whole.slice_plane((0, 0, 0), (0, 1, 0), cap=True, engine="manifold")
        face = next(one for one in found_faces(as_read(half)) if one.kind == "cylinder")
        self.assertAlmostEqual(face.around, 180.0, delta=0.5)


class Lettered(unittest.TestCase):
    def test_raised_and_sunk_letters_change_it_by_their_area_times_their_height(self) -> None:
        """On a flat face exactly, in closed form; the part lies where its file has it."""
        box = turned(trimesh.creation.box((60, 20, 5)), 8)
        face = found_faces(as_read(box))[0]
        for relief, sign in (
            ({"relief": "raised", "by": 1.5}, 1),
            ({"relief": "sunk", "by": 1.5}, -1),
        ):
            work = lettered(box, face, "ORCHARD", relief)
            made = as_mesh(work)
            self.assertTrue(made.is_watertight and made.is_winding_consistent)
            area = sum(cutout.area.area for layer in work.ready.layers for cutout in layer.cutouts)
            self.assertAlmostEqual(sign * (made.volume - box.volume), area * 1.5, delta=2e-3 * area)
            if sign < 0:
                np.testing.assert_allclose(made.bounds, box.bounds, atol=1e-4)

    def test_letters_round_a_coarse_cylinder_are_one_with_it(self) -> None:
        """Its facets lie within the side by up to 0.38 mm: the letters reach down to them."""
        part = turned(trimesh.creation.cylinder(20, 30, sections=16), 5)
        face = next(one for one in found_faces(as_read(part)) if one.kind == "cylinder")
        self.assertAlmostEqual(face.sag, 20.0 * (1.0 - math.cos(math.pi / 16)), delta=0.01)
        made = as_mesh(lettered(part, face, "QUILLMERE PEARS", {"relief": "raised", "by": 1}))
        self.assertTrue(made.is_watertight)
        self.assertEqual(len(made.split()), 1)
        away = trimesh.transformations.inverse_matrix(np.vstack([face.frame, [0, 0, 0, 1]]))
        axis, at = away[:3, 2], away[:3, 3]
        off = np.cross(made.vertices - at, axis)
        self.assertAlmostEqual(np.linalg.norm(off, axis=1).max(), 21.0, delta=TOLERANCE)

    def test_letters_over_an_edge_or_out_at_the_back_are_faults(self) -> None:
        box = trimesh.creation.box((60, 20, 5))
        face = found_faces(as_read(box))[0]
        wide = lettered(box, face, "ORCHARD", {"relief": "raised", "by": 1}, beside=30.0)
        self.assertIn("astray", {one.kind for one in wide.proof.findings})
        well = lettered(box, face, "PEARS", {"relief": "raised", "by": 1})
        self.assertNotIn("astray", {one.kind for one in well.proof.findings})
        pocket = trimesh.creation.box((50, 10, 4))
        pocket.apply_translation((0, 0, -1))
        thin = box.difference(pocket, engine="manifold")
        face = next(one for one in found_faces(as_read(thin)) if one.frame[2, 2] > 0.9)
        for by, leaves in ((1.2, False), (2.0, True)):
            deep = lettered(thin, face, "PEARS", {"relief": "sunk", "by": by})
            self.assertEqual("astray" in {one.kind for one in deep.proof.findings}, leaves)

    def test_another_blank_than_its_face_is_refused_by_name(self) -> None:
        box = trimesh.creation.box((60, 20, 5))
        work = lettered(box, found_faces(as_read(box))[0], "PEARS", {})
        other = work.piece.model_copy(update={"blank": None})
        with self.assertRaises(PieceError) as caught:
            _ = Workshop(shipped_face).of(other).solid
        self.assertEqual(caught.exception.problems[0].field, "blank")

    def test_what_is_there_already_is_carved_and_not_cut_out(self) -> None:
        """And it is as thick as it is, whatever a plate would be."""
        plank = trimesh.creation.box((60, 20, 8))
        work = lettered(plank, found_faces(as_read(plank))[0], "PEARS", {"relief": "sunk", "by": 5})
        piece = work.piece.model_copy(update={"edge": "cut"})
        work = Workshop(shipped_face).of(piece)
        choice = next(one for one in run_choices(work.piece, work.groups) if one.name == "carve")
        self.assertEqual([one.tool for one in choice.sheet.passes], ["flat-bit"])
        for depth, kinds in ((5.0, set()), (9.0, {"too-deep"})):
            deep = choice.sheet.passes[0].model_copy(update={"depth": depth})
            sheet = choice.sheet.model_copy(update={"passes": (deep,)})
            run = Workshop(shipped_face).of(piece.model_copy(update={"run": sheet}))
            found = {one.kind for one in run.proof.findings if one.kind == "too-deep"}
            self.assertEqual(found, kinds)

    def test_a_piece_on_it_is_not_scaled_away_from_it(self) -> None:
        box = trimesh.creation.box((60, 20, 5))
        piece = lettered(box, found_faces(as_read(box))[0], "PEARS", {}).piece
        act = ScalePiece(act="scale-piece", to=50.0)
        with self.assertRaises(PieceError) as caught:
            act.perform(piece, shipped_face)
        self.assertEqual(caught.exception.problems[0].field, "solid.body")


class Packed(unittest.TestCase):
    def test_triangles_come_back_as_they_were(self) -> None:
        body = as_read(trimesh.creation.icosphere(2, 7.3))
        vertices, triangles = unpacked(packed(body.vertices, body.triangles))
        np.testing.assert_array_equal(vertices, body.vertices)
        np.testing.assert_array_equal(triangles, body.triangles)

    def test_any_other_text_is_refused_by_the_field(self) -> None:
        box = trimesh.creation.box((60, 20, 5))
        face = found_faces(as_read(box))[0]
        good = lettered(box, face, "PEARS", {}).piece.model_dump(mode="json")
        for text in ("AAAA", "not base64!", good["solid"]["body"]["mesh"][:-40], "eJw="):
            bad = good | {"solid": good["solid"] | {"body": good["solid"]["body"] | {"mesh": text}}}
            with self.assertRaises(PieceError) as caught:
                Workshop(shipped_face).of_document(bad)
            self.assertEqual(caught.exception.problems[0].field, "solid.body.mesh")
        flipped = list(good["solid"]["body"]["frame"])
        flipped[0] *= -1.0
        bad = good | {"solid": good["solid"] | {"body": good["solid"]["body"] | {"frame": flipped}}}
        with self.assertRaises(PieceError) as caught:
            Workshop(shipped_face).of_document(bad)
        self.assertEqual(caught.exception.problems[0].field, "solid.body.frame")

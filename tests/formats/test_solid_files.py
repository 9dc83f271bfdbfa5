"""Files of parts, read back by trimesh, ezdxf and pypdf, and STEP by the CAD kernel itself."""

from __future__ import annotations

import io
import json
import math
import os
import subprocess
import sys
import tempfile
import unittest
import zipfile
from dataclasses import replace
from pathlib import Path
from typing import Any
from unittest.mock import patch

import manifold3d
import numpy as np
import trimesh
from defusedxml import ElementTree
from scipy.spatial import cKDTree

from tests.makings import document, workpiece
from ulvent.core.base.errors import PieceError, UlventError
from ulvent.core.solids.mesh import Mesh
from ulvent.core.workshop import Workpiece
from ulvent.formats.mesh_writing import stl
from ulvent.formats.solid_out import SOLID_FORMATS
from ulvent.formats.solid_picture import SIDES, solid_picture

_CORE = "{http://schemas.microsoft.com/3dmanufacturing/core/2015/02}"
_MASS = """
import json, sys
from OCP.STEPControl import STEPControl_Reader
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepGProp import BRepGProp
from OCP.GProp import GProp_GProps
reader = STEPControl_Reader(); reader.ReadFile(sys.argv[1]); reader.TransferRoots()
shape = reader.OneShape()
volume, area = GProp_GProps(), GProp_GProps()
BRepGProp.VolumeProperties_s(shape, volume); BRepGProp.SurfaceProperties_s(shape, area)
print(json.dumps([BRepCheck_Analyzer(shape).IsValid(), volume.Mass(), area.Mass()]))
"""
BELT = {"id": "g", "kind": "belt", "girth": 1.0}
RING = {"id": "g", "kind": "circle", "diameter": 60}
WORDS = {"id": "w", "guide": "g", "text": "QUILLMERE", "face": "lato-bold", "height": 5.0,
         "spacing": "even"}  # fmt: skip


def plate(solid: dict[str, Any] | None = None, text: str = "QUILLMERE") -> Workpiece:
    words = {**WORDS, "text": text, "height": 8.0}
    blank = {"kind": "disc", "diameter": 90}
    return workpiece(document(blank=blank, guides=[RING], letterings=[words], solid=solid))


def tube(text: str = "QU", **blank: Any) -> Workpiece:
    side = {"kind": "side", "diameter": 40, "height": 20, **blank}
    words = {**WORDS, "text": text}
    return workpiece(document(blank=side, guides=[BELT], letterings=[words], solid={"bore": 10}))


def loaded(name: str, data: bytes) -> trimesh.Trimesh:
    found = trimesh.load(io.BytesIO(data), file_type=name)
    mesh = found.to_mesh() if isinstance(found, trimesh.Scene) else found
    mesh.merge_vertices()
    return mesh


class Meshes(unittest.TestCase):
    def test_every_format_brings_the_same_part_back(self) -> None:
        for work in (plate(), tube("QUILLMERE", top=30)):
            for name, unit in (("stl", 1.0), ("3mf", 1.0), ("obj", 1.0), ("glb", 0.001)):
                mesh = loaded(name, SOLID_FORMATS[name].file(work))
                with self.subTest(name):
                    self.assertTrue(mesh.is_watertight and mesh.is_winding_consistent)
                    self.assertEqual(mesh.body_count, 1)
                    volume = work.solid.volume * unit**3
                    self.assertAlmostEqual(mesh.volume / volume, 1.0, delta=1e-5)

    def test_a_binary_stl_has_84_bytes_and_50_for_each_triangle(self) -> None:
        data = SOLID_FORMATS["stl"].file(plate())
        self.assertEqual(len(data), 84 + 50 * int.from_bytes(data[80:84], "little"))

    def test_corners_that_all_but_meet_stay_apart_in_stl(self) -> None:
        """Readers of STL make one what lies within a millionth of a mm, and holes by it."""
        side = math.sqrt(2.0) * 5e-10
        for at in (0.0, 40.0):
            cube = manifold3d.Manifold.cube((10.0, 10.0, 10.0)).translate((at, 0.0, 0.0))
            wedge = manifold3d.Manifold.cube((10.0, 10.0, 10.0)).rotate((0.0, 0.0, 45.0))
            both = cube + wedge.translate((at + 10.0 + side, 10.0 - side, 0.0))
            mesh = Mesh.of(both, "two that all but touch", "#808080")
            gaps = cKDTree(mesh.vertices).query_pairs(1e-8)
            self.assertEqual(len(gaps), 2)
            found = loaded("stl", stl(replace(plate().solid, meshes=(mesh,))))
            self.assertTrue(found.is_watertight and found.is_winding_consistent)
            self.assertEqual(len(found.vertices), len(mesh.vertices))

    def test_many_corners_in_one_place_stay_apart_in_stl(self) -> None:
        """Forty pyramids whose points lie within a hundred thousandth of a millionth."""
        turns = np.linspace(0.0, 6.0, 40)
        points = [
            corner
            for k, turn in enumerate(turns)
            for corner in (
                (16.6 + 1e-11 * k, -14.8, 8.1),
                *((20.0 * math.cos(turn + t), 20.0 * math.sin(turn + t), z)
                  for t, z in ((0.0, 20.0), (0.05, 20.0), (0.02, 21.0))),
            )
        ]  # fmt: skip
        sides = np.array([(0, 1, 2), (0, 2, 3), (0, 3, 1), (1, 3, 2)])
        triangles = np.concatenate([sides + 4 * k for k in range(40)])
        mesh = Mesh(np.array(points), triangles, "pyramids", "#808080")
        found = loaded("stl", stl(replace(plate().solid, meshes=(mesh,))))
        self.assertEqual((len(found.vertices), found.is_watertight), (160, True))

    def test_a_piece_that_says_nothing_is_a_plate_with_raised_lettering(self) -> None:
        mesh = loaded("stl", SOLID_FORMATS["stl"].file(plate()))
        self.assertEqual(mesh.bounds[:, 2].tolist(), [0.0, 4.0])
        self.assertTrue(3.0 in mesh.vertices[:, 2])

    def test_3mf_has_units_names_and_colours_of_each_part(self) -> None:
        data = SOLID_FORMATS["3mf"].file(plate({"apart": True}))
        with zipfile.ZipFile(io.BytesIO(data)) as package:
            self.assertIsNone(package.testzip())
            model = ElementTree.fromstring(package.read("3D/3dmodel.model"))
        self.assertEqual(model.get("unit"), "millimeter")
        objects = model.findall(f".//{_CORE}object")
        self.assertEqual([one.get("name") for one in objects],
                         ["Barrel head", "Barrel head, lettering"])  # fmt: skip
        bases = model.findall(f".//{_CORE}base")
        self.assertEqual(len({one.get("displaycolor") for one in bases}), 2)
        self.assertEqual({one.get("pindex") for one in objects}, {"0", "1"})

    def test_the_same_bytes_each_time(self) -> None:
        for name in ("stl", "3mf", "obj", "glb", "flat.svg"):
            with self.subTest(name):
                once, again = (SOLID_FORMATS[name].file(plate()) for _ in range(2))
                self.assertEqual(once, again)

    def test_pictures_from_all_sides(self) -> None:
        seen = {solid_picture(plate().solid, side, 200, 150) for side in SIDES}
        self.assertEqual(len(seen), len(SIDES))


class LaidFlat(unittest.TestCase):
    def test_the_side_of_a_cylinder_at_true_size(self) -> None:
        data = SOLID_FORMATS["flat.svg"].file(tube()).decode()
        root = ElementTree.fromstring(data)
        width = float(root.get("width").removesuffix("mm"))
        self.assertAlmostEqual(width, 40.0 * 3.14159265, delta=0.01)


class Step(unittest.TestCase):
    def mass(self, data: bytes) -> tuple[bool, float, float]:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "part.step"
            path.write_bytes(data)
            said = subprocess.run(
                [sys.executable, "-c", _MASS, str(path)], capture_output=True, check=True, text=True
            ).stdout
        valid, volume, area = json.loads(said.splitlines()[-1])
        return valid, volume, area

    def test_exact_parts_and_meshes_are_the_same_within_the_tolerance(self) -> None:
        """Two ways to one part: manifold's mesh, and the kernel's faces and curves."""
        rim = {"thickness": 4, "edge": "rounded", "edge_size": 1, "rim": {"width": 5, "depth": 1}}
        for name, work in (
            ("raised", plate(text="QU")), ("a rim", plate(rim, "QU")),
            ("sunk", plate({"relief": {"relief": "sunk"}}, "QU")), ("tube", tube()),
            ("cone", tube(top=30)),
        ):  # fmt: skip
            data = SOLID_FORMATS["step"].file(work)
            valid, volume, area = self.mass(data)
            with self.subTest(name):
                self.assertTrue(valid)
                self.assertLess(abs(work.solid.volume / volume - 1.0), 1e-3)
                self.assertLess(abs(work.solid.area / area - 1.0), 1e-2)
                self.assertEqual(data.count(b"MANIFOLD_SOLID_BREP("), 1)

    def test_curves_are_kept_as_curves(self) -> None:
        data = SOLID_FORMATS["step"].file(tube("Q"))
        for kind in (b"CYLINDRICAL_SURFACE(", b"B_SPLINE_CURVE", b"CIRCLE("):
            self.assertIn(kind, data)

    def test_what_is_made_as_a_mesh_only_says_so(self) -> None:
        leaning = plate({"relief": {"draft": 5}})
        with self.assertRaisesRegex(PieceError, "solid.relief.draft"):
            SOLID_FORMATS["step"].file(leaning)

    def test_without_the_extra_a_word_says_how_to_get_it(self) -> None:
        lacking = patch("ulvent.formats.step_writing.find_spec", return_value=None)
        with lacking, self.assertRaisesRegex(UlventError, "requirements-step.lock"):
            SOLID_FORMATS["step"].file(plate())

    def test_a_kernel_that_takes_too_long_is_stopped(self) -> None:
        hurried = patch("ulvent.formats.step_writing.SECONDS", 0.05)
        with hurried, self.assertRaisesRegex(UlventError, "took more than"):
            SOLID_FORMATS["step"].file(plate())


class FromTheShell(unittest.TestCase):
    def test_all_endings(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            piece = Path(folder) / "piece.ulvent.json"
            piece.write_text(json.dumps(document(letterings=[{**document()["letterings"][0],
                                                              "text": "QU"}])))  # fmt: skip
            for ending in ("stl", "3mf", "obj", "step", "flat.pdf"):
                out = Path(folder) / f"part.{ending}"
                ulvent = Path(sys.executable).with_name("ulvent")
                done = subprocess.run(
                    [ulvent, "export", piece, out], capture_output=True, text=True, check=False,
                    env=os.environ,
                )  # fmt: skip
                with self.subTest(ending):
                    self.assertEqual((done.returncode, done.stderr), (0, ""))
                    self.assertGreater(out.stat().st_size, 1000)

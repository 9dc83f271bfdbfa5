"""Bodies from STL and 3MF as trimesh writes them, and what is refused."""

from __future__ import annotations

import io
import unittest
import zipfile

import numpy as np
import trimesh

from ulvent.core.solids.triangles import closed
from ulvent.formats.body_reading import BodyFileError, read_body


def _file(mesh: trimesh.Trimesh | trimesh.Scene, kind: str) -> bytes:
    data = mesh.export(file_type=kind)
    return data if isinstance(data, bytes) else data.encode()


class Read(unittest.TestCase):
    def test_binary_and_plain_stl_and_3mf_hold_the_same_body(self) -> None:
        part = trimesh.creation.annulus(16, 20, 30, sections=64)
        for written, kind in (("stl", "stl"), ("stl_ascii", "stl"), ("3mf", "3mf")):
            with self.subTest(written):
                read = read_body(_file(part, written), kind)  # type: ignore[arg-type]
                again = trimesh.Trimesh(read.vertices, read.triangles)
                self.assertTrue(again.is_watertight)
                self.assertAlmostEqual(again.volume, part.volume, delta=1e-3 * part.volume)
                np.testing.assert_allclose(again.bounds, part.bounds, atol=1e-4)

    def test_units_are_the_files_or_what_is_said(self) -> None:
        """3MF core specification: `unit` of the model; STL has none."""
        box = trimesh.creation.box((2, 3, 4))
        plain = zipfile.ZipFile(io.BytesIO(_file(box, "3mf")))
        inches = io.BytesIO()
        with zipfile.ZipFile(inches, "w") as packed:
            for name in plain.namelist():
                text = plain.read(name)
                packed.writestr(name, text.replace(b'unit="millimeter"', b'unit="inch"'))
        size = np.ptp(read_body(inches.getvalue(), "3mf").vertices, axis=0)
        np.testing.assert_allclose(size, (50.8, 76.2, 101.6), atol=1e-4)
        size = np.ptp(read_body(_file(box, "stl"), "stl", "inch").vertices, axis=0)
        np.testing.assert_allclose(size, (50.8, 76.2, 101.6), atol=1e-4)
        size = np.ptp(read_body(inches.getvalue(), "3mf", "mm").vertices, axis=0)
        np.testing.assert_allclose(size, (2, 3, 4), atol=1e-4)

    def test_objects_of_a_3mf_that_overlap_become_one_body(self) -> None:
        one, two = trimesh.creation.box((10, 10, 10)), trimesh.creation.box((10, 10, 10))
        two.apply_translation((5, 0, 0))
        read = read_body(_file(trimesh.Scene([one, two]), "3mf"), "3mf")
        made = closed(read.vertices, read.triangles)
        assert made is not None
        self.assertAlmostEqual(made.volume(), 1500.0, places=3)

    def test_one_that_is_inside_out_is_turned(self) -> None:
        part = trimesh.creation.box((2, 3, 4))
        part.invert()
        read = read_body(_file(part, "stl"), "stl")
        self.assertAlmostEqual(trimesh.Trimesh(read.vertices, read.triangles).volume, 24.0)

    def test_triangles_that_say_nothing_are_left_out(self) -> None:
        part = trimesh.creation.box((20, 30, 5)).subdivide().subdivide().subdivide()
        self.assertEqual(len(read_body(_file(part, "stl"), "stl")), 12)


class Refused(unittest.TestCase):
    def test_each_says_why(self) -> None:
        hole = trimesh.creation.box((2, 3, 4))
        hole.update_faces(np.arange(1, len(hole.faces)))
        ball = trimesh.creation.icosphere(6, 40)
        far = trimesh.creation.box((1e7, 3, 4))
        whole = _file(trimesh.creation.box((2, 3, 4)), "stl")
        for data, kind, why in (
            (b"", "stl", "empty"),
            (b"PK\x03\x04 none", "3mf", "no file of the kind .3mf"),
            (b"solid of words\nendsolid\n", "stl", "no triangles"),
            (whole[:-20], "stl", "no triangles in the file, or it is cut short"),
            (_file(hole, "stl"), "stl", "3 edges have a hole beside them"),
            (_file(ball, "stl"), "stl", "20,000 can be lettered on"),
            (_file(far, "stl"), "stl", "farther out"),
        ):
            with self.subTest(why), self.assertRaisesRegex(BodyFileError, why):
                read_body(data, kind)  # type: ignore[arg-type]

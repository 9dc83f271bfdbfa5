"""Thread as lines, read back by svgelements, ezdxf, pypdf and a reader of G-code words."""

from __future__ import annotations

import io
import re
import unittest

import ezdxf
import numpy as np
import pypdf
import svgelements

from tests.makings import document, workpiece
from ulvent.core.base.errors import UlventError
from ulvent.core.stitches.thread_figures import figures
from ulvent.formats.thread_out import THREAD_FORMATS
from ulvent.formats.thread_reading import READERS, read_thread


class Lines(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        line = {"id": "l", "kind": "line", "length": 100}
        words = {"id": "t", "guide": "l", "text": "PI", "face": "lato-bold", "height": 14}
        piece = document(guides=[line], letterings=[words], blank=None)
        cls.embroidery = workpiece(piece).embroidery
        cls.points = np.concatenate([one.points for one in cls.embroidery.sewn])

    def test_svg_has_every_needle_point(self) -> None:
        data = THREAD_FORMATS["thread.svg"].write(self.embroidery)
        svg = svgelements.SVG.parse(io.BytesIO(data), reify=True, ppi=25.4)
        paths = [one for one in svg.elements() if isinstance(one, svgelements.Path)]
        self.assertEqual(len(paths), len(self.embroidery.sewn))
        ends = np.array([[part.end.x, part.end.y] for path in paths for part in path])
        self.assertEqual(len(ends), len(self.points))
        size = np.ptp(ends, axis=0)
        np.testing.assert_allclose(size, np.ptp(self.points, axis=0), atol=0.01)

    def test_dxf_has_every_needle_point(self) -> None:
        data = THREAD_FORMATS["thread.dxf"].write(self.embroidery).decode()
        lines = list(ezdxf.read(io.StringIO(data)).modelspace().query("LWPOLYLINE"))
        found = np.concatenate([np.array(line.get_points("xy")) for line in lines])
        np.testing.assert_allclose(found, self.points, atol=0.001)

    def test_gcode_moves_from_needle_point_to_needle_point(self) -> None:
        text = THREAD_FORMATS["thread.gcode"].write(self.embroidery).decode("ascii")
        moves = re.findall(r"^G1 X(\S+) Y(\S+)$", text, re.MULTILINE)
        jumps = re.findall(r"^G0 X\S+ Y\S+$", text, re.MULTILINE)
        self.assertEqual(len(jumps), len(self.embroidery.sewn) + 1)
        self.assertEqual(len(moves), len(self.points) - len(self.embroidery.sewn))
        self.assertEqual(text.count("M3\n"), text.count("M5\n") - 1)
        # Needle down only where it sews.
        for before, after in re.findall(r"(M3|M5)\n(?:F\d+\n)?(G[01])", text):
            self.assertEqual((before, after), ("M3", "G1") if before == "M3" else ("M5", "G0"))

    def test_the_template_is_of_true_size(self) -> None:
        page = pypdf.PdfReader(io.BytesIO(THREAD_FORMATS["thread.pdf"].write(self.embroidery)))
        box = page.pages[0].mediabox
        height = float(np.ptp(self.points[:, 1])) + 35.0
        self.assertAlmostEqual(float(box.height) * 25.4 / 72.0, height, delta=0.01)
        self.assertIn("100 mm", page.pages[0].extract_text())

    def test_stitch_files_are_read_and_measured(self) -> None:
        meant = figures(self.embroidery, 700.0)
        for name in READERS:
            found = read_thread(THREAD_FORMATS[name].write(self.embroidery), name)
            self.assertAlmostEqual(
                figures(found, 700.0).metres, meant.metres, delta=0.03 * meant.metres
            )
            box = found.bounds or (0.0, 0.0, 0.0, 0.0)
            self.assertAlmostEqual(box[2] - box[0], float(np.ptp(self.points[:, 0])), delta=0.2)
        for data in (b"", b"nothing", bytes(600)):
            with self.assertRaises(UlventError):
                read_thread(data, "dst")


if __name__ == "__main__":
    unittest.main()

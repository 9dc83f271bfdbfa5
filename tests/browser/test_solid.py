"""Parts by hand: a band lettered all round, turned, resized, measured, and taken away."""

from __future__ import annotations

import io
import json
import math
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

import numpy as np
import trimesh
from playwright.sync_api import Locator, Page, expect

from tests.browser.application import LetteringTest

_STEP_BOX = """
import json, sys
from OCP.STEPControl import STEPControl_Reader
from OCP.Bnd import Bnd_Box
from OCP.BRepBndLib import BRepBndLib
reader = STEPControl_Reader(); reader.ReadFile(sys.argv[1]); reader.TransferRoots()
box = Bnd_Box(); BRepBndLib.AddOptimal_s(reader.OneShape(), box, False, False)
low, high = box.CornerMin(), box.CornerMax()
print(json.dumps([low.X(), low.Y(), low.Z(), high.X(), high.Y(), high.Z()]))
"""


class SolidTest(LetteringTest):
    def solid_of(self, title: str) -> tuple[Page, str]:
        page, piece = self.copy_of(title)
        page.get_by_role("link", name="Solid", exact=True).click()
        expect(self.part(page)).to_be_visible()
        return page, piece

    def part(self, page: Page) -> Locator:
        return page.get_by_label("The part", exact=True).locator("dl")

    def figure(self, page: Page, name: str) -> str:
        return self.part(page).locator(f"dt:text-is('{name}') + dd").inner_text()

    def size(self, page: Page) -> list[float]:
        words = self.figure(page, "Size").removesuffix(" mm")
        return [float(one) for one in words.split(" × ")]

    def set_figure(self, page: Page, name: str, value: str) -> None:
        field = page.get_by_role("textbox", name=name, exact=True)
        field.fill(value)
        field.press("Enter")

    def shot(self, page: Page) -> np.ndarray:
        from PIL import Image

        canvas = page.locator("canvas")
        return np.asarray(Image.open(io.BytesIO(canvas.screenshot())).convert("L"), dtype=float)


class Bands(SolidTest):
    def test_a_band_follows_its_inner_diameter_and_the_fit_follows_it(self) -> None:
        """Words all the way round, across the seam: a larger band, larger gaps, and a ring size
        that is π times the diameter (ISO 8653)."""
        page, piece = self.solid_of("Supper napkin ring")
        before = self.size(page)
        self.set_figure(page, "Inner diameter", "44")
        self.eventually(lambda: self.stored(piece)["blank"]["inner"] == 44)
        self.eventually(lambda: self.size(page)[0] > before[0] + 5.0)
        belt = self.stored(piece)["guides"][0]
        outside = math.pi * (44.0 + 2.0 * 3.0)
        self.assertLess(abs(belt["girth"] - outside), 1.2)
        # The words still close the ring: what is left over is one gap more.
        (words,) = self.settings_of(piece)
        self.assertTrue(words.guide.closed)
        self.assertLess(abs(words.guide.length - belt["girth"]), 1e-6)

    def test_a_ring_is_made_to_a_size(self) -> None:
        page, piece = self.solid_of("Wax seal ring")
        page.get_by_label("On which scale").select_option("british")
        page.get_by_label("Made to size").fill("M")
        page.keyboard.press("Tab")
        # Thirteenth of the letters: 37.8 and twelve times 1.25 mm round.
        self.eventually(lambda: self.stored(piece)["blank"]["inner"] == 16.8068)
        self.eventually(lambda: "M British" in self.figure(page, "Ring size"))
        page.get_by_label("Made to size").fill("Ω")
        page.keyboard.press("Tab")
        expect(page.get_by_text("British sizes are A to Z")).to_be_visible()
        self.assertEqual(self.stored(piece)["blank"]["inner"], 16.8068)

    def test_the_part_is_turned_and_cut_and_measured(self) -> None:
        page, _ = self.solid_of("Stick ferrule")
        expect(page.get_by_text("making the part…")).to_have_count(0)
        first = self.shot(page)
        self.assertGreater(first.std(), 5.0)
        canvas = page.locator("canvas")
        self.drag(page, canvas, 120, 30)
        self.eventually(lambda: np.abs(self.shot(page) - first).mean() > 1.0)
        turned = self.shot(page)
        page.keyboard.press("3")
        self.eventually(lambda: np.abs(self.shot(page) - turned).mean() > 1.0)
        page.get_by_role("button", name="measure").click()
        box = canvas.bounding_box()
        assert box is not None
        middle = (box["width"] / 2.0, box["height"] / 2.0)
        # From above the upper edge is a ring of 21 mm outside and 18 mm inside.
        row = self.shot(page)[int(middle[1])]
        seen = np.flatnonzero(np.abs(row - row[2]) > 12.0)
        for x in (float(seen[0]) + 3.0, float(seen[-1]) - 3.0):
            canvas.click(position={"x": x, "y": middle[1]})
        words = page.locator(".measured").inner_text()
        self.assertTrue(18.0 < float(words.split(" mm")[0]) < 27.0, words)

    def test_letterings_stand_out_each_in_its_own_way(self) -> None:
        page, piece = self.solid_of("Wax seal ring")
        # π times 18.2 mm.
        self.assertIn("57.2 (ISO 8653)", self.figure(page, "Ring size"))
        page.get_by_role("button", name="Q", exact=True).click()
        page.get_by_role("complementary", name="Particulars").get_by_text("raised").click()
        self.eventually(
            lambda: (
                {one["of"]: one["relief"] for one in self.stored(piece)["solid"]["letterings"]}
                == {"year": "raised", "letter": "raised"}
            )
        )

    def test_what_is_wrong_names_its_field_and_the_last_part_stays(self) -> None:
        page, _ = self.solid_of("Stick ferrule")
        self.set_figure(page, "Bore", "30")
        expect(page.get_by_text("must be less than the outside")).to_be_visible()
        expect(self.part(page)).to_be_visible()


class FromAFile(SolidTest):
    def read(self, page: Page, name: str, data: bytes) -> None:
        given = {"name": name, "mimeType": "model/stl", "buffer": data}
        page.get_by_label("File of a body").set_input_files(given)  # type: ignore[arg-type]

    def test_a_part_from_a_file_is_lettered_on_where_it_lies(self) -> None:
        """A cup of 44 mm by 25 that lies on its side, away from the origin."""
        cup = trimesh.creation.annulus(19, 22, 25, sections=128)
        cup.apply_transform(trimesh.transformations.rotation_matrix(math.pi / 2, (0, 1, 0)))
        cup.apply_translation((100.0, 20.0, 5.0))
        page, piece = self.solid_of("Supper napkin ring")
        before = self.stored(piece)
        self.read(page, "cup.stl", cup.export(file_type="stl"))
        faces = page.get_by_label("Faces of the body")
        side = faces.get_by_role("button", name="side of a cylinder ⌀ 44 mm, 25 high")
        expect(side).to_have_attribute("aria-pressed", "true")
        # What is clicked on the drawing is what the list has chosen.
        faces.get_by_role("button", name="flat, ring ⌀ 44 / 38 mm").first.click()
        page.keyboard.press("2")
        canvas = page.locator("canvas")
        self.eventually(lambda: self.picked(canvas, side))
        faces.get_by_role("button", name="Letter on this face").click()
        self.eventually(lambda: self.stored(piece)["blank"]["kind"] == "side")
        expect(page.get_by_text("Lettered on cup.stl.")).to_be_visible()
        self.eventually(lambda: self.size(page)[1] > 45.0)
        with page.expect_download() as stl:
            page.get_by_role("button", name="STL, binary").click()
        made = trimesh.load(io.BytesIO(stl.value.path().read_bytes()), file_type="stl")
        self.assertTrue(made.is_watertight)
        self.assertEqual(len(made.split()), 1)
        # Its letters stand 0.9 mm out of a side whose axis lies along x.
        self.assertAlmostEqual(made.extents[0], 25.0, places=2)
        np.testing.assert_allclose(made.bounds.mean(axis=0), (100.0, 20.0, 5.0), atol=0.5)
        off = np.hypot(made.vertices[:, 1] - 20.0, made.vertices[:, 2] - 5.0)
        self.assertAlmostEqual(off.max(), 22.9, delta=0.03)
        self.assertAlmostEqual(off.min(), 19.0, delta=0.03)
        page.keyboard.press("Control+z")
        self.eventually(lambda: self.stored(piece) == before)

    def picked(self, canvas: Locator, face: Locator) -> bool:
        box = canvas.bounding_box()
        assert box is not None
        canvas.click(position={"x": box["width"] / 2.0, "y": box["height"] / 2.0})
        return face.get_attribute("aria-pressed") == "true"

    def test_what_is_no_body_is_refused_in_words_and_nothing_is_lost(self) -> None:
        page, piece = self.solid_of("Supper napkin ring")
        before = self.stored(piece)
        hole = trimesh.creation.box((20, 30, 4))
        hole.update_faces(np.arange(1, len(hole.faces)))
        for name, data, why in (
            ("cup.txt", b"none", "A body is read from .stl or .3mf"),
            ("cup.3mf", b"none", "no file of the kind .3mf"),
            ("hole.stl", hole.export(file_type="stl"), "3 edges have a hole beside them"),
        ):
            self.read(page, name, data)
            expect(page.get_by_role("alert").filter(has_text=why)).to_be_visible()
        self.assertEqual(self.stored(piece), before)
        expect(self.part(page)).to_be_visible()


class WithoutWebGL(SolidTest):
    def test_pictures_from_five_sides_take_its_place(self) -> None:
        page = self.page()
        page.add_init_script(
            """const own = HTMLCanvasElement.prototype.getContext;
            HTMLCanvasElement.prototype.getContext = function (kind, ...more) {
              return kind.startsWith('webgl') ? null : own.call(this, kind, ...more);
            };"""
        )
        piece = self.copied("Stick ferrule")
        self.open(f"/pieces/{piece}/solid", page)
        expect(page.get_by_text("WebGL is off")).to_be_visible()
        seen = page.get_by_role("img", name="The part seen aslant")
        expect(seen).to_be_visible()
        self.eventually(lambda: seen.evaluate("one => one.naturalWidth > 300"))
        first = seen.get_attribute("src")
        page.get_by_role("radio", name="top", exact=True).check(force=True)
        from_above = page.get_by_role("img", name="The part seen top")
        self.eventually(lambda: from_above.get_attribute("src") != first)
        # Figures and files are as they are with it.
        self.assertEqual(self.size(page)[2], 30.0)
        expect(page.get_by_role("button", name="STL, binary")).to_be_visible()


class Files(SolidTest):
    def test_stl_and_step_are_taken_away_and_measured(self) -> None:
        page, _ = self.solid_of("Stick ferrule")
        wide, deep, high = self.size(page)
        with page.expect_download() as stl:
            page.get_by_role("button", name="STL, binary").click()
        mesh = trimesh.load(io.BytesIO(stl.value.path().read_bytes()), file_type="stl")
        self.assertTrue(mesh.is_watertight)
        np.testing.assert_allclose(mesh.extents, (wide, deep, high), atol=0.02)
        self.assertAlmostEqual(high, 30.0, places=3)
        with page.expect_download(timeout=120_000) as step:
            page.get_by_role("button", name="STEP, exact").click()
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "part.step"
            path.write_bytes(step.value.path().read_bytes())
            said = subprocess.run(
                [sys.executable, "-c", _STEP_BOX, str(path)],
                capture_output=True, check=True, text=True,
            ).stdout  # fmt: skip
        x0, y0, z0, x1, y1, z1 = json.loads(said.splitlines()[-1])
        # The bevel takes the lowest 0.4 mm of a cone that loses 5 mm over 30.
        across = 26.0 - 0.4 * 5.0 / 30.0
        np.testing.assert_allclose((x1 - x0, y1 - y0, z1 - z0), (across, across, 30.0), atol=0.02)


if __name__ == "__main__":
    unittest.main()

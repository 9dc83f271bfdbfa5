"""Guides in the real interface: drawn, pulled, taken from files, kept in the drawer, deleted."""

from __future__ import annotations

import json
import math
import re
import unittest
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
from playwright.sync_api import Page, WebSocketRoute, expect

from tests.areas import off_edge
from tests.browser.application import ApplicationTest
from tests.formats import samples
from tests.running import eventually
from ulvent.core.layout import lay_out
from ulvent.core.recipe import parse_piece
from ulvent.shipped_faces import shipped_face

BANNER = samples.svg(
    '<path d="M10 40C60 10 120 15 200 40S330 70 390 36"/>'
    '<path d="M16 100C62 68 122 72 202 100S326 130 384 98"/>',
    "400mm",
    "140mm",
    400,
    140,
)


class Guides(ApplicationTest):
    def open_empty(self) -> tuple[Page, str]:
        """A new piece on a disc, without guides."""
        piece = {"ulvent": 1, "title": "Trial", "blank": {"kind": "disc", "diameter": 300}}
        made = self.api("/api/pieces", "POST", {"piece": piece})
        page = self.open(f"/pieces/{made['id']}")
        expect(page.locator("main path.blank")).to_be_visible()
        return page, str(made["id"])

    def choose_from_gallery(self, page: Page, name: str) -> None:
        page.get_by_role("button", name="all guides").click()
        gallery = page.get_by_role("dialog", name="Add a guide")
        gallery.get_by_role("button", name=name, exact=True).click()

    def place_points(self, page: Page, points: list[tuple[int, int]]) -> None:
        self.choose_from_gallery(page, "by points")
        drawing = page.get_by_role("application")
        for x, y in points:
            drawing.click(position={"x": x, "y": y})
        page.keyboard.press("Enter")
        expect(page.locator("[data-grip='node:0']")).to_be_visible()

    def add_lettering(self, page: Page, words: str) -> None:
        page.get_by_role("button", name="lettering on this guide").first.click()
        page.get_by_role("textbox", name="Words").fill(words)
        page.keyboard.press("Enter")
        expect(page.locator("main .lettering .letters path")).to_have_count(
            len(words.replace(" ", ""))
        )

    def places(self, page: Page) -> np.ndarray:
        """Where the letters are on the drawing: the last two figures of their matrices."""
        return np.array(
            page.locator("main .lettering .letters path").evaluate_all(
                "all => all.map(one => one.transform.baseVal.consolidate().matrix)"
                ".map(m => [m.e, m.f])"
            )
        )

    def file(self, page: Page, data: bytes, name: str) -> None:
        with TemporaryDirectory() as folder:
            path = Path(folder) / name
            path.write_bytes(data)
            page.locator("input[type=file][accept*=svg]").set_input_files(path)
            expect(
                page.get_by_role("button", name="outline 1, edge 1", exact=True)
            ).to_be_attached()

    def press_edge(self, page: Page, outline: int, edge: int) -> None:
        page.get_by_role("button", name=f"outline {outline}, edge {edge}", exact=True).press(
            "Enter"
        )

    def test_draw_a_guide_put_lettering_on_it_and_pull_a_point(self) -> None:
        page, piece = self.open_empty()
        self.place_points(page, [(250, 330), (330, 250), (420, 300), (520, 240)])
        self.add_lettering(page, "Quillmere")
        self.wait_until_kept(page)
        stored = self.stored(piece)
        self.assertEqual(len(stored["guides"][0]["nodes"]), 4)
        layout = lay_out(parse_piece(stored), shipped_face)
        np.testing.assert_allclose(
            self.places(page), layout.settings[0].matrices[:, :, 2] * [1, -1], atol=1e-4
        )

        page.get_by_role("button", name=re.compile("^Line")).click()
        before = self.places(page)
        self.drag(page, page.locator("[data-grip='node:1']"), 0, 40)
        self.wait_until_kept(page)
        moved = self.stored(piece)["guides"][0]["nodes"]
        self.assertLess(moved[1]["at"][1], stored["guides"][0]["nodes"][1]["at"][1] - 10)
        self.assertEqual(moved[2], stored["guides"][0]["nodes"][2])
        self.assertGreater(np.abs(self.places(page) - before).max(), 3)

        page.get_by_label("Up", exact=True).fill("12.5")
        page.keyboard.press("Enter")

        def stored_height() -> float:
            guide = self.stored(piece)["guides"][0]
            return float(guide["nodes"][1]["at"][1] + guide["centre"][1])

        self.assertTrue(eventually(lambda: abs(stored_height() - 12.5) < 1e-3), stored_height())
        page.get_by_role("radio", name="corner").check(force=True)
        self.assertTrue(
            eventually(lambda: self.stored(piece)["guides"][0]["nodes"][1]["joint"] == "corner")
        )

    def test_what_is_pulled_moves_before_the_scene_comes(self) -> None:
        """Point, line and letters move on the drawing while every whole scene is held back."""
        nodes = [{"at": [40 * x, 25 * (x % 2)]} for x in range(-3, 4)]
        piece = {
            "ulvent": 1,
            "title": "Trial",
            "guides": [{"id": "line", "kind": "drawn", "nodes": nodes}],
            "letterings": [{"id": "name", "guide": "line", "text": "Quillmere orchard",
                            "face": "lato-bold", "height": 12, "at": 20}],
        }  # fmt: skip
        made = self.api("/api/pieces", "POST", {"piece": piece})
        page = self.page()
        holding = [False]

        def between(route: WebSocketRoute) -> None:
            server = route.connect_to_server()

            def answered(message: str | bytes) -> None:
                if not holding[0] or json.loads(message)["moved"]:
                    route.send(message)

            server.on_message(answered)

        page.route_web_socket("**/api/live", between)
        self.open(f"/pieces/{made['id']}", page)
        page.get_by_role("button", name=re.compile("^Line")).click()
        grip = page.locator("[data-grip='node:3']")
        expect(grip).to_be_visible()
        box = grip.bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        letters, line = self.places(page), page.locator("main path.reach").get_attribute("d")
        page.mouse.move(x, y)
        page.mouse.down()
        holding[0] = True
        page.mouse.move(x + 5, y + 60, steps=6)
        expect(page.locator("main path.reach")).not_to_have_attribute("d", line or "")

        def at_the_pointer() -> bool:
            now = grip.bounding_box()
            return now is not None and abs(now["y"] + now["height"] / 2 - y - 60) < 1.5

        self.assertTrue(eventually(at_the_pointer))
        self.assertGreater(np.abs(self.places(page) - letters).max(), 3)
        holding[0] = False
        page.mouse.up()
        self.wait_until_kept(page)
        moved = self.stored(str(made["id"]))["guides"][0]["nodes"]
        self.assertLess(moved[3]["at"][1], nodes[3]["at"][1] - 10)

    def test_freehand_becomes_a_line_of_few_points(self) -> None:
        page, piece = self.open_empty()
        self.choose_from_gallery(page, "freehand")
        box = page.get_by_role("application").bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 240, box["y"] + 300)
        page.mouse.down()
        for step in range(1, 80):
            y = 300 - 60 * math.sin(step / 13)
            page.mouse.move(box["x"] + 240 + 4 * step, box["y"] + y)
        page.mouse.up()
        expect(page.locator("[data-grip='node:0']")).to_be_visible()
        self.wait_until_kept(page)
        (guide,) = self.stored(piece)["guides"]
        self.assertLess(len(guide["nodes"]), 20)

    def test_a_dimension_of_a_spiral_and_its_other_figures(self) -> None:
        page, piece = self.open_empty()
        page.get_by_role("button", name="spiral", exact=True).click()
        page.get_by_role("button", name=re.compile("^Outer diameter: ")).click()
        page.locator("main").get_by_role("textbox", name="Outer diameter").fill("10 in")
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name="Outer diameter: 254 mm")).to_be_visible()
        page.get_by_role("button", name="from turn to turn").click()
        expect(page.get_by_role("textbox", name="From turn to turn")).to_be_visible()
        self.wait_until_kept(page)
        (guide,) = self.stored(piece)["guides"]
        self.assertIsNone(guide["outer"])
        self.assertAlmostEqual(guide["gain"], (254 - guide["inner"]) / 2 / guide["turns"], places=5)

    def test_four_edges_of_a_rounded_rectangle_from_a_file(self) -> None:
        page, piece = self.open_empty()
        self.choose_from_gallery(page, "from a file")
        self.file(page, samples.ROUNDED, "lid.svg")
        for edge in (1, 2, 3, 4):
            self.press_edge(page, 1, edge)
        expect(page.get_by_text("4 edges chosen")).to_be_visible()
        page.get_by_role("button", name="Take as a guide").click()
        expect(page.get_by_text("line from a file")).to_be_visible()
        self.wait_until_kept(page)
        curve = lay_out(parse_piece(self.stored(piece)), shipped_face).guides[0].curve
        self.assertAlmostEqual(curve.length, 44 + 24 + 8 * math.pi, places=3)
        self.add_lettering(page, "TIN LID")

    def test_a_broken_file_is_refused_and_changes_nothing(self) -> None:
        page, piece = self.open_empty()
        self.choose_from_gallery(page, "from a file")
        with TemporaryDirectory() as folder:
            path = Path(folder) / "torn.svg"
            path.write_bytes(samples.ROUNDED[:90])
            page.locator("input[type=file][accept*=svg]").set_input_files(path)
            expect(page.get_by_text("the file is not XML")).to_be_visible()
        page.get_by_role("button", name="Cancel").click()
        self.assertEqual(self.stored(piece)["guides"], [])

    def test_the_middle_line_of_a_banner_from_a_file(self) -> None:
        page, piece = self.open_empty()
        for outline in (1, 2):
            self.choose_from_gallery(page, "from a file")
            self.file(page, BANNER, "banner.svg")
            self.press_edge(page, outline, 1)
            expect(page.get_by_text("1 edge chosen")).to_be_visible()
            page.get_by_role("button", name="Take as a guide").click()
            expect(page.get_by_role("button", name=re.compile("from banner.svg"))).to_have_count(
                outline
            )
        self.choose_from_gallery(page, "middle line")
        expect(page.get_by_role("button", name=re.compile("^Middle"))).to_be_visible()
        self.wait_until_kept(page)
        layout = lay_out(parse_piece(self.stored(piece)), shipped_face)
        upper, lower, middle = (guide.curve for guide in layout.guides)
        apart = off_edge(middle, upper) - off_edge(middle, lower)
        self.assertLess(np.abs(apart).max(), 0.01)

    def test_saved_in_the_drawer_and_used_in_another_piece(self) -> None:
        page, _ = self.open_barrel_head()
        page.get_by_role("button", name=re.compile("^Rim")).click()
        page.get_by_role("button", name="Save in the drawer").click()
        page.get_by_role("textbox", name="Its name").fill("Quillmere rim")
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_role("textbox", name="Its name")).to_have_count(0)

        page, piece = self.open_empty()
        self.choose_from_gallery(page, "from the drawer")
        page.get_by_role("searchbox").fill("rim quill")
        found = page.get_by_role("button", name=re.compile("Quillmere rim"))
        expect(page.locator(".card")).to_have_count(1)
        found.click()
        page.get_by_role("button", name="Use it at true size").click()
        expect(page.get_by_role("button", name="Diameter of the guide: 240 mm")).to_be_visible()
        self.wait_until_kept(page)
        self.assertEqual(self.stored(piece)["guides"][0]["start"], 180)

        self.choose_from_gallery(page, "from the drawer")
        page.locator(".card", has_text="Quillmere rim").get_by_role("button", name="delete").click()
        page.get_by_role("button", name="Bring it back").click()
        expect(page.locator(".card", has_text="Quillmere rim")).to_have_count(1)

    def test_a_deleted_guide_leaves_its_lettering_where_it_was(self) -> None:
        page, piece = self.open_barrel_head()
        before = self.places(page)
        page.get_by_role("button", name=re.compile("^Rim")).click()
        page.get_by_role("button", name="Delete this guide").click()
        expect(page.get_by_text("Line of a deleted guide")).to_be_visible()
        expect(page.locator("main path.guide")).to_have_count(0)
        np.testing.assert_array_equal(self.places(page), before)
        self.wait_until_kept(page)
        self.assertTrue(self.stored(piece)["guides"][0]["removed"])
        page.get_by_role("button", name="Bring it back").click()
        expect(page.locator("main path.guide")).to_have_count(1)

    def test_measured_on_the_drawing_and_copied(self) -> None:
        page, _ = self.open_barrel_head()
        page.context.grant_permissions(["clipboard-read", "clipboard-write"])
        page.get_by_role("button", name=re.compile("^Rim")).click()
        page.keyboard.press("m")
        box = page.get_by_role("application").bounding_box()
        assert box is not None
        middle = (box["width"] / 2, box["height"] / 2)
        drawing = page.get_by_role("application")
        drawing.click(position={"x": middle[0], "y": middle[1] - 180})
        drawing.click(position={"x": middle[0] + 180, "y": middle[1]})
        expect(page.get_by_text("chord")).to_be_visible()
        station = page.get_by_role("textbox", name="Station")
        station.fill("300")
        page.keyboard.press("Enter")
        expect(page.get_by_text(re.compile(r"^length")).first).to_be_visible()
        page.get_by_role("application").focus()
        page.keyboard.press("c")
        expect(page.get_by_role("button", name="copied")).to_be_visible()
        copied = page.evaluate("navigator.clipboard.readText()")
        found = re.search(r"length ([\d.]+) mm; chord ([\d.]+) mm; radius ([\d.]+) mm", copied)
        assert found is not None, copied
        length, chord, radius = (float(figure) for figure in found.groups())
        self.assertAlmostEqual(radius, 120, places=2)
        self.assertAlmostEqual(chord, 2 * radius * math.sin(length / radius / 2), places=2)

    def test_the_start_is_dragged_without_breaking_the_ring_open(self) -> None:
        page, piece = self.open_barrel_head()
        page.get_by_role("button", name=re.compile("^Rim")).click()
        self.drag(page, page.locator("[data-grip='start']"), 170, 174)
        self.wait_until_kept(page)
        start = self.stored(piece)["guides"][0]["start"]
        self.assertAlmostEqual(start, 270, delta=4)

    def test_points_are_added_moved_by_keys_and_undone(self) -> None:
        page, piece = self.open_empty()
        self.place_points(page, [(250, 330), (400, 260), (520, 330)])
        self.wait_until_kept(page)
        # On the line, away from its points.
        x, y = page.locator("main path.reach").evaluate(
            "path => { const p = path.getPointAtLength(0.3 * path.getTotalLength())"
            ".matrixTransform(path.getScreenCTM()); return [p.x, p.y]; }"
        )
        page.mouse.dblclick(x, y)
        expect(page.locator("[data-grip='node:3']")).to_be_visible()
        self.wait_until_kept(page)
        before = self.stored(piece)["guides"][0]["nodes"]

        page.locator("[data-grip='node:2']").click()
        page.keyboard.press("Shift+ArrowUp")
        page.keyboard.press("ArrowLeft")

        def moved() -> bool:
            at, was = self.stored(piece)["guides"][0]["nodes"][2]["at"], before[2]["at"]
            return abs(at[0] - was[0] + 0.1) < 1e-3 and abs(at[1] - was[1] - 1) < 1e-3

        self.assertTrue(eventually(moved))
        # Two presses in quick succession may be one change.
        for _ in range(2):
            page.get_by_role("button", name="Undo").click()
            if eventually(lambda: self.stored(piece)["guides"][0]["nodes"] == before, 4):
                break
        self.assertEqual(self.stored(piece)["guides"][0]["nodes"], before)
        page.locator("[data-grip='node:1']").click()
        page.keyboard.press("Delete")
        expect(page.locator("[data-grip='node:3']")).to_have_count(0)

    def test_of_many_quick_presses_every_one_counts(self) -> None:
        page, piece = self.open_barrel_head()
        length = math.pi * 240
        page.get_by_role("application").focus()
        for _ in range(12):
            page.keyboard.press("Shift+ArrowRight")

        def slid() -> float:
            return float(length * (self.stored(piece)["letterings"][0]["at"] - 0.25))

        self.assertTrue(eventually(lambda: abs(slid() - 12) < 0.01), slid())

    def test_turned_and_scaled_by_hand(self) -> None:
        page, piece = self.open_empty()
        page.get_by_role("button", name="arch", exact=True).click()
        expect(page.locator("[data-grip='turn']")).to_be_visible()
        self.wait_until_kept(page)
        first = self.stored(piece)["guides"][0]["chord"]
        self.drag(page, page.locator("[data-grip='turn']"), 120, 60)
        # The other grip has turned as well: it is taken where it then is.
        self.assertTrue(eventually(lambda: self.stored(piece)["guides"][0]["turned"] < -20))
        self.drag(page, page.locator("[data-grip='size']"), 40, 40)

        def changed() -> bool:
            guide = self.stored(piece)["guides"][0]
            return guide["turned"] < -20 and guide["chord"] > 1.1 * first

        self.assertTrue(eventually(changed), self.stored(piece)["guides"][0])

    def test_a_parallel_follows_its_guide(self) -> None:
        page, piece = self.open_empty()
        page.get_by_role("button", name="ring", exact=True).click()
        self.choose_from_gallery(page, "parallel")
        figure = page.get_by_role("button", name="Distance of the parallel: 10 mm")
        expect(figure).to_be_visible()
        before = page.locator("main path.guide").nth(1).get_attribute("d")
        page.get_by_role("button", name=re.compile("^Ring")).click()
        page.get_by_role("button", name="Diameter of the guide: 210 mm").click()
        page.locator("main").get_by_role("textbox", name="Diameter of the guide").fill("150")
        page.keyboard.press("Enter")
        expect(page.locator("main path.guide").nth(1)).not_to_have_attribute("d", before or "")
        self.wait_until_kept(page)
        ring, outer = (
            g.curve for g in lay_out(parse_piece(self.stored(piece)), shipped_face).guides
        )
        self.assertAlmostEqual(outer.length, ring.length + 20 * math.pi)

    def test_corners_are_kept_off_and_shown_on_the_strip(self) -> None:
        page, piece = self.open_empty()
        self.choose_from_gallery(page, "rectangle")
        self.add_lettering(page, "CIDER PRESS AND APPLE STORE")
        expect(page.locator("section path.corner")).to_have_count(4)
        page.get_by_role("button", name=re.compile("^Rectangle")).click()
        page.get_by_role("radio", name="rounded").check(force=True)
        expect(page.locator("section path.corner")).to_have_count(0)
        self.assertTrue(eventually(lambda: self.stored(piece)["guides"][0]["corners"] == "round"))

    def test_a_bend_that_is_too_tight_is_a_quiet_warning(self) -> None:
        tight = {"id": "bend", "kind": "arc", "radius": 12, "angle": 200}
        words = {"id": "w", "guide": "bend", "text": "HIVE", "face": "lato-bold", "height": 14,
                 "reading": "against", "at": 20, "align": "centre"}  # fmt: skip
        piece = {"ulvent": 1, "guides": [tight], "letterings": [words]}
        made = self.api("/api/pieces", "POST", {"piece": piece})
        page = self.open(f"/pieces/{made['id']}")
        expect(page.get_by_text("tighter than letters 14 mm high can follow")).to_be_visible()
        expect(page.locator("main path.tight")).to_be_visible()
        expect(page.locator("section path.tight")).to_have_count(1)

    def test_another_blank_with_a_sheet(self) -> None:
        page, piece = self.open_empty()
        page.get_by_role("button", name=re.compile("^Disc")).click()
        page.get_by_label("It is", exact=True).select_option("tag")
        expect(page.get_by_role("button", name="Width of the blank: 90 mm")).to_be_visible()
        page.get_by_label("It lies on a sheet").select_option("A4")
        expect(page.locator("main rect.sheet")).to_be_visible()
        self.wait_until_kept(page)
        stored = self.stored(piece)
        self.assertEqual(stored["blank"]["kind"], "tag")
        self.assertEqual(stored["sheet"], {"width": 297, "height": 210})


if __name__ == "__main__":
    unittest.main()

"""The layout view, used as a maker uses it."""

from __future__ import annotations

import io
import math
import re
import unittest
from pathlib import Path

import ezdxf
import numpy as np
import svgelements
from playwright.sync_api import Page, expect

from tests.browser.application import ApplicationTest
from tests.makings import document
from tests.running import eventually
from ulvent.core.layout import lay_out
from ulvent.core.layout.measure import measure
from ulvent.core.recipe import parse_piece
from ulvent.shipped_faces import catalogue, shipped_face


def type_figure(page: Page, label: str, text: str) -> None:
    """Click a figure on the drawing and type another."""
    page.get_by_role("button", name=re.compile(rf"^{label}")).click()
    page.get_by_role("textbox", name=label).fill(text)
    page.keyboard.press("Enter")


class FromWordsToCutFile(ApplicationTest):
    def test_words_diameter_slide_undo_reload_export(self) -> None:
        page, piece = self.open_barrel_head()

        page.get_by_role("textbox", name="Words").fill("QUILLMERE FAIR")
        page.keyboard.press("Enter")
        expect(page.locator("main [data-lettering=name] .letters path")).to_have_count(13)

        type_figure(page, "Diameter of the guide", "9 1/2 in")
        expect(page.get_by_role("button", name="Diameter of the guide: 241.3 mm")).to_be_visible()
        self.wait_until_kept(page)
        before = self.stored(piece)
        self.assertEqual(before["letterings"][0]["text"], "QUILLMERE FAIR")
        self.assertEqual(before["guides"][0]["diameter"], 241.3)

        on_strip = page.locator("section [data-lettering=name]").first
        self.drag(page, on_strip, 90, 0)
        self.wait_until_kept(page)
        slid = self.stored(piece)
        self.assertGreater(slid["letterings"][0]["at"], before["letterings"][0]["at"] + 0.02)

        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_label("Its middle at")).to_have_value("25")
        self.assertEqual(self.stored(piece), before)
        page.reload()
        expect(page.get_by_role("textbox", name="Words")).to_have_value("QUILLMERE FAIR")
        page.get_by_role("button", name="Redo").click()
        expect(page.get_by_label("Its middle at")).not_to_have_value("25")
        self.assertEqual(self.stored(piece), slid)

        self._measure(self._taken(page, "SVG, lettering only"), slid)
        drawing = ezdxf.read(io.StringIO(self._taken(page, "DXF with guides").read_text("utf-8")))
        (circle,) = drawing.modelspace().query('*[layer=="guides"]')
        self.assertAlmostEqual(circle.dxf.radius, 241.3 / 2)

    def _taken(self, page: Page, what: str) -> Path:
        page.get_by_role("button", name="Export a file").click()
        with page.expect_download() as download:
            page.get_by_role("menuitem", name=what).click()
        return Path(download.value.path())

    def _measure(self, path: Path, piece: dict) -> None:
        """The words' feet stand on the typed circle, and their middle where it was dragged to."""
        svg = svgelements.SVG.parse(io.BytesIO(path.read_bytes()), ppi=25.4)
        groups = {e.id: e for e in svg.elements() if isinstance(e, svgelements.Group) and e.id}
        letters = [e for e in groups["cut-QUILLMERE-FAIR"] if isinstance(e, svgelements.Path)]
        # The tail of the Q lies under the U: the two are joined.
        self.assertEqual(len(letters), 12)
        points = np.concatenate(
            [[(p.x - 150, 150 - p.y) for p in letter.as_points()] for letter in letters]
        )
        # Q and J reach below; the serifs' feet are the least radius that many points share.
        radii = np.hypot(*points.T)
        self.assertAlmostEqual(float(np.quantile(radii, 0.1)), 241.3 / 2, delta=1.2)
        # The I of QUILLMERE is symmetric: the middle of its box lies where the core says.
        x0, y0, x1, y1 = letters[1].bbox()
        angle = math.atan2(150 - (y0 + y1) / 2, (x0 + x1) / 2 - 150)
        cluster = measure(lay_out(parse_piece(piece), shipped_face)).letterings[0].clusters[2]
        self.assertEqual(cluster.text, "I")
        self.assertAlmostEqual(angle, math.atan2(cluster.y, cluster.x), delta=0.003)


class Placing(ApplicationTest):
    def test_dragging_on_the_drawing_slides_along_the_guide(self) -> None:
        page, piece = self.open_barrel_head()
        letters = page.locator("main [data-lettering=name] .letters path")
        feet = [letters.nth(i).get_attribute("transform") for i in (0, 15)]
        box = letters.nth(8).bounding_box()
        assert box
        start = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        page.mouse.move(*start)
        page.mouse.down()
        page.mouse.move(start[0] + 60, start[1] + 12, steps=10)
        # Still held: the letters have followed already.
        expect(letters.nth(0)).not_to_have_attribute("transform", feet[0] or "")
        page.mouse.up()
        self.wait_until_kept(page)
        moved = self.stored(piece)["letterings"][0]
        self.assertGreater(moved["at"], 0.27)
        self.assertEqual(moved["standoff"], 0)

    def test_a_message_moves_nothing_and_a_drag_keeps_what_it_grabbed(self) -> None:
        arch = {"id": "rim", "kind": "arch", "chord": 200, "rise": 40}
        words = {
            **document()["letterings"][0],
            "text": "PEAR",
            "at": 0.5,
            "height": 12,
            "at_in": "share",
        }
        page, piece = self.opened(guides=[arch], letterings=[words])
        drawing = page.locator("main svg[role=application] > g[transform]").last
        before = drawing.get_attribute("transform")
        letter = page.locator("main [data-lettering=name] .letters path").nth(1)
        box = letter.bounding_box()
        assert box
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        # Over another letter, off the guide's end, and off the drawing's own ground.
        page.mouse.move(x + 60, y, steps=6)
        page.mouse.move(x + 190, y + 60, steps=6)
        message = page.get_by_text(re.compile("do not fit"))
        expect(message).to_be_visible()
        self.assertEqual(drawing.get_attribute("transform"), before)
        shown = page.locator("main .notices").bounding_box()
        assert shown
        # Right over the message: it is not what the pointer has hold of.
        page.mouse.move(shown["x"] + 20, shown["y"] + 8, steps=6)
        page.mouse.move(x + 3, y, steps=6)
        expect(message).to_have_count(0)
        page.mouse.up()
        self.wait_until_kept(page)
        self.assertEqual(drawing.get_attribute("transform"), before)
        self.assertAlmostEqual(self.stored(piece)["letterings"][0]["at"], 0.5, delta=0.03)

    def test_quick_presses_between_sliding_and_standing_off_are_all_counted(self) -> None:
        page, piece = self.open_barrel_head()
        before = self.stored(piece)["letterings"][0]
        page.get_by_role("main").locator("svg").first.focus()
        for _ in range(10):
            page.keyboard.press("ArrowRight")
            page.keyboard.press("ArrowUp")
        round_it = math.pi * 240

        def moved() -> tuple[float, float]:
            now = self.stored(piece)["letterings"][0]
            slid = (now["at"] - before["at"]) * round_it
            return round(slid, 2), round(now["standoff"] - before["standoff"], 6)

        self.assertTrue(eventually(lambda: moved() == (1.0, 1.0)), moved())

    def test_arrow_keys_slide_by_exact_figures(self) -> None:
        page, piece = self.open_barrel_head()
        length = math.pi * 240
        page.get_by_label("The piece. Arrow keys").focus()
        page.keyboard.press("ArrowRight")
        self.wait_until_kept(page)
        self.assertAlmostEqual(self.stored(piece)["letterings"][0]["at"] * length,
                               0.25 * length + 0.1, places=3)  # fmt: skip
        page.keyboard.press("Shift+ArrowLeft")
        self.wait_until_kept(page)
        self.assertAlmostEqual(self.stored(piece)["letterings"][0]["at"] * length,
                               0.25 * length - 0.9, places=3)  # fmt: skip
        page.keyboard.press("Shift+ArrowUp")
        expect(page.get_by_label("Standoff", exact=True)).to_have_value("1")
        self.wait_until_kept(page)
        page.keyboard.press("Control+z")
        expect(page.get_by_label("Standoff", exact=True)).to_have_value("0")

    def test_the_strip_turns_for_a_line_that_reads_against_the_guide(self) -> None:
        page, piece = self.open_barrel_head()
        page.get_by_role("button", name="PRESSED BY HAND").click()
        # The strip turns when the answer for this line has come.
        line = page.locator("section .line.chosen:not(.other) .letters").first
        expect(line.locator("path")).to_have_count(13)
        first = line.locator("path").first.bounding_box()
        last = line.locator("path").last.bounding_box()
        assert first and last
        self.assertLess(first["x"], last["x"])
        before = self.stored(piece)["letterings"][1]["at"]
        self.drag(page, line, 50, 0)
        self.wait_until_kept(page)
        self.assertLess(self.stored(piece)["letterings"][1]["at"], before - 0.02)

    def test_turning_the_reading_round_by_choice(self) -> None:
        page, piece = self.open_barrel_head()
        page.get_by_text("anticlockwise", exact=True).click()
        self.wait_until_kept(page)
        self.assertEqual(self.stored(piece)["letterings"][0]["reading"], "against")

    def test_a_named_place(self) -> None:
        page, piece = self.open_barrel_head()
        page.get_by_label("Put it at").select_option("the right")
        self.wait_until_kept(page)
        self.assertEqual(self.stored(piece)["letterings"][0]["at"], 0.5)


class Choosing(ApplicationTest):
    def test_a_face_is_chosen_by_the_makers_own_words(self) -> None:
        page, piece = self.open_barrel_head()
        page.get_by_role("button", name="Face cinzel-semibold").click()
        dialog = page.get_by_role("dialog")
        pictures = dialog.locator("img")
        expect(pictures).to_have_count(len(catalogue()))
        self.assertIn("QUILLMERE%20ORCHARD", pictures.first.get_attribute("src") or "")
        expect(dialog.get_by_role("link", name=re.compile("Open Font License"))).to_have_count(15)
        dialog.get_by_role("button", name=re.compile("^Zilla Slab")).click()
        self.wait_until_kept(page)
        self.assertEqual(self.stored(piece)["letterings"][0]["face"], "zilla-slab-semibold")

    def test_new_lettering_starts_with_the_last_choices(self) -> None:
        page, piece = self.open_barrel_head()
        page.get_by_label("Height", exact=True).fill("7")
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name="Height of capitals: 7 mm")).to_be_visible()
        self.wait_until_kept(page)
        page.get_by_role("button", name="lettering on this guide").click()
        expect(page.get_by_role("textbox", name="Words")).to_have_value("Your words")
        expect(page.locator("main [data-lettering]")).to_have_count(3)
        self.wait_until_kept(page)
        added = self.stored(piece)["letterings"][2]
        # The face is taken over; the height is that of the words beside it.
        self.assertEqual((added["height"], added["face"]), (11, "cinzel-semibold"))
        page.get_by_role("button", name="Remove this lettering").click()
        self.wait_until_kept(page)
        self.assertEqual(len(self.stored(piece)["letterings"]), 2)

    def test_escape_steps_back_and_the_list_of_shortcuts_opens(self) -> None:
        page, _ = self.open_barrel_head()
        drawing = page.get_by_label("The piece. Arrow keys")
        drawing.focus()
        page.keyboard.press("Escape")
        expect(page.get_by_label("Particulars").get_by_role("heading", name="Rim")).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.get_by_text("Choose a lettering, a guide or the blank")).to_be_visible()
        page.keyboard.press("?")
        expect(page.get_by_role("dialog").get_by_text("Ctrl Z")).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)

    def test_zoom_and_views(self) -> None:
        page, _ = self.open_barrel_head()
        scale = page.get_by_label("Scale of the view")
        whole = scale.inner_text()
        drawing = page.get_by_label("The piece. Arrow keys")
        drawing.hover(position={"x": 300, "y": 150})
        page.mouse.wheel(0, -600)
        expect(scale).not_to_have_text(whole)
        drawing.focus()
        page.keyboard.press("0")
        expect(scale).to_have_text(whole)
        page.keyboard.press("1")
        expect(scale).not_to_have_text(whole)


class Troubles(ApplicationTest):
    def test_a_figure_that_is_none_says_so_and_changes_nothing(self) -> None:
        page, piece = self.open_barrel_head()
        type_figure(page, "Diameter of the guide", "24o")
        expect(page.get_by_role("alert")).to_contain_text("not a figure")
        page.keyboard.press("Escape")
        expect(page.get_by_role("button", name="Diameter of the guide: 240 mm")).to_be_visible()
        self.assertEqual(self.stored(piece)["guides"][0]["diameter"], 240)

    def test_overflow_is_said_in_millimetres_with_its_letters(self) -> None:
        page, _ = self.open_barrel_head()
        page.get_by_label("Height", exact=True).fill("60")
        page.keyboard.press("Enter")
        expect(
            page.get_by_text(re.compile(r"[\d.]+ mm of this lettering do not fit"))
        ).to_be_visible()
        expect(page.locator("main [data-lettering=name] path.lost").first).to_be_visible()

    def test_half_a_word_is_no_fault_until_the_hand_rests(self) -> None:
        words = {**document()["letterings"][0], "fit": {"kind": "gap"}}
        page, _ = self.opened(letterings=[words])
        field = page.get_by_role("textbox", name="Words")
        fault = page.get_by_text(re.compile("one letter has no gap"))
        field.fill("")
        self.wait_until_kept(page)
        # No words at all are no fault either.
        expect(page.locator("main .fault")).to_have_count(0)
        page.evaluate(
            """() => {
              window.faults = 0;
              const count = () => (window.faults += document.querySelectorAll('.fault').length);
              const all = { childList: true, subtree: true };
              new MutationObserver(count).observe(document.body, all);
            }"""
        )
        field.press_sequentially("PEARS", delay=120)
        self.wait_until_kept(page)
        self.assertEqual(page.evaluate("window.faults"), 0)
        field.fill("P")
        expect(fault).to_be_visible()

    def test_what_cannot_be_laid_out_is_said_at_its_field_and_not_kept(self) -> None:
        page, piece = self.open_barrel_head()
        page.get_by_role("button", name="PRESSED BY HAND").click()
        page.get_by_label("Standoff", exact=True).fill("500")
        page.keyboard.press("Enter")
        expect(self.kept(page)).to_contain_text("not kept")
        expect(page.get_by_text(re.compile("bends to a radius of 120 mm")).first).to_be_visible()
        page.get_by_label("Standoff", exact=True).fill("-8")
        page.keyboard.press("Enter")
        self.wait_until_kept(page)
        self.assertEqual(self.stored(piece)["letterings"][1]["standoff"], -8)

    def test_two_tabs_the_stale_write_is_refused_and_nothing_is_lost(self) -> None:
        one, piece = self.open_barrel_head()
        two = self.open(f"/pieces/{piece}")
        expect(two.get_by_role("textbox", name="Words")).to_have_value("QUILLMERE ORCHARD")
        one.get_by_role("textbox", name="Words").fill("THEIRS")
        one.keyboard.press("Enter")
        self.wait_until_kept(one)
        two.get_by_role("textbox", name="Words").fill("OURS")
        two.keyboard.press("Enter")
        dialog = two.get_by_role("dialog")
        expect(dialog).to_contain_text("changed in another window")
        kept = int(re.search(r"revision (\d+)", dialog.inner_text())[1])  # type: ignore[index]
        self.assertEqual(self.stored(piece)["letterings"][0]["text"], "THEIRS")
        refused = self.api(f"/api/pieces/{piece}/revisions/{kept}")
        self.assertEqual(refused["letterings"][0]["text"], "OURS")
        dialog.get_by_role("button", name="Replace it with mine").click()
        expect(dialog).to_have_count(0)
        self.wait_until_kept(two)
        self.assertEqual(self.stored(piece)["letterings"][0]["text"], "OURS")
        two.get_by_role("button", name="Undo").click()
        expect(two.get_by_role("textbox", name="Words")).to_have_value("THEIRS")

    def test_mine_can_become_a_piece_of_its_own(self) -> None:
        page, piece = self.open_barrel_head()
        current = self.api(f"/api/pieces/{piece}")
        theirs = {**current["piece"], "title": "Theirs"}
        self.api(f"/api/pieces/{piece}", "PUT", {"base": current["revision"], "piece": theirs})
        page.get_by_role("textbox", name="Words").fill("OURS")
        page.keyboard.press("Enter")
        page.get_by_role("button", name="Mine as a new piece").click()
        expect(page).not_to_have_url(re.compile(piece))
        expect(page.get_by_role("textbox", name="Words")).to_have_value("OURS")
        self.assertEqual(self.stored(piece)["title"], "Theirs")

    def test_a_lost_connection_is_said_and_the_change_kept_when_it_is_back(self) -> None:
        page, piece = self.open_barrel_head()
        page.context.set_offline(True)
        page.get_by_label("Height", exact=True).focus()
        page.keyboard.press("ArrowUp")
        page.keyboard.press("Tab")
        expect(self.kept(page)).to_have_text("not kept: Ulvent does not answer")
        page.context.set_offline(False)
        self.wait_until_kept(page)
        self.assertAlmostEqual(self.stored(piece)["letterings"][0]["height"], 18.1)

    def test_a_piece_that_is_not_there(self) -> None:
        page = self.open("/pieces/00000000-0000-0000-0000-000000000000")
        expect(page.get_by_role("alert")).to_contain_text("no such piece")


class PathGuides(ApplicationTest):
    def test_a_piece_with_a_path_guide_opens_and_slides(self) -> None:
        guides = [{"id": "rim", "kind": "path", "d": "M-100 0C-50 120 50 -120 100 0"}]
        created = self.api("/api/pieces", "POST", {"piece": document(guides=guides)})
        page = self.open(f"/pieces/{created['id']}")
        expect(page.locator("main [data-lettering=name] .letters path")).to_have_count(16)
        page.get_by_label("Height", exact=True).fill("8")
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name="Height of capitals: 8 mm")).to_be_visible()
        self.drag(page, page.locator("section [data-lettering=name]").first, 200, 0)
        self.wait_until_kept(page)
        lettering = self.stored(created["id"])["letterings"][0]
        self.assertGreater(lettering["at"], 10)
        # The figure typed just before is not lost to the drag.
        self.assertEqual(lettering["height"], 8)


if __name__ == "__main__":
    unittest.main()

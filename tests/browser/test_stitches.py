"""Thread by hand: a name in satin, a border in one line, a column corrected, a file sewn."""

from __future__ import annotations

import re
import unittest

from playwright.sync_api import Locator, Page, expect

from tests.browser.application import LetteringTest


class StitchesTest(LetteringTest):
    def stitches_of(self, title: str) -> tuple[Page, str]:
        page, piece = self.copy_of(title)
        self.go(page, "Stitches")
        return page, piece

    def go(self, page: Page, view: str) -> None:
        page.get_by_role("link", name=view, exact=True).click()
        if view == "Stitches":
            expect(self.thread(page)).to_be_visible()

    def thread(self, page: Page) -> Locator:
        return page.get_by_role("img", name=re.compile("stitches sewn$"))

    def said(self, page: Page) -> Locator:
        return page.get_by_role("complementary", name="What is sewn").locator("p").first

    def count(self, page: Page) -> int:
        words = self.said(page).inner_text()
        return int(words.split()[0])

    def particulars(self, page: Page) -> Locator:
        return page.get_by_role("complementary", name="Particulars")


class Satin(StitchesTest):
    def test_a_name_on_a_saved_line_is_slid_and_retyped(self) -> None:
        page, piece = self.stitches_of("Apron badge")
        before = self.count(page)
        self.assertGreater(before, 2000)
        self.go(page, "Layout")
        letters = page.locator("main [data-lettering=what] .letters path")
        self.drag(page, letters.nth(5), 18, 0)
        self.eventually(lambda: self.stored(piece)["letterings"][1]["at"] != 0.5)
        self.go(page, "Stitches")
        # The same letters at another place: the same stitches.
        self.assertEqual(self.count(page), before)
        self.go(page, "Layout")
        contents = page.get_by_role("navigation", name="Contents")
        contents.locator("button.lettering").last.click()
        words = page.get_by_role("textbox", name="Words", exact=True)
        words.fill("Pie helper")
        words.press("Enter")
        self.eventually(lambda: self.stored(piece)["letterings"][1]["text"] == "Pie helper")
        self.go(page, "Stitches")
        self.assertLess(self.count(page), before)

    def test_thread_is_slid_along_its_line_and_sewn_again(self) -> None:
        page, piece = self.stitches_of("Apron badge")
        before = self.count(page)
        drawing = page.locator("svg.above")
        page.keyboard.press("Home")
        page.keyboard.press("ArrowRight")
        needle = page.locator("path.needle").get_attribute("d") or ""
        x, y = (float(one) for one in needle[1:].split("l")[0].split())
        page.keyboard.press("End")
        box = drawing.bounding_box()
        assert box is not None
        x, y = box["x"] + x, box["y"] + y
        stored = self.stored(piece)["letterings"]
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + 25, y, steps=8)
        slid = page.locator("[data-slid] path")
        expect(slid.first).to_be_visible()
        which = page.locator("[data-slid]").get_attribute("data-slid")
        page.mouse.up()
        place = next(at for at, one in enumerate(stored) if one["id"] == which)
        self.eventually(
            lambda: self.stored(piece)["letterings"][place]["at"] != stored[place]["at"]
        )
        expect(slid).to_have_count(0)
        self.assertEqual(self.count(page), before)
        page.keyboard.press("Control+z")
        self.eventually(lambda: self.stored(piece)["letterings"] == stored)

    def test_the_sewing_is_rehearsed_letter_by_letter_and_stitch_by_stitch(self) -> None:
        page, _ = self.stitches_of("Apron badge")
        page.keyboard.press("Home")
        expect(self.thread(page)).to_have_accessible_name(re.compile("^0 of"))
        for _ in range(3):
            page.keyboard.press("Shift+ArrowRight")
        expect(self.thread(page)).to_have_accessible_name(re.compile("^3 of"))
        page.keyboard.press("ArrowRight")
        expect(page.get_by_text(re.compile("“U” of QUILLMERE|“Q” of QUILLMERE"))).to_be_visible()
        listed = page.get_by_role("complementary", name="What is sewn")
        listed.get_by_role("button", name="M", exact=True).click()
        expect(page.get_by_text(re.compile("“M” of QUILLMERE"))).to_be_visible()

    def test_cloth_and_figures_are_chosen_and_taken_back(self) -> None:
        page, piece = self.stitches_of("Apron badge")
        before = self.count(page)
        self.particulars(page).get_by_label("Cloth").select_option(label="Towelling")
        self.eventually(lambda: self.stored(piece)["sewing"]["cloth"] == "towelling")
        self.type(page, "Stitches of one side", "0.8")
        self.eventually(lambda: self.stored(piece)["sewing"]["spacing"] == 0.8)
        expect(self.said(page)).not_to_contain_text(str(before))
        self.type(page, "Stitches of one side", "90")
        self.assertEqual(self.stored(piece)["sewing"]["spacing"], 0.8)
        for _ in range(2):
            page.get_by_role("button", name="Undo").click()
        self.eventually(lambda: self.stored(piece)["sewing"]["cloth"] == "canvas")
        expect(self.said(page)).to_contain_text(f"{before} stitches")

    def test_a_column_is_corrected_by_hand_for_every_such_letter(self) -> None:
        page, piece = self.stitches_of("Apron badge")
        listed = page.get_by_role("complementary", name="What is sewn")
        listed.get_by_role("button", name="QUILLMERE", exact=True).click()
        self.particulars(page).get_by_role("button", name="columns…").nth(3).click()
        handles = page.locator("circle.handle")
        expect(handles.first).to_be_visible()
        self.drag(page, handles.first, -5, -2)
        self.eventually(lambda: len(self.stored(piece)["sewing"]["corrections"]) == 1)
        (correction,) = self.stored(piece)["sewing"]["corrections"]
        self.assertEqual((correction["face"], correction["letter"]), ("zilla-slab-semibold", "L"))
        self.particulars(page).get_by_role("button", name="back to the columns as found").click()
        self.eventually(lambda: self.stored(piece)["sewing"]["corrections"] == [])


class Lines(StitchesTest):
    def test_a_border_is_quilted_in_one_line(self) -> None:
        page, piece = self.stitches_of("Quilt border")
        expect(self.said(page)).to_contain_text("0 jumps, 0 trims")
        expect(page.get_by_text(re.compile(r"one line, \d+ % more"))).to_be_visible()
        listed = page.get_by_role("complementary", name="What is sewn")
        listed.get_by_role("button", name="apple pear plum quince medlar").first.click()
        self.particulars(page).get_by_label("Sewn as").select_option(label="a running line")
        self.eventually(lambda: self.stored(piece)["sewing"]["letterings"][0]["stitch"] == "run")
        expect(self.said(page)).not_to_contain_text("0 jumps")

    def test_a_column_that_is_too_thin_becomes_a_line_by_the_remedy(self) -> None:
        line = {"id": "l", "kind": "line", "length": 60}
        words = {"id": "t", "guide": "l", "text": "il", "face": "lato-regular", "height": 6}
        page, piece = self.opened(
            guides=[line], letterings=[words],
            sewing={"letterings": [{"of": "t", "stitch": "satin"}]},
        )  # fmt: skip
        self.go(page, "Proof")
        finding = page.get_by_role("complementary", name="Findings").get_by_role(
            "listitem").filter(has_text=re.compile("satin is only"))  # fmt: skip
        finding.get_by_role("button", name="sew them as a triple line").click()
        expect(finding).to_have_count(0)
        stored = self.stored(piece)["sewing"]["letterings"][0]["letters"]
        self.assertEqual({one["stitch"] for one in stored}, {"bean"})


class Machines(StitchesTest):
    def test_the_file_is_sewn_on_trial_and_held_against_what_was_meant(self) -> None:
        page, _ = self.stitches_of("Apron badge")
        self.type(page, "Thread breaks at stitch", "300")
        page.get_by_role("button", name="Sew it on the stitcher").click()
        out = page.get_by_text(re.compile("stitches came out"))
        expect(out).to_contain_text("The thread broke; it went back 8 stitches")
        off = re.search(r"none farther than ([\d.]+) mm", out.inner_text())
        assert off
        self.assertLess(float(off[1]), 0.09, "needle points are kept in tenths of a millimetre")
        expect(page.locator("path.came").first).to_be_attached()

    def test_one_hooping_is_taken_away_and_sewn(self) -> None:
        page, _ = self.stitches_of("Gate banner, appliqué")
        page.get_by_label("Taken away as").select_option(label="Stitches, JEF")
        with page.expect_download() as download:
            page.get_by_role("button", name="Hoop 2", exact=True).click()
        self.assertTrue(download.value.suggested_filename.endswith("hoop 2.jef"))
        page.get_by_label("Hooping").select_option(label="Hoop 2")
        page.get_by_role("button", name="Sew it on the stitcher").click()
        expect(page.get_by_text(re.compile("stitches came out"))).to_be_visible()
        page.get_by_label("Hooping").select_option(label="all of it")
        page.get_by_role("button", name="Sew it on the stitcher").click()
        expect(page.get_by_text("The stitcher refuses the file: takes 267")).to_be_visible()
        # While a figure stands that is none, nothing is sewn and no file is written.
        self.type(page, "Stitches of one side", "half")
        page.get_by_role("button", name="Hoop 2", exact=True).click()
        expect(page.get_by_text("a typed figure is not understood")).to_be_visible()
        expect(self.kept(page)).to_contain_text("not kept")

    def test_a_stitch_file_is_set_beside_the_lettering(self) -> None:
        page, _ = self.stitches_of("Apron badge")
        page.get_by_role("button", name="Export a file").click()
        with page.expect_download() as download:
            page.get_by_role("menuitem", name="Stitches, PES").click()
        path = download.value.path()
        file = {"name": "badge.pes", "mimeType": "", "buffer": path.read_bytes()}
        page.locator("input[type=file]").last.set_input_files(file)
        expect(page.get_by_text(re.compile(r"^badge.pes: \d+ stitches"))).to_be_visible()
        expect(page.locator("path.file").first).to_be_attached()
        wrong = {"name": "badge.pes", "mimeType": "", "buffer": b"no stitches"}
        page.locator("input[type=file]").last.set_input_files(wrong)
        expect(page.get_by_text(re.compile("no stitch file"))).to_be_visible()


if __name__ == "__main__":
    unittest.main()

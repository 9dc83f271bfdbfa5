"""Runs by hand: a run sheet for drawing and then cutting, and its rehearsal."""

from __future__ import annotations

import re
import unittest
from pathlib import Path

from playwright.sync_api import Locator, Page, expect

from tests.browser.application import LetteringTest


class RunTest(LetteringTest):
    def run_of(self, title: str) -> tuple[Page, str]:
        page, piece = self.copy_of(title)
        page.get_by_role("link", name="Run", exact=True).click()
        expect(page.get_by_role("img", name=re.compile("^The run at"))).to_be_visible()
        return page, piece

    def sheet(self, page: Page) -> Locator:
        return page.get_by_role("complementary", name="Run sheet")

    def passes(self, page: Page) -> Locator:
        return self.sheet(page).locator("ol > li")


class Sheets(RunTest):
    def test_a_figure_that_cannot_be_stays_in_sight_is_said_once_and_can_be_emptied(self) -> None:
        page, piece = self.run_of("Gate sign")
        before = self.stored(piece)["run"]
        self.passes(page).last.get_by_role("button").first.click()
        speed = page.get_by_role("textbox", name="Speed")
        speed.fill("-5")
        speed.press("Enter")
        alert = page.get_by_role("alert")
        expect(alert).to_contain_text("pass 2, speed: must be at least 0.01")
        expect(alert).to_have_count(1)
        expect(speed).to_have_value("-5")
        self.assertEqual(self.stored(piece)["run"], before)
        speed.fill("")
        speed.press("Enter")
        expect(alert).to_have_count(0)
        self.wait_until_kept(page)
        self.assertIsNone(self.stored(piece)["run"]["passes"][1]["speed"])

    def test_draw_then_cut_by_one_choice_and_by_hand(self) -> None:
        page, piece = self.run_of("Barrel head")
        expect(self.passes(page)).to_have_count(1)
        # To look at a pass changes nothing.
        self.passes(page).first.get_by_role("button").first.click()
        expect(page.get_by_label("How often")).to_be_visible()
        self.assertIsNone(self.stored(piece)["run"])
        page.keyboard.press("Escape")
        choice = self.sheet(page).get_by_label("Begin from")
        labels = choice.locator("option").all_inner_texts()
        choice.select_option(label=next(one for one in labels if one.startswith("Draw, then cut")))
        expect(self.passes(page).first).to_contain_text("Draw")
        self.eventually(lambda: self.stored(piece)["run"]["passes"][0]["tool"] == "pen")
        self.passes(page).first.get_by_role("button").first.click()
        page.get_by_label("How often").fill("2")
        page.keyboard.press("Enter")
        self.eventually(lambda: self.stored(piece)["run"]["passes"][0]["repeats"] == 2)
        self.sheet(page).get_by_role("checkbox", name="held back").check(force=True)
        expect(self.passes(page).first).to_contain_text("held back")
        self.eventually(lambda: self.stored(piece)["run"]["passes"][0]["held"] is True)
        for _ in range(2):
            page.get_by_role("button", name="Undo").click()
        self.eventually(lambda: self.stored(piece)["run"]["passes"][0]["repeats"] == 1)

    def test_a_pass_is_added_moved_and_taken_away(self) -> None:
        page, piece = self.run_of("Paper frame")
        self.sheet(page).get_by_role("button", name="Add a pass").click()
        expect(self.passes(page)).to_have_count(3)
        self.passes(page).nth(2).get_by_role("button", name="earlier").click()
        self.eventually(
            lambda: (
                [one["id"] for one in self.stored(piece)["run"]["passes"]]
                == ["draw", "pass-3", "cut"]
            )
        )
        self.passes(page).nth(1).get_by_role("button", name="remove").click()
        expect(self.passes(page)).to_have_count(2)

    def test_a_sign_is_carved(self) -> None:
        page, piece = self.run_of("Oak sign")
        drawing = page.get_by_role("img", name=re.compile("^The run at"))
        self.passes(page).first.get_by_role("button").first.click()
        expect(page.get_by_label("Between its sides")).to_have_value("60")
        before = self.sheet(page).locator("p").first.inner_text()
        # A wider angle is less deep: there is less to go round for.
        page.get_by_label("Between its sides").fill("100")
        page.keyboard.press("Enter")
        self.eventually(lambda: self.stored(piece)["run"]["passes"][0]["carving"]["angle"] == 100)
        expect(self.sheet(page).locator("p").first).not_to_have_text(before)
        page.keyboard.press("Escape")
        page.keyboard.press("End")
        dark = "c => { const d = c.getContext('2d').getImageData(0, 0, c.width, c.height).data;"
        dark += " let n = 0; for (let k = 0; k < d.length; k += 4)"
        dark += " if (d[k + 3] > 200 && d[k] < 190 && d[k] > 90) n += 1; return n; }"
        canvas = page.locator("main canvas").last
        self.eventually(lambda: canvas.evaluate(dark) > 2000)
        page.keyboard.press("Home")
        expect(drawing).to_have_accessible_name(re.compile("^The run at 0.0 seconds"))
        self.eventually(lambda: canvas.evaluate(dark) < 2000)


class Rehearsals(RunTest):
    def test_time_is_gone_to_line_by_line_and_played(self) -> None:
        page, _ = self.run_of("Paper frame")
        drawing = page.get_by_role("img", name=re.compile("^The run at"))
        page.keyboard.press("Home")
        expect(drawing).to_have_accessible_name(re.compile("^The run at 0.0 seconds: 0 of 249"))
        for _ in range(3):
            page.keyboard.press("ArrowRight")
        expect(drawing).to_have_accessible_name(re.compile(": 2 of 249 lines done"))
        page.keyboard.press("ArrowLeft")
        expect(drawing).to_have_accessible_name(re.compile(": 1 of 249 lines done"))
        self.passes(page).nth(1).get_by_role("button").first.click()
        self.passes(page).nth(1).get_by_role("button", name=re.compile("^2 ")).click()
        expect(drawing).to_have_accessible_name(re.compile(": 248 of 249 lines done"))
        page.get_by_role("radio", name="64×").check(force=True)
        page.get_by_role("button", name="Play").click()
        expect(drawing).to_have_accessible_name(re.compile(": 249 of 249 lines done"))

    def test_a_run_is_taken_away_for_a_plotter(self) -> None:
        page, _ = self.run_of("Paper frame")
        with page.expect_download() as waiting:
            page.get_by_role("button", name="Export a file").click()
            page.get_by_role("menuitem", name="HP-GL, the run").click()
        self.assertTrue(waiting.value.suggested_filename.endswith(".plt"))
        with open(waiting.value.path(), "rb") as file:
            text = file.read().decode()
        self.assertTrue(text.startswith("IN;PA;"))
        self.assertEqual(re.findall(r"SP(\d)", text), ["1", "2", "0"])
        # One pass of it alone: the other is cut on another day.
        cut = self.passes(page).nth(1)
        cut.get_by_role("button").first.click()
        with page.expect_download() as waiting:
            cut.get_by_role("button", name="PLT", exact=True).click()
        self.assertEqual(re.findall(r"SP(\d)", Path(waiting.value.path()).read_text()), ["2", "0"])


if __name__ == "__main__":
    unittest.main()

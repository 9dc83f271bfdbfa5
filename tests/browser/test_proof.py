"""The proof by hand: a stencil bridged, a name joined, a border, material, findings accepted."""

from __future__ import annotations

import re
import unittest
from pathlib import Path

from playwright.sync_api import Locator, Page, expect

from tests.browser.application import LetteringTest


class ProofTest(LetteringTest):
    def proof_of(self, title: str) -> tuple[Page, str]:
        page, piece = self.copy_of(title)
        page.get_by_role("link", name="Proof", exact=True).click()
        expect(page.get_by_role("group", name=re.compile("^The piece as material"))).to_be_visible()
        return page, piece

    def hold_against(self, page: Page, name: str) -> None:
        page.get_by_role("radio", name="Tool sheets").check(force=True)
        page.get_by_label("Check it also against").select_option(label=name)
        expect(page.get_by_role("button", name=name, exact=True)).to_be_visible()

    def finding(self, page: Page, words: str) -> Locator:
        return page.get_by_role("complementary", name="Findings").get_by_role("listitem").filter(
            has_text=re.compile(words)
        )  # fmt: skip

    def step(self, page: Page, label: str) -> Locator:
        return page.get_by_role("checkbox", name=re.compile(f"^{label}"))


class Stencils(ProofTest):
    def test_counters_fall_are_bridged_by_one_action_and_the_proof_is_clean(self) -> None:
        page, piece = self.proof_of("Barrel head")
        self.hold_against(page, "Stencil film, blade")
        falls = self.finding(page, "would fall out")
        expect(falls).to_have_count(2)
        expect(page.get_by_text(re.compile(r"\d+ parts fallen out"))).to_be_visible()
        for left in (1, 0):
            falls.first.get_by_role("button", name=re.compile("^tie them with bridges")).click()
            expect(falls).to_have_count(left)
        expect(page.get_by_text(re.compile("fallen out"))).to_have_count(0)
        stored = self.stored(piece)["letterings"]
        self.assertEqual([one["prepare"]["bridges"]["width"] for one in stored], [1.2, 1.2])

    def test_a_bridge_is_moved_and_taken_away_by_hand(self) -> None:
        page, piece = self.proof_of("Crate stencil")
        bridges = page.get_by_role("button", name=re.compile(r"^Bridge \d+ of letter"))
        expect(bridges.first).to_be_visible()
        count = bridges.count()
        bridges.first.focus()
        page.keyboard.press("Enter")
        card = page.get_by_role("dialog", name="Bridge")
        card.get_by_role("button", name="Take it away").click()
        expect(bridges).to_have_count(count - 1)
        self.eventually(
            lambda: self.stored(piece)["prepare"]["bridges"]["changes"][0]["removed"] is True
        )
        page.keyboard.press("Control+z")
        expect(bridges).to_have_count(count)

    def test_a_bridge_is_pulled_round_its_counter(self) -> None:
        page, piece = self.proof_of("Crate stencil")
        bridge = page.get_by_role("button", name="Bridge 1 of letter 11", exact=True).first
        expect(bridge).to_be_visible()
        box = bridge.bounding_box()
        assert box
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + 8, y + 6, steps=4)
        page.mouse.move(x + 14, y + 22, steps=4)
        page.mouse.up()
        self.eventually(lambda: len(self.stored(piece)["prepare"]["bridges"]["changes"]) == 1)
        (change,) = self.stored(piece)["prepare"]["bridges"]["changes"]
        self.assertEqual((change["letter"], change["bridge"]), (10, 0))
        # Pulled from above the O to its right: about a quarter turn.
        self.assertLess(abs(change["angle"]), 70.0)


class Joined(ProofTest):
    def test_a_name_in_a_script_becomes_one_outline(self) -> None:
        page, piece = self.proof_of("Jam tag")
        page.get_by_label("Done to", exact=True).select_option(index=1)
        expect(self.step(page, "Join")).to_be_checked()
        self.step(page, "Join").uncheck()
        touching = self.finding(page, "run into each other")
        expect(touching).to_be_visible()
        touching.get_by_role("button", name="join what overlaps").click()
        expect(touching).to_have_count(0)
        expect(self.step(page, "Join")).to_be_checked()
        self.eventually(
            lambda: self.stored(piece)["letterings"][0]["prepare"]["join"] == {"over": 0}
        )

    def test_words_that_are_too_long_are_mended_from_here(self) -> None:
        page, piece = self.proof_of("Jam tag")
        words = self.stored(piece)["letterings"][0]
        page.get_by_role("link", name="Layout", exact=True).click()
        page.get_by_role("textbox", name="Words").fill(words["text"] * 4)
        page.get_by_role("link", name="Proof", exact=True).click()
        overflow = self.finding(page, "do not fit on its guide")
        overflow.get_by_role("button", name=re.compile("^smaller")).click()
        expect(overflow).to_have_count(0)
        self.eventually(lambda: self.stored(piece)["letterings"][0]["height"] < words["height"])

    def test_a_file_with_faults_is_asked_about_once(self) -> None:
        page, _ = self.copy_of("Jam tag")
        box = page.get_by_role("textbox", name="Words")
        box.fill(box.input_value() * 4)
        expect(page.get_by_text("do not fit on its guide")).to_be_visible()
        page.get_by_role("button", name="Export a file").click()
        page.get_by_role("menuitem", name="SVG, lettering only").click()
        asked = page.get_by_role("dialog")
        expect(asked).to_contain_text(re.compile(r"\d+ of \d+ letters (is|are) not in the file"))
        expect(asked).to_contain_text("do not fit on its guide")
        asked.get_by_role("button", name="Back to the piece").click()
        expect(asked).to_have_count(0)
        page.get_by_role("button", name="Export a file").click()
        page.get_by_role("menuitem", name="SVG, lettering only").click()
        with page.expect_download() as download:
            page.get_by_role("button", name="Save the file anyway").click()
        text = Path(download.value.path()).read_text(encoding="utf-8")
        self.assertRegex(text, r"<desc>\d+ of \d+ letters (is|are) not in the file</desc>")

    def test_a_border_is_drawn_at_its_typed_distance(self) -> None:
        page, piece = self.proof_of("Jam tag")
        page.get_by_label("Done to", exact=True).select_option(index=1)
        self.step(page, "Border").check()
        expect(page.locator("path.border")).to_have_count(1)
        # What each line of the proof becomes is said by its style and a letter.
        legend = page.get_by_role("list", name="What the lines mean")
        expect(legend.get_by_role("listitem")).to_have_text(["letters: c cut", "lines: c cut"])
        before = page.locator("path.border").get_attribute("d")
        page.get_by_label("Distance", exact=True).fill("1/8in")
        page.get_by_label("Distance", exact=True).press("Enter")
        self.eventually(
            lambda: (
                self.stored(piece)["letterings"][0]["prepare"]["borders"][0]["distance"] == 3.175
            )
        )
        self.eventually(lambda: page.locator("path.border").get_attribute("d") != before)


class Material(ProofTest):
    def test_both_materials_can_be_looked_at(self) -> None:
        page, _ = self.proof_of("Barrel head")
        kept = page.get_by_text(re.compile(r"^\d+ parts? kept"))
        expect(kept).to_be_visible()
        one_way = kept.text_content()
        page.get_by_text(re.compile(r"^\d+ parts, by area")).click()
        listed = page.locator("aside ol li")
        self.assertEqual(f"{listed.count()} parts kept", str(one_way).split(",")[0].strip())
        page.get_by_role("radio", name="Letters are removed").check(force=True)
        expect(page.get_by_text(re.compile("fallen out"))).to_be_visible()
        self.assertNotEqual(kept.text_content(), one_way)

    def test_an_accepted_finding_is_laid_aside_and_comes_back(self) -> None:
        page, piece = self.proof_of("Barrel head")
        self.hold_against(page, "Stencil film, blade")
        first = self.finding(page, "would fall out").first
        first.get_by_role("button", name="accept", exact=True).click()
        expect(page.get_by_text("Accepted until they get worse")).to_be_visible()
        self.eventually(lambda: len(self.stored(piece)["accepted"]) == 1)
        page.reload()
        expect(page.get_by_role("button", name="no longer accept")).to_be_visible()
        page.get_by_role("button", name="no longer accept").click()
        expect(page.get_by_text("Accepted until they get worse")).to_have_count(0)

    def test_a_step_that_cannot_be_done_is_said_and_nothing_is_lost(self) -> None:
        page, _ = self.proof_of("Beehive arch")
        self.step(page, "Cut the letters out of a shape").check()
        page.get_by_label("Shape", exact=True).select_option(index=1)
        expect(page.get_by_text(re.compile("it has no inside"))).to_be_visible()
        page.get_by_label("Shape", exact=True).select_option(index=0)
        expect(page.get_by_text(re.compile("it has no inside"))).to_have_count(0)


if __name__ == "__main__":
    unittest.main()

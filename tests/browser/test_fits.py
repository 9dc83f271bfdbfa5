"""Fits by hand: solved live, shown as solved, made plain by a click, and told apart."""

from __future__ import annotations

import math
import re

import numpy as np
from playwright.sync_api import Page, expect

from tests.browser.application import LetteringTest


class FitTest(LetteringTest):
    def choose_fit(self, page: Page, label: str) -> None:
        self.show(page, "Fit")
        page.get_by_label("Its size is").select_option(label=label)

    def solved(self, page: Page, name: str) -> float:
        """The figure of a dimension that is marked as solved."""
        button = page.get_by_role("button", name=re.compile(f"^{name}: .*solved$"))
        expect(button).to_be_visible()
        return float(re.findall(r"[\d.]+", str(button.get_attribute("aria-label")))[0])


class Heights(FitTest):
    def test_as_high_as_fits_is_solved_again_and_made_plain_by_a_click(self) -> None:
        page, piece = self.copy_of("Beehive arch")
        self.choose_fit(page, "as high as fits")
        expect(page.get_by_text(re.compile(r"as high as fits: [\d.]+ mm"))).to_be_visible()
        self.eventually(lambda: self.stored(piece)["letterings"][0]["fit"] is not None)
        first = self.settings_of(piece)[0]
        self.assertAlmostEqual(first.length, first.baseline.length, places=6)
        shown = self.solved(page, "Height of capitals")
        self.assertAlmostEqual(shown, first.lettering.height, places=3)
        self.show(page, "Words")
        page.get_by_role("textbox", name="Words").fill("HONEY")
        self.eventually(lambda: self.settings_of(piece)[0].lettering.text == "HONEY")
        second = self.settings_of(piece)[0]
        self.assertGreater(second.lettering.height, first.lettering.height)
        self.assertAlmostEqual(second.length, second.baseline.length, places=6)
        self.show(page, "Fit")
        page.get_by_role("button", name="End the fit, keep these figures").click()
        self.eventually(lambda: self.stored(piece)["letterings"][0]["fit"] is None)
        plain = self.stored(piece)["letterings"][0]["height"]
        self.assertAlmostEqual(plain, second.lettering.height, places=6)

    def test_it_follows_a_diameter_that_is_dragged(self) -> None:
        page, piece = self.copy_of("Two jar rings")
        self.choose_fit(page, "as high as fits")
        before = self.solved(page, "Height of capitals")
        page.get_by_role("button", name=re.compile("^Face spacing ·")).click()
        grip = page.locator("[data-grip='size']").bounding_box()
        assert grip
        x, y = grip["x"] + grip["width"] / 2, grip["y"] + grip["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        ring = page.locator("path.guide.chosen").bounding_box()
        assert ring
        middle = ring["x"] + ring["width"] / 2, ring["y"] + ring["height"] / 2
        page.mouse.move(x + 0.3 * (x - middle[0]), y + 0.3 * (y - middle[1]), steps=6)
        # Still held: the height has followed already.
        entry = page.get_by_role("button", name=re.compile("TAWNY PLUM")).first
        self.eventually(lambda: self.height_in(entry.inner_text()) > before + 0.5)
        page.mouse.up()
        self.wait_until_kept(page)
        after = self.settings_of(piece)[0]
        self.assertAlmostEqual(after.length, after.baseline.length, places=6)

    def height_in(self, entry: str) -> float:
        return float(re.findall(r"([\d.]+) mm", entry)[0])

    def test_a_typed_figure_ends_the_fit(self) -> None:
        page, piece = self.copy_of("Cider press banner")
        self.solved(page, "Height of capitals")
        self.type(page, "As high as fits", "20")
        self.eventually(lambda: self.stored(piece)["letterings"][0]["fit"] is None)
        self.assertEqual(self.stored(piece)["letterings"][0]["height"], 20)

    def test_names_of_a_set_change_together(self) -> None:
        page, piece = self.copy_of("Tree labels, one height")
        before = self.settings_of(piece)[2].lettering.height
        page.get_by_role("button", name=re.compile("^WINTER PIPPIN")).click()
        page.get_by_role("textbox", name="Words").fill("PIPPIN")
        entry = page.get_by_role("button", name=re.compile("^PLUM"))
        self.eventually(lambda: self.height_in(entry.inner_text()) > before + 1)
        self.eventually(lambda: self.stored(piece)["letterings"][1]["text"] == "PIPPIN")
        heights = {round(one.lettering.height, 6) for one in self.settings_of(piece)}
        self.assertEqual(len(heights), 1)


class Guides(FitTest):
    def test_a_ring_is_made_to_fit_and_its_diameter_marked(self) -> None:
        page, piece = self.copy_of("Two jar rings")
        self.choose_fit(page, "the guide made to fit")
        self.eventually(lambda: self.stored(piece)["letterings"][0]["fit"] is not None)
        setting = self.settings_of(piece)[0]
        diameter = self.solved(page, "Diameter of the guide")
        self.assertAlmostEqual(diameter, setting.length / math.pi, places=3)
        expect(page.get_by_text(f"diameter that fits: {diameter:g} mm")).to_be_visible()
        page.get_by_role("button", name=re.compile("^Diameter of the guide")).click()
        figure = page.get_by_role("textbox", name="Diameter of the guide")
        figure.fill("50")
        figure.press("Enter")
        self.eventually(lambda: self.stored(piece)["letterings"][0]["fit"] is None)
        self.assertEqual(self.stored(piece)["guides"][0]["diameter"], 50)

    def test_a_contradiction_is_shown_with_its_figure(self) -> None:
        page, piece = self.copy_of("Barrel head")
        for words in ("QUILLMERE ORCHARD", "PRESSED BY HAND"):
            page.get_by_role("button", name=re.compile(f"^{words}")).click()
            self.choose_fit(page, "the guide made to fit")
        note = page.get_by_role("status").filter(has_text="this lettering needs a diameter of")
        expect(note).to_contain_text(re.compile(r"[\d.]+ mm apart"))
        self.eventually(lambda: self.stored(piece)["letterings"][1]["fit"] is not None)
        page.get_by_role("button", name="End the fit, keep these figures").click()
        expect(note).to_have_count(0)


class Nudges(LetteringTest):
    def test_a_gap_opened_by_hand_on_an_even_ring_stays_when_the_words_change(self) -> None:
        page, piece = self.copy_of("Two jar rings")
        page.get_by_role("button", name=re.compile("^TAWNY PLUM")).last.click()
        even = self.settings_of(piece)[1]
        bars = page.locator("section path.bars").first.bounding_box()
        letters = page.locator("section .letters path")
        first, second = (letters.nth(index).bounding_box() for index in (1, 2))
        assert bars and first and second
        x = (first["x"] + first["width"] + second["x"]) / 2
        page.mouse.move(x, bars["y"] + 8)
        page.mouse.down()
        page.mouse.move(x + 20, bars["y"] + 8, steps=6)
        page.mouse.up()
        self.eventually(lambda: len(self.stored(piece)["letterings"][1]["hand"]) == 1)
        (nudge,) = self.stored(piece)["letterings"][1]["hand"]
        self.assertGreater(nudge["gap"], 1)
        page.get_by_role("button", name="Done").click()
        page.get_by_role("textbox", name="Words").fill("A TAWNY PLUM")
        self.eventually(lambda: self.stored(piece)["letterings"][1]["text"] == "A TAWNY PLUM")
        self.wait_until_kept(page)
        after = self.settings_of(piece)[1]
        solved = np.isfinite(after.targets) & ~after.at_floor
        np.testing.assert_allclose(after.gaps.found[solved], after.targets[solved], rtol=1e-3)
        place = nudge["letter"]
        opened = even.gaps.found[place] + nudge["gap"]
        # The same pair, one letter later: opened as it was, its neighbours even.
        self.assertAlmostEqual(after.gaps.found[place + 1], opened, delta=0.25 * nudge["gap"])

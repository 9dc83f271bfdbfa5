"""Help: each control says what it does, and a first piece is led through step by step."""

from __future__ import annotations

import re
import unittest

from playwright.sync_api import Page, expect

from tests.browser.application import LetteringTest
from tools.check import ROOT

CONTROLS = "aside button, aside input, aside select, aside textarea"
LABEL = """one => (one.closest('fieldset')?.querySelector('legend')
  ?? one.closest('.bx--form-item, label')?.querySelector('.bx--label, .bx--checkbox-label')
  ?? one.closest('label') ?? one).textContent.trim()"""


class Help(LetteringTest):
    def silent(self, page: Page) -> list[str]:
        """The labels of those controls beside the drawing that say nothing."""
        page.eval_on_selector_all("aside details", "all => all.forEach(one => (one.open = true))")
        found = []
        for control in page.locator(CONTROLS).all():
            hidden = control.get_attribute("type") in ("radio", "checkbox")
            chooser = control.get_attribute("type") == "file"
            if chooser or not (control.is_visible() or hidden):
                continue
            control.dispatch_event("pointerover")
            if page.locator("aside .help").inner_text().startswith("Point at"):
                found.append(re.sub(r"\s+", " ", control.evaluate(LABEL)))
        return list(dict.fromkeys(found))

    def test_every_control_beside_the_drawing_says_what_it_does(self) -> None:
        silent: dict[str, list[str]] = {}
        page, _ = self.copy_of("Barrel head")
        for name in ("Words", "Letters", "Spread", "Fit"):
            self.show(page, name)
            silent[name] = self.silent(page)
        page.get_by_role("button", name=re.compile("^Rim ·")).click()
        silent["guide"] = self.silent(page)
        page.get_by_role("button", name=re.compile("^Disc")).click()
        silent["blank"] = self.silent(page)
        self.assertEqual({where: labels for where, labels in silent.items() if labels}, {})

    def test_help_is_read_to_who_does_not_see_it(self) -> None:
        page, _ = self.copy_of("Barrel head")
        page.get_by_label("Standoff", exact=True).focus()
        expect(page.locator("aside .help")).to_contain_text("stand off the guide")
        self.assertIn(
            "stand off the guide",
            page.get_by_label("Standoff", exact=True).get_attribute("aria-description") or "",
        )

    def test_a_first_piece_in_five_steps_that_can_be_left(self) -> None:
        page, _ = self.copy_of("Barrel head")
        page.get_by_role("link", name="Proof").click()
        page.keyboard.press("?")
        page.get_by_role("button", name="A first piece in five steps").click()
        for number, title in enumerate(
            ("Your words", "A face", "True sizes", "Even gaps", "Proof, then the file"), 1
        ):
            step = page.get_by_role("dialog", name=f"Step {number} of 5: {title}")
            expect(step).to_be_visible()
            ring = page.locator(".ring").bounding_box()
            assert ring
            self.assertGreater(ring["width"] * ring["height"], 300)
            if number < 5:
                step.get_by_role("button", name="Next").click()
        page.keyboard.press("Escape")
        expect(page.locator(".ring")).to_have_count(0)

    def test_a_page_for_each_job_is_reached_and_read_without_a_network(self) -> None:
        page, _ = self.copy_of("Barrel head")
        self.show(page, "Spread")
        link = page.get_by_role("link", name=re.compile("^How to"))
        self.assertEqual(link.get_attribute("href"), "/help/words-round-a-shape.html")
        help_page = self.open("/help/first-piece.html")
        jobs = help_page.get_by_role("navigation").get_by_role("link")
        addresses = [one.get_attribute("href") or "" for one in jobs.all()]
        self.assertEqual(len(addresses), len(list((ROOT / "docs" / "jobs").glob("*.md"))))
        for address in addresses:
            help_page.goto(f"{self.running.address}/help/{address}")
            expect(help_page.get_by_role("heading", level=1)).to_be_visible()
            for picture in help_page.get_by_role("img").all():
                self.assertGreater(picture.evaluate("one => one.naturalWidth"), 500)


if __name__ == "__main__":
    unittest.main()

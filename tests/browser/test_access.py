"""For everyone: axe-core finds nothing on any view or dialog; all is reached at other sizes."""

from __future__ import annotations

import re
import unittest
from typing import Any

from playwright.sync_api import Page, expect

from tests.browser.application import LetteringTest
from tools.check import ROOT

AXE = ROOT / "frontend" / "node_modules" / "axe-core" / "axe.min.js"
"""axe-core, the common engine of accessibility checks: WCAG 2.2 A and AA, and best practices."""


class Axe(LetteringTest):
    maxDiff = None

    def check(self, page: Page, what: str) -> None:
        page.evaluate(AXE.read_text(encoding="utf-8"))
        found: list[dict[str, Any]] = page.evaluate("axe.run().then(found => found.violations)")
        said = [
            f"{one['id']}: {node['html'][:160]} {node['failureSummary'][:200]}"
            for one in found
            for node in one["nodes"][:3]
        ]
        with self.subTest(what):
            self.assertEqual(said, [])

    def test_shelf_and_its_dialogs(self) -> None:
        page = self.open()
        expect(page.get_by_role("heading", name="Shelf")).to_be_visible()
        self.check(page, "shelf")
        page.get_by_role("button", name="New piece", exact=True).click()
        expect(page.get_by_role("dialog").get_by_role("img", name="The piece")).to_be_visible()
        self.check(page, "new piece")
        page.keyboard.press("Escape")
        page.get_by_role("button", name="More for Barrel head").first.click()
        self.check(page, "more for a piece")
        page.get_by_role("menuitem", name="Rename").click()
        self.check(page, "rename")

    def test_layout_page_by_page(self) -> None:
        page, _ = self.copy_of("Press dial")
        for name in ("Words", "Letters", "Spread", "Fit"):
            self.show(page, name)
            self.check(page, f"lettering, {name}")
        page.get_by_role("button", name=re.compile("^Scale ·")).click()
        self.check(page, "guide")
        page.get_by_role("button", name=re.compile("^Disc")).click()
        self.check(page, "blank")
        page.get_by_role("button", name="all guides").click()
        self.check(page, "gallery")

    def test_dialogs_of_a_piece(self) -> None:
        page, _ = self.copy_of("Barrel head")
        page.get_by_role("button", name=re.compile("^Face")).click()
        expect(page.get_by_role("dialog").get_by_role("img").first).to_be_attached()
        self.check(page, "faces")
        page.keyboard.press("Escape")
        page.keyboard.press("?")
        self.check(page, "shortcuts")
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Export a file").click()
        self.check(page, "export")
        page.keyboard.press("Escape")
        page.get_by_role("button", name="all guides").click()
        page.get_by_role("button", name="from the drawer", exact=True).click()
        self.check(page, "drawer")
        page.keyboard.press("Escape")
        page.get_by_role("button", name="all guides").click()
        page.get_by_role("button", name="from a file", exact=True).click()
        self.check(page, "from a file")

    def test_proof(self) -> None:
        for title in ("Crate stencil", "Van sign"):
            page, _ = self.copy_of(title)
            page.get_by_role("link", name="Proof").click()
            expect(page.get_by_role("main", name="Material")).to_be_visible()
            expect(page.locator("main svg path.sheet")).to_be_visible()
            self.check(page, f"proof of {title}")


class Sizes(LetteringTest):
    """At 150 % zoom of a small screen, and on a low one, nothing is cut off that is pressed."""

    def test_everything_is_reached_on_small_screens(self) -> None:
        for width, height in ((853, 533), (1024, 700), (2200, 1200)):
            page, _ = self.copy_of("Van sign")
            page.set_viewport_size({"width": width, "height": height})
            for view in ("Layout", "Proof"):
                page.get_by_role("link", name=view).click()
                expect(page.locator("main svg path").first).to_be_attached()
                page.wait_for_function("document.querySelectorAll('main').length === 1")
                with self.subTest(f"{view} at {width} × {height}"):
                    self.assertEqual(self.unreachable(page), [])

    def unreachable(self, page: Page) -> list[str]:
        """Controls that lie outside of the window though nothing scrolls to them."""
        found: list[str] = page.evaluate(
            """() => [...document.querySelectorAll('button, a, input, select, textarea')]
              .filter((one) => one.offsetParent && !one.closest('.visually-hidden, .bx--modal'))
              .filter((one) => !one.closest('details:not([open])'))
              .filter((one) => {
                one.scrollIntoView({ block: 'nearest', inline: 'nearest' });
                const box = one.getBoundingClientRect();
                if (!box.width || !box.height || box.width < 3) return false;
                return box.right > innerWidth + 1 || box.left < -1
                  || box.bottom > innerHeight + 1 || box.top < -1;
              })
              .map((one) => one.getAttribute('aria-label') || one.textContent.trim())"""
        )
        return found


if __name__ == "__main__":
    unittest.main()

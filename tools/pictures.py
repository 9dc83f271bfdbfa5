"""Take the pictures of the documentation anew, from the demo's pieces in the built page.

    .venv/bin/python tools/pictures.py            all
    .venv/bin/python tools/pictures.py layout     only those

Each is made as a person would come to it, at 1280 × 800.
"""

from __future__ import annotations

import json
import re
import sys
import urllib.request
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))

from tests.browser.chromium import EXECUTABLE, OPTIONS  # noqa: E402
from tests.running import RunningUlvent, remove, temporary_folder  # noqa: E402

OUT = ROOT / "docs" / "screenshots"
SIZE = {"width": 1280, "height": 800}
SETTLED_MS = 900


class Camera:
    """Opens pieces of the demo by their titles."""

    def __init__(self, page: Page, address: str) -> None:
        self.page, self._address = page, address
        with urllib.request.urlopen(f"{address}/api/pieces", timeout=30) as answer:
            self._pieces = {one["title"]: one["id"] for one in json.load(answer)}

    def shelf(self) -> Page:
        self.page.goto(self._address)
        self.page.wait_for_load_state("networkidle")
        return self.page

    def open(self, title: str, view: str = "") -> Page:
        self.page.goto(f"{self._address}/pieces/{self._pieces[title]}{view}")
        self.page.locator("main svg path").first.wait_for(state="attached")
        return self.page

    def choose(self, name: str) -> None:
        entry = self.page.get_by_role("navigation", name="Contents").get_by_role("button")
        entry.filter(has_text=re.compile(name)).first.click()

    def show(self, which: str) -> None:
        self.page.get_by_role("radio", name=which, exact=True).check(force=True)


def _new_piece(camera: Camera) -> None:
    page = camera.shelf()
    page.get_by_role("button", name="New piece").click()
    page.keyboard.type("QUINCE & MEDLAR")


def _even(camera: Camera) -> None:
    camera.open("Two jar rings")
    camera.choose("Even gaps")


def _hand(camera: Camera) -> None:
    page = camera.open("Opening plaque")
    page.wait_for_timeout(SETTLED_MS)
    page.get_by_role("application").focus()
    for _ in range(4):
        page.keyboard.press(".")


def _faces(camera: Camera) -> None:
    page = camera.open("Barrel head")
    page.get_by_role("button", name=re.compile("^Face")).click()


def _blank(camera: Camera) -> None:
    page = camera.open("Barrel head")
    camera.choose("Disc")
    for name in ("How the piece lies on the sheet", "Scale the whole piece"):
        page.get_by_text(name).click()


def _dial(camera: Camera) -> None:
    camera.open("Press dial")
    camera.show("Spread")


def _fit(camera: Camera) -> None:
    camera.open("Cider press banner")
    camera.show("Fit")


def _spiral(camera: Camera) -> None:
    camera.open("Pie platter")
    camera.choose("^Spiral|spiral")


def _run(camera: Camera) -> None:
    page = camera.open("Paper frame", "/run")
    page.locator("ol > li").first.get_by_role("button").first.click()
    page.get_by_label("Time of the run").fill("95")


def _sewn(camera: Camera, title: str) -> Page:
    page = camera.open(title)
    page.get_by_role("link", name="Stitches", exact=True).click()
    page.get_by_role("img", name=re.compile("stitches sewn$")).wait_for()
    return page


def _names(camera: Camera) -> None:
    page = camera.open("Tree tags", "/names")
    page.get_by_text("all fit").wait_for(timeout=240_000)
    page.get_by_text("nested on sheets").click()
    page.get_by_role("button", name="Make 120 rows").click()
    made = page.get_by_role("list", name="Batches")
    made.get_by_role("link", name="take the ZIP").wait_for(timeout=300_000)
    made.scroll_into_view_if_needed()


def _solid(camera: Camera) -> None:
    page = camera.open("Supper napkin ring", "/solid")
    page.get_by_label("The part", exact=True).locator("dl").wait_for()
    page.get_by_text("making the part…").wait_for(state="detached")


def _stitches(camera: Camera) -> None:
    page = _sewn(camera, "Apron badge")
    page.get_by_label("Time of the sewing").fill("290")
    for _ in range(3):
        page.get_by_role("button", name="Closer").click()


def _sending(camera: Camera) -> None:
    page = camera.open("Gate name, one piece", "/run")
    page.get_by_role("button", name="Send to a machine").click()
    pane = page.get_by_role("complementary", name="Sending")
    pane.get_by_label("Machine", exact=True).select_option("simulated-beam")
    pane.get_by_text("lay a fresh sheet").click()
    pane.get_by_label("After instructions").fill("150")
    page.keyboard.press("Enter")
    pane.get_by_label("Let it fail, once").select_option("power lost")
    pane.get_by_role("button", name="Send", exact=True).click()
    pane.get_by_role("heading", name="It failed").wait_for(timeout=60_000)
    page.wait_for_timeout(1500)


PICTURES: dict[str, Callable[[Camera], object]] = {
    "shelf": Camera.shelf,
    "new-piece": _new_piece,
    "layout": lambda camera: camera.open("Barrel head"),
    "blank": _blank,
    "even": _even,
    "fit": _fit,
    "spiral": _spiral,
    "dial": _dial,
    "wreath": lambda camera: camera.open("Windfall wreath"),
    "hand": _hand,
    "faces": _faces,
    "proof": lambda camera: camera.open("Crate stencil", "/proof"),
    "prepare": lambda camera: camera.open("Van sign", "/proof"),
    "run": _run,
    "sending": _sending,
    "stitches": _stitches,
    "solid": _solid,
    "names": _names,
}


def main(names: list[str]) -> None:
    folder = temporary_folder()
    running = RunningUlvent(folder, "--port", "0")
    try:
        running.wait_until_ready()
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=EXECUTABLE, args=OPTIONS)
            for name in names or PICTURES:
                page = browser.new_page(viewport=SIZE)
                PICTURES[name](Camera(page, running.address))
                page.wait_for_timeout(SETTLED_MS)
                page.screenshot(path=OUT / f"{name}.png")
                page.close()
            browser.close()
    finally:
        running.stop()
        remove(folder)


if __name__ == "__main__":
    main(sys.argv[1:])

"""Debian's headless Chromium through Playwright, started once for a test class."""

from __future__ import annotations

import unittest
from typing import ClassVar

from playwright.sync_api import Browser, Page, Playwright, expect, sync_playwright

EXECUTABLE = "/usr/bin/chromium"
PATIENCE_MS = 20_000
OPTIONS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


class ChromiumTest(unittest.TestCase):
    """A test with a browser; `page` gives a fresh page that is closed after the test."""

    playwright: ClassVar[Playwright]
    browser: ClassVar[Browser]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        # How long is waited for what must come: a slow machine is no failure.
        expect.set_options(timeout=PATIENCE_MS)
        cls.playwright = sync_playwright().start()
        cls.addClassCleanup(cls.playwright.stop)
        cls.browser = cls.playwright.chromium.launch(executable_path=EXECUTABLE, args=OPTIONS)
        cls.addClassCleanup(cls.browser.close)

    def page(self, width: int = 1280, height: int = 800) -> Page:
        context = self.browser.new_context(
            viewport={"width": width, "height": height}, accept_downloads=True
        )
        self.addCleanup(context.close)
        return context.new_page()

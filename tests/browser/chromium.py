"""Debian's headless Chromium through Playwright, started once for a process of tests."""

from __future__ import annotations

import atexit
import unittest
from collections.abc import Callable, Hashable
from typing import Any, ClassVar, TypeVar

from playwright.sync_api import Browser, BrowserContext, Page, Playwright, expect, sync_playwright

T = TypeVar("T")
EXECUTABLE = "/usr/bin/chromium"
PATIENCE_MS = 60_000
OPTIONS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


_FORGET = """
try {
    if (!sessionStorage.seen) localStorage.clear();
    sessionStorage.seen = 'seen';
} catch { /* a page without an address keeps nothing */ }
"""
"""What pages before a new one have kept is forgotten; what it keeps itself stays over a reload."""
_STARTED: dict[Hashable, Any] = {}


def once(what: Hashable, start: Callable[[], T]) -> T:
    """What is started for the first test of a process that asks for it, and used by the others.

    `start` registers what ends it with `atexit`.
    """
    if what not in _STARTED:
        _STARTED[what] = start()
    found: T = _STARTED[what]
    return found


def _launched() -> tuple[Playwright, Browser]:
    playwright = sync_playwright().start()
    atexit.register(playwright.stop)
    browser = playwright.chromium.launch(executable_path=EXECUTABLE, args=OPTIONS)
    atexit.register(browser.close)
    return playwright, browser


class ChromiumTest(unittest.TestCase):
    """A test with a browser; `page` gives a fresh page that is closed after the test, and knows
    nothing of those before it."""

    playwright: ClassVar[Playwright]
    browser: ClassVar[Browser]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        # How long is waited for what must come: a slow machine is no failure.
        expect.set_options(timeout=PATIENCE_MS)
        cls.playwright, cls.browser = once("browser", _launched)

    def page(self, width: int = 1280, height: int = 800) -> Page:
        page = once("context", self._context).new_page()
        self.addCleanup(page.close)
        # A file that takes long is made by a worker first, which has to be started.
        page.set_default_timeout(2 * PATIENCE_MS)
        page.set_viewport_size({"width": width, "height": height})
        return page

    @classmethod
    def _context(cls) -> BrowserContext:
        """One for all: what it has fetched and compiled need not be so for every test."""
        context = cls.browser.new_context(accept_downloads=True)
        context.add_init_script(_FORGET)
        atexit.register(context.close)
        return context

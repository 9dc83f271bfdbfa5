"""The application in a browser: the real server, a real PostgreSQL, the built front end."""

from __future__ import annotations

import atexit
import io
import json
import re
import urllib.request
from collections.abc import Callable
from pathlib import Path
from typing import Any, ClassVar

import svgelements
from playwright.sync_api import ConsoleMessage, Locator, Page, expect

from tests.browser.chromium import ChromiumTest, once
from tests.makings import document, laid
from tests.running import RunningUlvent, eventually, remove, temporary_folder
from ulvent.core.setting import Setting


class ApplicationTest(ChromiumTest):
    """Each process of tests has its own server with the demo's pieces."""

    running: ClassVar[RunningUlvent]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.running = once(cls.start.__func__, cls._started)

    @classmethod
    def _started(cls) -> RunningUlvent:
        running = cls.start()
        atexit.register(running.stop)
        return running.wait_until_ready()

    @classmethod
    def start(cls) -> RunningUlvent:
        folder = temporary_folder()
        atexit.register(remove, folder)
        return RunningUlvent(folder, "--port", "0")

    def setUp(self) -> None:
        self.requested: set[str] = set()
        self.errors: list[str] = []

    def tearDown(self) -> None:
        """Whatever a test does, no request leaves this machine and no script fails."""
        outside = [url for url in self.requested if not self._is_ours(url)]
        self.assertEqual(outside, [])
        self.assertEqual(self.errors, [])

    def _hear(self, message: ConsoleMessage) -> None:
        """What the page's policy of content forbids is an error, though the script goes on."""
        if "Content Security Policy" in message.text:
            self.errors.append(message.text)

    def _is_ours(self, url: str) -> bool:
        address = self.running.address.removeprefix("http://")
        return url.startswith((f"http://{address}/", f"ws://{address}/", "data:", "blob:"))

    def open(self, path: str = "/", page: Page | None = None) -> Page:
        once(self.running, self._kept_open)
        page = page or self.page()
        page.on("request", lambda request: self.requested.add(request.url))
        page.on("websocket", lambda socket: self.requested.add(socket.url))
        page.on("pageerror", lambda error: self.errors.append(str(error)))
        page.on("console", self._hear)
        page.goto(self.running.address + path)
        return page

    @classmethod
    def _kept_open(cls) -> Page:
        """Chromium shows all pages of a server in one process as long as one is open: what it has
        read and compiled for one test serves the next."""
        page = once("context", cls._context).new_page()
        page.goto(f"{cls.running.address}/api/pieces")
        return page

    def api(self, path: str, method: str = "GET", body: Any = None) -> Any:
        data = None if body is None else json.dumps(body).encode()
        request = urllib.request.Request(
            self.running.address + path,
            data,
            {"Content-Type": "application/json"} if data else {},
            method=method,
        )
        with urllib.request.urlopen(request, timeout=10) as answer:
            text = answer.read()
        return json.loads(text) if text else None

    def fresh_barrel_head(self) -> str:
        """The id of a new copy of the demo's barrel head."""
        return self.copied("Barrel head")

    def copied(self, title: str) -> str:
        """The id of a new copy of a demo piece: the one of its title that is there longest."""
        named = [one["id"] for one in self.api("/api/pieces") if one["title"] == title]
        return str(self.api(f"/api/pieces/{named[-1]}/duplicate", "POST")["id"])

    def open_barrel_head(self) -> tuple[Page, str]:
        piece = self.fresh_barrel_head()
        page = self.open(f"/pieces/{piece}")
        expect(self.kept(page)).to_have_text(re.compile("^kept"))
        expect(page.locator("main [data-lettering=name] .letters path")).to_have_count(16)
        return page, piece

    def opened(self, **parts: Any) -> tuple[Page, str]:
        """A piece of its own, open."""
        piece = document(**{"title": "One of its own", **parts})
        made = self.api("/api/pieces", "POST", {"piece": piece})
        page = self.open(f"/pieces/{made['id']}")
        self.wait_until_kept(page)
        expect(page.locator("main svg path.guide").first).to_be_attached()
        return page, str(made["id"])

    def kept(self, page: Page) -> Locator:
        return page.locator("header [role=status]")

    def stored(self, piece: str) -> Any:
        return self.api(f"/api/pieces/{piece}")["piece"]

    def wait_until_kept(self, page: Page) -> None:
        expect(self.kept(page)).to_have_text(re.compile("^kept"))

    def drag(self, page: Page, what: Locator, dx: float, dy: float, steps: int = 12) -> None:
        """Press on the middle of an element and pull it by pixels."""
        box = what.bounding_box()
        assert box
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + dx, y + dy, steps=steps)
        page.mouse.up()


class LetteringTest(ApplicationTest):
    def copy_of(self, title: str) -> tuple[Page, str]:
        """A new copy of a demo piece, open."""
        piece = self.copied(title)
        page = self.open(f"/pieces/{piece}")
        expect(page.locator("main [data-lettering] .letters path").first).to_be_visible()
        self.wait_until_kept(page)
        return page, piece

    def settings_of(self, piece: str) -> tuple[Setting, ...]:
        return laid(self.stored(piece)).settings

    def show(self, page: Page, which: str) -> None:
        page.get_by_role("radio", name=which, exact=True).check(force=True)

    def type(self, page: Page, label: str, text: str) -> None:
        field = page.get_by_label(label, exact=True)
        field.fill(text)
        field.press("Enter")

    def eventually(self, true: Callable[[], bool]) -> None:
        """What is kept follows what is shown: wait for it."""
        self.assertTrue(eventually(true))

    def exported(self, page: Page) -> list[svgelements.Group]:
        page.get_by_role("button", name="Export a file").click()
        with page.expect_download() as download:
            page.get_by_role("menuitem", name="SVG, lettering only").click()
        data = Path(download.value.path()).read_bytes()
        svg = svgelements.SVG.parse(io.BytesIO(data), ppi=25.4)
        return [e for e in svg.elements() if isinstance(e, svgelements.Group) and e.id]

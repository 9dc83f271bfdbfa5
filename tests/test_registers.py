"""The registers: a made-up record of each, put into a copy of Ulvent as a file, is everywhere.

No file that is there is edited; the copy's page is built, and its command line, its server and
its page are used as a maker would.
"""

from __future__ import annotations

import atexit
import json
import re
import shutil
import subprocess
import sys
import unittest
from pathlib import Path
from typing import Any, ClassVar

from playwright.sync_api import Page, expect

from tests.browser.application import LetteringTest
from tests.made_up.leaning_stance import LEAN
from tests.makings import document
from tests.running import RunningUlvent, remove, temporary_folder
from tools.check import ROOT

MADE_UP = ROOT / "tests" / "made_up"
ROOMS = {
    "slope_guide.py": "ulvent/core/guides/kinds",
    "leaning_stance.py": "ulvent/core/stances",
    "slanting_labels.py": "ulvent/core/stances",
    "left_of_step.py": "ulvent/core/steps",
    "shouting_check.py": "ulvent/core/proof/checks",
    "tally_out.py": "ulvent/formats/out",
    "points_in.py": "ulvent/formats/read",
    "shout_act.py": "ulvent/core/acts",
    "view.ts": "frontend/src/loud",
    "LoudView.svelte": "frontend/src/loud",
}
SLOPE = {"id": "slope", "kind": "slope", "width": 160.0, "rise": 120.0}


class MadeUpRecords(LetteringTest):
    """Each test is of one or two registers."""

    folder: ClassVar[Path]
    program: ClassVar[Path]

    @classmethod
    def start(cls) -> RunningUlvent:
        cls.folder = temporary_folder()
        atexit.register(remove, cls.folder)
        not_ours = shutil.ignore_patterns("__pycache__", "node_modules", "page")
        shutil.copytree(ROOT / "ulvent", cls.folder / "ulvent", ignore=not_ours)
        shutil.copytree(ROOT / "frontend", cls.folder / "frontend", ignore=not_ours)
        for name, room in ROOMS.items():
            (cls.folder / room).mkdir(exist_ok=True)
            shutil.copy(MADE_UP / name, cls.folder / room)
        modules = cls.folder / "frontend" / "node_modules"
        modules.symlink_to(ROOT / "frontend" / "node_modules")
        subprocess.run(
            ["npm", "--silent", "run", "build"], cwd=modules.parent, check=True, capture_output=True
        )
        cls.program = cls.folder / "ulvent.sh"
        run = f'exec {sys.executable} -P -c "from ulvent.cli import main; main()" "$@"'
        cls.program.write_text(f"#!/bin/sh\nexport PYTHONPATH={cls.folder}\n{run}\n")
        cls.program.chmod(0o755)
        var = cls.folder / "var"
        return RunningUlvent(var, "--port", "0", program=cls.program)

    def said(self, *words: str) -> Any:
        """What the command line says about a piece, as JSON."""
        done = subprocess.run(
            [self.program, *words],
            cwd=self.folder,
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual(done.returncode, 0, done.stderr)
        return json.loads(done.stdout or "null")

    def written(self, **changes: Any) -> str:
        """The name of a piece file with the words on a slope."""
        made = document(guides=[SLOPE])
        words = {"guide": "slope", "at": 100, "height": 8, **changes}
        made["letterings"] = [made["letterings"][0] | words]
        (self.folder / "piece.ulvent.json").write_text(json.dumps(made))
        return "piece.ulvent.json"

    # ------------------------------------------------------------- the command line

    def test_the_command_line_lays_out_a_kind_and_a_stance(self) -> None:
        along = self.said("measure", self.written())["letterings"][0]["clusters"]
        turns = {round(one["angle"], 6) for one in along}
        self.assertEqual(turns, {36.869898})  # the slope is 4 by 3
        leaning = self.said("measure", self.written(shape="leaning"))["letterings"][0]["clusters"]
        self.assertEqual({round(one["angle"], 6) for one in leaning}, {round(36.869898 + LEAN, 6)})

    def test_the_command_line_writes_a_format_with_a_step_taken(self) -> None:
        self.said("export", self.written(), "all.tally")
        self.said("export", self.written(prepare={"left_of": 0.0}), "left.tally", "--guides")
        whole, left = ((self.folder / f"{name}.tally").read_text() for name in ("all", "left"))
        self.assertEqual(whole, "lettering-name 16\nguides 0")
        count = int(re.findall(r"lettering-name (\d+)", left)[0])
        self.assertTrue(0 < count < 16, left)
        self.assertIn("guides 1", left)

    def test_the_command_line_knows_a_check_with_its_remedy(self) -> None:
        found = self.said("proof", self.written())
        (loud,) = [one for one in found if one["kind"] == "shouting"]
        self.assertEqual([one["label"] for one in loud["remedies"]], ["speak low"])

    # ------------------------------------------------------------------- the page

    def test_a_kind_is_offered_with_its_figures(self) -> None:
        page, piece = self.open_barrel_head()
        page.get_by_role("button", name=re.compile("^all guides")).click()
        page.get_by_role("dialog", name="Add a guide").get_by_role("button", name="slope").click()
        self.type(page, "Rise", "45")
        self.eventually(lambda: self.stored(piece)["guides"][-1].get("rise") == 45)
        expect(page.get_by_role("button", name=re.compile("slope 80 × 45"))).to_be_visible()

    def test_stances_are_offered(self) -> None:
        page, piece = self.open_barrel_head()
        self.show(page, "Letters")
        self.show(page, "leaning")
        self.eventually(lambda: self.stored(piece)["letterings"][0]["shape"] == "leaning")
        self.assertIn(
            ["slanting", "slanting"], self.api("/api/catalogue")["choices"]["label_stance"]
        )

    def test_a_step_is_offered_and_taken(self) -> None:
        page, piece = self.open_barrel_head()
        page.get_by_role("link", name="Proof", exact=True).click()
        expect(self.step(page)).not_to_be_checked()
        self.step(page).check()
        expect(self.step(page)).to_be_checked()
        self.eventually(lambda: self.stored(piece)["letterings"][0]["prepare"]["left_of"] == 0.0)

    @staticmethod
    def step(page: Page) -> Any:
        return page.get_by_role("checkbox", name=re.compile("^Left part only"))

    def test_a_finding_is_shown_and_mended(self) -> None:
        page, piece = self.open_barrel_head()
        page.get_by_role("link", name="Proof", exact=True).click()
        findings = page.get_by_role("complementary", name="Findings").get_by_role("listitem")
        loud = findings.filter(has_text="these words shout")
        expect(loud).to_have_count(2)
        loud.first.get_by_role("button", name="speak low").click()
        expect(loud).to_have_count(1)
        self.assertTrue(any(one["text"].islower() for one in self.stored(piece)["letterings"]))

    def test_a_file_is_taken_away_and_another_is_read(self) -> None:
        page, piece = self.open_barrel_head()
        page.get_by_role("button", name="Export a file").click()
        with page.expect_download() as download:
            page.get_by_role("menuitem", name="Tally, lettering only").click()
        self.assertIn("lettering-name 15", Path(download.value.path()).read_text())
        page.get_by_role("button", name=re.compile("^all guides")).click()
        page.get_by_role("button", name="from a file").click()
        data = {"name": "way.points", "mimeType": "text/plain", "buffer": b"0 0\n40 0\n40 30"}
        page.locator("input[type=file]").set_input_files(data)  # type: ignore[arg-type]
        page.get_by_role("button", name="outline 1, edge 1").press("Enter")
        page.get_by_role("button", name="Take as a guide").click()
        self.eventually(
            lambda: "way.points" in [one.get("source") for one in self.stored(piece)["guides"]]
        )

    def test_a_view_has_its_place_and_does_an_act(self) -> None:
        page, piece = self.open_barrel_head()
        page.get_by_role("textbox", name="Words").fill("quiet")
        self.eventually(lambda: self.stored(piece)["letterings"][0]["text"] == "quiet")
        page.get_by_role("link", name="Loud").click()
        self.assertTrue(page.url.endswith("/loud"))
        page.get_by_role("button", name="shout").first.click()
        self.eventually(lambda: self.stored(piece)["letterings"][0]["text"] == "QUIET")


if __name__ == "__main__":
    unittest.main()

"""The wheel: what is installed from it alone serves, measures and exports."""

from __future__ import annotations

import ast
import json
import re
import shutil
import subprocess
import sys
import sysconfig
import tempfile
import tomllib
import unittest
import urllib.request
import venv
import zipfile
from importlib import metadata
from pathlib import Path
from typing import ClassVar

from tests.makings import document
from tests.running import RunningUlvent
from tools.wheel import ROOT, build


class Wheel(unittest.TestCase):
    """An environment with the wheel, and with the packages that the lock file names.

    Those are read from where the checks have them; ours are not, since an entry that one `.pth`
    file makes does not have its own `.pth` files read.
    """

    folder: ClassVar[Path]
    bin: ClassVar[Path]
    wheel: ClassVar[Path]

    @classmethod
    def setUpClass(cls) -> None:
        cls.folder = Path(tempfile.mkdtemp(prefix="ulvent-wheel-"))
        cls.folder.chmod(0o755)
        cls.addClassCleanup(shutil.rmtree, cls.folder)
        cls.wheel = build(cls.folder)
        home = cls.folder / "env"
        venv.create(home)
        cls.bin = home / "bin"
        (site,) = home.glob("lib/python*/site-packages")
        (site / "locked.pth").write_text(sysconfig.get_path("purelib"))
        pip = [sys.executable, "-m", "pip", "--python", str(cls.bin / "python"), "install"]
        subprocess.run([*pip, "--quiet", "--no-deps", "--no-index", cls.wheel], check=True)

    def run_there(self, *command: str) -> str:
        done = subprocess.run(
            [self.bin / command[0], *command[1:]],
            cwd=self.folder,
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual(done.returncode, 0, done.stderr)
        return done.stdout

    def test_it_holds_all_that_is_kept_of_the_package(self) -> None:
        kept = subprocess.run(
            ["git", "ls-files", "ulvent"], cwd=ROOT, capture_output=True, text=True, check=True
        )
        held = zipfile.ZipFile(self.wheel).namelist()
        self.assertLessEqual(set(kept.stdout.split()), set(held))
        self.assertIn("ulvent/web/page/index.html", held)

    def test_every_package_that_it_imports_is_required_and_locked_with_hashes(self) -> None:
        project = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]
        required = {_name(one) for one in project["dependencies"]}
        # What makes STEP is an extra: a word says so where it is not installed.
        extra = {_name(one) for one in project["optional-dependencies"]["step"]}
        owners = metadata.packages_distributions()
        for package in _imported() - {"ulvent", *sys.stdlib_module_names}:
            with self.subTest(package):
                self.assertTrue(
                    (required | extra) & {owner.lower() for owner in owners.get(package, [package])}
                )
        locked = re.split(r"^(?=\w)", (ROOT / "requirements.lock").read_text(), flags=re.MULTILINE)[
            1:
        ]
        self.assertTrue(all("--hash=sha256:" in one for one in locked))
        self.assertLessEqual(required, {_name(one) for one in locked})

    def test_it_measures_and_exports(self) -> None:
        where = self.run_there("python", "-c", "import ulvent; print(ulvent.__file__)")
        self.assertTrue(where.startswith(str(self.folder)), where)
        (self.folder / "piece.ulvent.json").write_text(json.dumps(document()))
        measured = json.loads(self.run_there("ulvent", "measure", "piece.ulvent.json"))
        self.assertEqual(len(measured["letterings"][0]["clusters"]), 16)
        self.run_there("ulvent", "export", "piece.ulvent.json", "out.dxf")
        self.assertIn("$INSUNITS", (self.folder / "out.dxf").read_text())

    def test_it_serves_the_page_and_the_demo(self) -> None:
        running = RunningUlvent(self.folder / "var", "--port", "0", program=self.bin / "ulvent")
        self.addCleanup(running.stop)
        address = running.wait_until_ready().address
        with urllib.request.urlopen(address, timeout=10) as page:
            self.assertIn(b'<div id="app">', page.read())
        with urllib.request.urlopen(address + "/api/pieces", timeout=10) as pieces:
            self.assertIn("Barrel head", [piece["title"] for piece in json.load(pieces)])


def _name(requirement: str) -> str:
    """The package that a requirement names."""
    return re.split(r"[^\w-]", requirement)[0]


def _imported() -> set[str]:
    """The top packages that Ulvent's modules import."""
    found = set()
    for path in (ROOT / "ulvent").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.ImportFrom) and node.module:
                found.add(node.module.split(".")[0])
            elif isinstance(node, ast.Import):
                found.update(alias.name.split(".")[0] for alias in node.names)
    return found

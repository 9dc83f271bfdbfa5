"""The house itself: names of its rooms, its words, and that every test of it is run."""

from __future__ import annotations

import ast
import re
import subprocess
import unittest
from collections import defaultdict
from pathlib import Path

from tools.check import GROUPS, ROOT

PACKAGE = ROOT / "ulvent"
MOST_IN_A_MODULE, MOST_IN_A_FUNCTION = 400, 40
REASON = re.compile(r"\bOver (40|400) lines\b")


def modules() -> list[Path]:
    return [path for path in PACKAGE.rglob("*.py") if "migrations" not in path.parts]


class Names(unittest.TestCase):
    def test_no_two_modules_in_different_rooms_have_one_name(self) -> None:
        """Nor has a module the name of a room that it does not lie in."""
        owners = defaultdict(set)
        for path in modules():
            is_room = path.stem == "__init__"
            # A room may have a module, however deep, that is called as it is.
            if is_room or path.stem not in path.relative_to(ROOT).parts:
                owners[path.parent.name if is_room else path.stem].add(path.parent)
        twice = {name: places for name, places in owners.items() if len(places) > 1}
        self.assertEqual(twice, {})

    def test_the_core_has_no_loose_modules_but_the_workshop(self) -> None:
        loose = {path.stem for path in (PACKAGE / "core").glob("*.py")}
        self.assertEqual(loose, {"__init__", "workshop"})

    def test_no_word_has_two_meanings(self) -> None:
        rows = re.findall(r"^\| ([^|]+?) \|", (ROOT / "docs" / "words.md").read_text(), re.M)
        words = [word for word in rows if word not in ("word", "---")]
        self.assertGreater(len(words), 40)
        self.assertEqual(sorted(words), sorted(set(words)))


class Docs(unittest.TestCase):
    def test_every_file_that_they_name_is_there(self) -> None:
        """`NAME` stands for any name; a path may leave out the folders that it begins with."""
        kept = subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True,
                              check=True).stdout.split()  # fmt: skip
        pages = [ROOT / "README.md", ROOT / "CONTRIBUTING.md", *(ROOT / "docs").glob("*.md")]
        for page in pages:
            named = re.findall(r"`([\w./]+\.(?:py|ts|svelte|sh|toml))`", page.read_text())
            for name in [one for one in named if "NAME" not in one]:
                with self.subTest(page.name, name=name):
                    self.assertTrue(any(f"/{file}".endswith(f"/{name}") for file in kept))


class Sizes(unittest.TestCase):
    """What is longer than can be taken in says at its head why."""

    def test_modules(self) -> None:
        for path in modules():
            text = path.read_text()
            if text.count("\n") > MOST_IN_A_MODULE:
                head = ast.get_docstring(ast.parse(text)) or ""
                self.assertRegex(head, REASON, path)

    def test_functions(self) -> None:
        for path in modules():
            for node in ast.walk(ast.parse(path.read_text())):
                if not isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
                    continue
                lines = (node.end_lineno or 0) - node.lineno + 1
                said = ast.get_docstring(node) or ""
                if lines - said.count("\n") > MOST_IN_A_FUNCTION:
                    self.assertRegex(said, REASON, f"{path}: {node.name}, {lines} lines")


class Tests(unittest.TestCase):
    def test_every_module_of_tests_is_in_a_group_of_the_check(self) -> None:
        run = {word for commands in GROUPS.values() for command in commands for word in command
               if word.startswith("tests")}  # fmt: skip
        for path in (ROOT / "tests").rglob("test_*.py"):
            name = ".".join(path.relative_to(ROOT).with_suffix("").parts)
            mine = [group for group in run if name == group or name.startswith(f"{group}.")]
            self.assertEqual(len(mine), 1, f"{name} is run by {mine}")

    def test_tests_of_the_core_stand_in_its_rooms(self) -> None:
        rooms = {path.name for path in (PACKAGE / "core").iterdir() if path.is_dir()}
        tested = {path.name for path in (ROOT / "tests" / "core").iterdir() if path.is_dir()}
        self.assertLessEqual(tested - {"__pycache__"}, rooms)


if __name__ == "__main__":
    unittest.main()

"""Run tests by name, with warnings as errors, and say how many passed and failed.

    .venv/bin/python tools/test_group.py tests.core.curves tests.test_cli

A name is a package, a module, a class or a test. The tests that took longest are named, and
the last line is `N passed, N failed`.
"""

from __future__ import annotations

import sys
import time
import unittest
import warnings
from importlib.util import find_spec
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parent.parent

SLOWEST = 12
"""So many tests are named with the time they took."""


class _Timed(unittest.TextTestResult):
    """Knows how long each test took."""

    def __init__(self, *given: Any, **named: Any) -> None:
        super().__init__(*given, **named)
        self.took: list[tuple[float, str]] = []
        self._begun = 0.0

    def startTest(self, test: unittest.TestCase) -> None:  # noqa: N802 - unittest's name
        self._begun = time.monotonic()
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802 - unittest's name
        super().stopTest(test)
        self.took.append((time.monotonic() - self._begun, test.id()))


def main(names: list[str]) -> int:
    warnings.simplefilter("error")
    sys.path.insert(0, str(ROOT))
    suite = unittest.TestSuite(_found(name) for name in names)
    runner = unittest.TextTestRunner(verbosity=1, warnings="error", resultclass=_Timed)
    result = runner.run(suite)
    for seconds, name in sorted(result.took, reverse=True)[:SLOWEST]:
        print(f"{seconds:6.1f} s  {name}")
    broken = {test.id() for test, _ in [*result.failures, *result.errors]}
    failed = len(broken) + len(result.unexpectedSuccesses)
    passed = max(result.testsRun - failed, 0)
    # A group without tests checks nothing.
    failed += 1 if result.testsRun == 0 else 0
    print(f"{passed} passed, {failed} failed")
    return 1 if failed else 0


def _found(name: str) -> unittest.TestSuite:
    """The tests of a name; those of a package are all that lie below it."""
    loader = unittest.TestLoader()
    folder = ROOT.joinpath(*name.split("."))
    if folder.is_dir() and find_spec(name):
        return loader.discover(str(folder), top_level_dir=str(ROOT))
    return loader.loadTestsFromName(name)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))

"""Run tests by name, with warnings as errors, and say how many passed and failed.

    .venv/bin/python tools/test_group.py tests.core.curves tests.test_cli

A name is a package, a module, a class or a test. The last line is `N passed, N failed`.
"""

from __future__ import annotations

import sys
import unittest
import warnings
from importlib.util import find_spec
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent


def main(names: list[str]) -> int:
    warnings.simplefilter("error")
    sys.path.insert(0, str(ROOT))
    suite = unittest.TestSuite(_found(name) for name in names)
    result = unittest.TextTestRunner(verbosity=1, warnings="error").run(suite)
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

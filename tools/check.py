"""Run every check and count: lint, types, import rules, tests, front end, browser tests.

    ./check                 everything
    ./check tests.core      only the tests below that name, nothing else

The last line is `N passed, N failed`; a step counts as one, a test as one.
"""

from __future__ import annotations

import subprocess
import sys
import time
import unittest
import warnings
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
BIN = Path(sys.executable).parent
TYPES = ROOT / "frontend" / "src" / "api" / "schema.d.ts"

STEPS: dict[str, list[list[str]]] = {
    "lint": [[str(BIN / "ruff"), "check", "."], [str(BIN / "ruff"), "format", "--check", "."]],
    "types": [[str(BIN / "mypy")]],
    "import rules": [[str(BIN / "lint-imports"), "--no-cache"]],
    "front end: types from the server": [
        [sys.executable, "tools/openapi.py", "var/openapi.json"],
        ["npm", "--prefix", "frontend", "exec", "--", "openapi-typescript", "var/openapi.json",
         "-o", "var/schema.d.ts"],
        ["cmp", "var/schema.d.ts", str(TYPES)],
    ],
    "front end: svelte-check": [["npm", "--prefix", "frontend", "run", "check"]],
    "front end: build": [["npm", "--prefix", "frontend", "run", "build"]],
}  # fmt: skip


def main(only: list[str]) -> int:
    passed = failed = 0
    if not only:
        for name, commands in STEPS.items():
            if _step(name, commands):
                passed += 1
            else:
                failed += 1
    well, ill = _tests(only)
    passed, failed = passed + well, failed + ill
    print(f"{passed} passed, {failed} failed")
    return 1 if failed or not passed else 0


def _step(name: str, commands: list[list[str]]) -> bool:
    start = time.monotonic()
    for command in commands:
        done = subprocess.run(command, cwd=ROOT, capture_output=True, text=True, check=False)
        if done.returncode != 0:
            print(done.stdout, done.stderr, sep="\n")
            print(f"FAILED  {name}")
            return False
    print(f"ok      {name} ({time.monotonic() - start:.0f} s)", flush=True)
    return True


def _tests(only: list[str]) -> tuple[int, int]:
    """Numbers of tests that passed and that did not. Warnings are errors."""
    warnings.simplefilter("error")
    sys.path.insert(0, str(ROOT))
    loader = unittest.TestLoader()
    if only:
        suite = loader.loadTestsFromNames(only)
    else:
        suite = loader.discover(str(ROOT / "tests"), top_level_dir=str(ROOT))
    result = unittest.TextTestRunner(verbosity=1, warnings="error").run(suite)
    broken = {test.id() for test, _ in [*result.failures, *result.errors]}
    ill = len(broken) + len(result.unexpectedSuccesses)
    return max(result.testsRun - ill, 0), ill + (1 if result.testsRun == 0 else 0)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))

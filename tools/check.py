"""Run every check, side by side: lint, types, import rules, tests, the page, the browser.

    ./check                   everything
    ./check page lint         the groups whose names begin so
    ./check tests.core.fits   only the tests below that name

Groups run on as many cores as there are, those that took longest the last time first; each
says what it took. What a group has printed is in `var/check/`, and is shown when it fails.
The last line is `N passed, N failed`: a test counts as one, and so does a group that is none.
"""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor, as_completed
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
BIN = Path(sys.executable).parent
LOGS = ROOT / "var" / "check"
TIMES = LOGS / "times.json"
TYPES = ROOT / "frontend" / "src" / "api" / "schema.d.ts"

Command = list[str]


def _npm(*words: str) -> Command:
    return ["npm", "--silent", "--prefix", "frontend", *words]


def _tests(*names: str) -> list[Command]:
    return [[sys.executable, "tools/test_group.py", *names]]


ENVIRONMENT = {
    name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"
} | {"PYTHONPYCACHEPREFIX": str(ROOT / "var" / "pycache")}
"""Some hundred processes begin with the same modules: they are compiled once."""

BUILD = "page build"
"""Made before the rest: what is tested in the browser is the page as it is built."""

GROUPS: dict[str, list[Command]] = {
    BUILD: [["bash", "-c", ". tools/setup.sh && front_end_build"]],
    "tests of web and store": _tests("tests.web", "tests.store"),
    "browser: proof, run": _tests("tests.browser.test_proof", "tests.browser.test_run"),
    "tests of the crew": _tests("tests.crew", "tests.batches"),
    "tests against references": _tests("tests.reference"),
    "browser: sending, names": _tests(
        "tests.browser.test_sending", "tests.browser.test_names"
    ),
    "browser: stitches, solid": _tests(
        "tests.browser.test_stitches", "tests.browser.test_solid"
    ),
    "browser: jobs": _tests(
        "tests.browser.test_jobs", "tests.browser.test_access", "tests.browser.test_help"
    ),
    "tests of the core: runs, stitches": _tests("tests.core.runs", "tests.core.stitches"),
    "tests of the worst cases": _tests("tests.test_worst_cases", "tests.test_random_pieces"),
    "tests of formats": _tests("tests.formats"),
    "tests of the core: steps, shapes": _tests(
        "tests.core.steps", "tests.core.shapes", "tests.core.prepare", "tests.core.proof"
    ),
    "tests of the machines": _tests("tests.machines", "tests.sending", "tests.test_random_runs"),
    "browser: letterings, guides": _tests(
        "tests.browser.test_letterings", "tests.browser.test_fits", "tests.browser.test_guides"
    ),
    "tests of the core: curves, guides": _tests("tests.core.curves", "tests.core.guides"),
    "browser: shelf, layout": _tests("tests.browser.test_shelf", "tests.browser.test_layout"),
    "tests of the registers": _tests("tests.test_registers"),
    "tests of the command line": _tests("tests.test_cli", "tests.test_names"),
    "tests of the core: setting": _tests("tests.core.setting"),
    "tests of the core: solids, series": _tests(
        "tests.core.solids", "tests.core.series", "tests.test_random_solids"
    ),
    "tests of the core: the rest": _tests(
        "tests.core.acts", "tests.core.base", "tests.core.drawing", "tests.core.faces",
        "tests.core.layout", "tests.core.recipe",
        "tests.core.test_workshop", "tests.test_house",
    ),
    "page tests": [_npm("run", "test")],
    "page types": [_npm("run", "check")],
    "tests of the package": _tests("tests.test_package"),
    "tests of the core: fits": _tests("tests.core.fits"),
    "page types of the server": [
        [sys.executable, "-W", "error", "tools/openapi.py", "var/openapi.json"],
        _npm("exec", "--", "openapi-typescript", "var/openapi.json", "-o", "var/schema.d.ts"),
        ["cmp", "var/schema.d.ts", str(TYPES)],
    ],
    "dead code": [[sys.executable, "tools/dead_code.py"]],
    "page dead code": [_npm("run", "dead-code")],
    "types": [[str(BIN / "mypy")]],
    "import rules": [[str(BIN / "lint-imports"), "--no-cache"]],
    "lint": [[str(BIN / "ruff"), "check", "."], [str(BIN / "ruff"), "format", "--check", "."]],
}  # fmt: skip
"""Those that take longest come first, where nobody knows yet what they take."""


@dataclass(frozen=True)
class Outcome:
    """What came of a group."""

    passed: int
    failed: int
    seconds: float


def main(names: list[str]) -> int:
    LOGS.mkdir(parents=True, exist_ok=True)
    asked = _asked(names)
    before = json.loads(TIMES.read_text()) if TIMES.exists() else {}
    outcomes: dict[str, Outcome] = {}
    begun = time.monotonic()
    if BUILD in asked:
        outcomes[BUILD] = _ran(BUILD, asked.pop(BUILD))
    slowest_first = sorted(asked, key=lambda name: -before.get(name, float("inf")))
    # Servers, machines and browsers are waited for by a third of the time: one more keeps all busy.
    with ThreadPoolExecutor(max_workers=1 + (os.cpu_count() or 1)) as cores:
        running = {cores.submit(_ran, name, asked[name]): name for name in slowest_first}
        for done in as_completed(running):
            outcomes[running[done]] = done.result()
    TIMES.write_text(json.dumps(before | {name: one.seconds for name, one in outcomes.items()}))
    passed = sum(one.passed for one in outcomes.values())
    failed = sum(one.failed for one in outcomes.values())
    print(f"{time.monotonic() - begun:.0f} s in all")
    print(f"{passed} passed, {failed} failed")
    return 1 if failed or not passed else 0


def _asked(names: list[str]) -> dict[str, list[Command]]:
    """The groups that are named; other names are those of tests."""
    if not names:
        return dict(GROUPS)
    found: dict[str, list[Command]] = {}
    for name in names:
        mine = {group: commands for group, commands in GROUPS.items() if group.startswith(name)}
        found |= mine or {name: _tests(name)}
    return found


def _ran(name: str, commands: list[Command]) -> Outcome:
    begun = time.monotonic()
    log = LOGS / f"{re.sub(r'[^a-z]+', '-', name.lower())}.log"
    with log.open("w") as out:
        well = all(
            subprocess.run(
                command,
                cwd=ROOT,
                env=ENVIRONMENT,
                stdout=out,
                stderr=subprocess.STDOUT,
                check=False,
            ).returncode
            == 0
            for command in commands
        )
    seconds = time.monotonic() - begun
    said = log.read_text(errors="replace")
    # Groups of tests count themselves; one that ended before it could has failed.
    counted = re.findall(r"^(\d+) passed, (\d+) failed$", said, re.MULTILINE)
    passed, failed = (int(n) for n in counted[-1]) if counted else (int(well), 0)
    failed = failed if well else max(failed, 1)
    if failed:
        print(said)
    tests = f", {passed + failed} tests" if counted else ""
    print(f"{'FAILED' if failed else 'ok    '}  {name} ({seconds:.0f} s{tests})", flush=True)
    return Outcome(passed, failed, seconds)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))

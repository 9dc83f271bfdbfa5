"""The worst pieces that are known: bounded work and memory, or a word that names the field."""

from __future__ import annotations

import json
import subprocess
import sys
import unittest
from functools import cache
from typing import Any

from tests.worst_cases import CASES

POINTS, AREAS = 1_500_000, 12_000
"""About twice the most of what any of them takes today."""
REFUSED = {
    "repeats of a tiny pitch": "letterings[0].repeat",
    "dials of 720 long labels": "letterings[0].dial.labels",
    "hatching of a tiny pitch": "letterings[0].prepare.strokes.pitch",
}


class WorstCases(unittest.TestCase):
    def test_each_is_done_or_refused_within_bounds(self) -> None:
        """Each in a process of its own, which may have 300 MB."""
        for name in CASES:
            with self.subTest(name):
                told = made(name)
                self.assertEqual(told["field"], REFUSED.get(name, ""), told)
                self.assertEqual(bool(told["reason"]), name in REFUSED, told)
                self.assertLess(told["points"], POINTS)
                self.assertLess(told["areas"], AREAS)

    def test_work_is_near_to_the_number_of_letters(self) -> None:
        """Four times the letters are at most six times the work; n log n would be five."""
        for name in ("a proof of 500 letters", "500 letters with bridges, joined"):
            few, many = made(name.replace("500", "125")), made(name)
            self.assertLess(many["areas"], 6 * few["areas"], name)


@cache
def made(name: str) -> dict[str, Any]:
    run = subprocess.run(
        [sys.executable, "-m", "tests.worst_cases", name],
        capture_output=True,
        text=True,
        check=False,
    )
    if run.returncode:
        raise AssertionError(f"{name}: {run.stderr[-1000:]}")
    told: dict[str, Any] = json.loads(run.stdout)
    return told


if __name__ == "__main__":
    unittest.main()

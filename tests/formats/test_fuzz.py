"""Thousands of broken files: none may crash a reader, hang it, or fill the memory.

What a reader takes must be good for all that is done with it. More of them than here can be had
with `python -m tests.formats.fuzzing`.
"""

from __future__ import annotations

import json
import subprocess
import sys
import unittest
from concurrent.futures import ThreadPoolExecutor
from typing import Any

from tests.formats.fuzzing import READERS

FILES = {"svg": 150, "dxf": 80, "piece": 100, "woff2": 300}
USUALLY = 50
SLOWEST = 4.0
"""Seconds of the processor that one file may take; two when nothing else runs."""
MOST_MB = 500
"""Of the whole process, of which some 140 are there before it begins."""


class BrokenFiles(unittest.TestCase):
    def test_each_is_read_or_refused(self) -> None:
        """Each reader in a process of its own, so that its memory is the reader's alone."""
        with ThreadPoolExecutor(2) as pool:
            for name, found in zip(READERS, pool.map(tried, READERS), strict=True):
                with self.subTest(name):
                    self.assertEqual(found["errors"], {})
                    # Both happen, or the mutations say nothing.
                    self.assertGreater(found["read"], 2)
                    self.assertGreater(found["refused"], 2)
                    self.assertLess(found["slowest_seconds"], SLOWEST)
                    self.assertLess(found["memory_mb"], MOST_MB)


def tried(reader: str) -> dict[str, Any]:
    count = str(FILES.get(reader, USUALLY))
    run = subprocess.run(
        [sys.executable, "-m", "tests.formats.fuzzing", reader, count],
        capture_output=True,
        text=True,
        check=False,
    )
    if run.returncode:
        raise AssertionError(f"{reader}: {run.stderr[-2000:]}")
    found: dict[str, Any] = json.loads(run.stdout.splitlines()[-1])
    return found


if __name__ == "__main__":
    unittest.main()

"""Ten thousand broken files: none may crash a reader, hang it, or fill the memory."""

from __future__ import annotations

import json
import subprocess
import sys
import unittest

FILES = 10_000


class BrokenFiles(unittest.TestCase):
    def test_each_is_read_or_refused(self) -> None:
        """In a process of its own, so that its memory is the readers' alone."""
        run = subprocess.run(
            [sys.executable, "-m", "tests.formats.fuzzing", str(FILES)],
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual(run.returncode, 0, run.stderr[-2000:])
        found = json.loads(run.stdout.splitlines()[-1])
        self.assertEqual(found["read"] + found["refused"], FILES)
        # Both happen, or the mutations say nothing.
        self.assertGreater(found["read"], FILES / 50)
        self.assertGreater(found["refused"], FILES / 50)
        self.assertLess(found["slowest_seconds"], 2.0)
        self.assertLess(found["memory_mb"], 500)


if __name__ == "__main__":
    unittest.main()

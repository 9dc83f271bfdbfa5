"""Random pieces through layout, screen, proof, every format and acts: no error but our own.

More of them than here can be had with `python -W error -m tests.random_pieces`.
"""

from __future__ import annotations

import json
import subprocess
import sys
import unittest

PIECES = 40
SLOWEST = 15.0
"""Seconds of the processor after which a worker gives it up."""


class RandomPieces(unittest.TestCase):
    def test_whatever_is_made_of_them(self) -> None:
        run = subprocess.run(
            [sys.executable, "-W", "error", "-m", "tests.random_pieces", str(PIECES)],
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual(run.returncode, 0, run.stderr[-2000:])
        found = json.loads(run.stdout)
        self.assertEqual(found["errors"], {})
        self.assertGreater(found["sound"], PIECES / 10)
        self.assertGreater(found["acted"], PIECES / 10)
        for what, (seconds, seed) in found["slowest"]:
            self.assertLess(seconds, SLOWEST, (what, seed))


if __name__ == "__main__":
    unittest.main()

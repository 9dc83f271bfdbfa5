"""A few random run sheets on every check; many by hand, see `tests.random_runs`."""

from __future__ import annotations

import unittest

from tests.random_runs import Runs


class RandomRuns(unittest.TestCase):
    def test_they_are_written_and_both_machines_take_them(self) -> None:
        trying = Runs()
        for seed in range(8):
            trying.one(seed)
        self.assertEqual(trying.wrong, {})
        self.assertEqual(trying.made, 8)


if __name__ == "__main__":
    unittest.main()

"""Batches survive whatever is ended in the middle: a few moments; `kills` has more of them."""

from __future__ import annotations

import unittest

from tests.batches.kills import killed, killed_server

ROWS = 40


class Kills(unittest.TestCase):
    def test_workers(self) -> None:
        killed("worker", 1, ROWS)

    def test_the_database(self) -> None:
        killed("database", 1, ROWS, seed=2)

    def test_the_server_with_all_that_it_has_started(self) -> None:
        killed_server(1, ROWS, seed=3)


if __name__ == "__main__":
    unittest.main()

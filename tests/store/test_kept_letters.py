"""Letters in thread that are kept for every process, with PostgreSQL."""

from __future__ import annotations

import unittest
from unittest.mock import patch

from sqlalchemy import create_engine, func, select
from structlog.testing import capture_logs

from tests.throwaway import empty_engine
from ulvent.store.kept_letters import KeptLetters
from ulvent.store.tables import KeptLetterRow


def name(of: str) -> bytes:
    return of.encode()


class Kept(unittest.TestCase):
    def setUp(self) -> None:
        self.engine = empty_engine()
        self.letters = KeptLetters(self.engine, lambda: "this program")

    def count(self) -> int:
        with self.engine.connect() as connection:
            return connection.scalar(select(func.count()).select_from(KeptLetterRow)) or 0

    def test_what_is_kept_comes_back_and_twice_is_once(self) -> None:
        self.assertIsNone(self.letters.get(name("Q")))
        self.letters.put(name("Q"), b"thread")
        self.letters.put(name("Q"), b"thread")
        self.assertEqual((self.letters.get(name("Q")), self.count()), (b"thread", 1))

    def test_another_program_makes_its_own(self) -> None:
        self.letters.put(name("Q"), b"thread")
        self.assertIsNone(KeptLetters(self.engine, lambda: "the next").get(name("Q")))

    def test_the_oldest_are_forgotten_beyond_a_bound_in_bytes(self) -> None:
        with (
            patch("ulvent.store.kept_letters._TRIMMED_EVERY", 10),
            patch("ulvent.store.kept_letters.KEPT_BYTES", 450),
        ):
            for number in range(10):
                self.letters.put(name(str(number)), b"x" * 100)
        self.assertEqual(self.count(), 4)
        self.assertIsNotNone(self.letters.get(name("9")))
        self.assertIsNone(self.letters.get(name("0")))

    def test_without_the_database_they_are_made_again(self) -> None:
        away = create_engine("postgresql+psycopg://nobody@127.0.0.1:1/none")
        letters = KeptLetters(away, lambda: "this program")
        with capture_logs() as said:
            letters.put(name("Q"), b"thread")
            self.assertIsNone(letters.get(name("Q")))
        self.assertEqual([one["log_level"] for one in said], ["warning", "warning"])


if __name__ == "__main__":
    unittest.main()

"""Words from tables: RFC 4180's examples, and what sheets write."""

from __future__ import annotations

import csv
import io
import unittest

from hypothesis import given
from hypothesis import strategies as st

from ulvent.core.base.errors import PieceError
from ulvent.formats.words_file import read_words

NAMES = [["Bramley", "1809"], ["Cox’s, Orange", 'the "best"'], ["Ribston\nPippin", "é"]]


class Tables(unittest.TestCase):
    def test_examples_of_rfc_4180(self) -> None:
        """Section 2, items 1 to 7."""
        for data, rows in (
            (b"aaa,bbb,ccc\r\nzzz,yyy,xxx\r\n", [["aaa", "bbb", "ccc"], ["zzz", "yyy", "xxx"]]),
            (b"aaa,bbb,ccc\r\nzzz,yyy,xxx", [["aaa", "bbb", "ccc"], ["zzz", "yyy", "xxx"]]),
            (b'"aaa","bbb","ccc"\r\nzzz,yyy,xxx', [["aaa", "bbb", "ccc"], ["zzz", "yyy", "xxx"]]),
            (b'"aaa","b\r\nbb","ccc"\r\nzzz,yyy,xxx',
             [["aaa", "b\nbb", "ccc"], ["zzz", "yyy", "xxx"]]),
            (b'"aaa","b""bb","ccc"', [["aaa", 'b"bb', "ccc"]]),
        ):  # fmt: skip
            self.assertEqual(read_words(data), rows)

    def test_encodings_and_separators(self) -> None:
        for separator in ",;\t":
            target = io.StringIO(newline="")
            csv.writer(target, delimiter=separator).writerows(NAMES)
            for encoding in ("utf-8", "utf-8-sig", "utf-16"):
                self.assertEqual(read_words(target.getvalue().encode(encoding)), NAMES)
        self.assertEqual(read_words("Müller;Große\n".encode("cp1252")), [["Müller", "Große"]])

    def test_what_is_no_table_is_said(self) -> None:
        for data, words in (
            (b'"never closed', "line 1"),
            (b"a\0b", "is no table"),
            (b"a\x07b", "line 1"),
            (b"x\n" * 50_002, "more than 50000 rows"),
            (b"x" * 5_000_001, "at most 5000000"),
        ):
            with self.assertRaisesRegex(PieceError, words):
                read_words(data)
        self.assertEqual(read_words(b"\n\n"), [])

    @given(st.binary(max_size=200))
    def test_any_bytes_are_read_or_refused(self, data: bytes) -> None:
        try:
            rows = read_words(data)
        except PieceError:
            return
        self.assertTrue(all(any(row) for row in rows))

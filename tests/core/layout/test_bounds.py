"""What letterings come to is bounded, and said before it is done."""

from __future__ import annotations

import unittest
from typing import Any
from unittest.mock import patch

from tests.makings import RING, document, laid
from ulvent.core.base.errors import PieceError
from ulvent.core.recipe import parse_piece
from ulvent.core.recipe.piece import MOST_LETTERS_IN_ALL
from ulvent.core.setting.letters.words import MOST_SET

WORDS = {"id": "t", "guide": "g", "text": "QUILLMERE ", "face": "lato-bold", "height": 0.5}


def piece(*letterings: dict[str, Any], diameter: float = 90_000.0) -> Any:
    ring = {"id": "g", **RING, "diameter": diameter}
    return parse_piece(document(guides=[ring], letterings=list(letterings)))


class TooMany(unittest.TestCase):
    def refused(self, found: Any) -> tuple[str, str]:
        """The field and the reason; nothing has been placed until then."""
        with (
            patch("ulvent.core.setting.lines.labels.place_row", side_effect=AssertionError),
            patch("ulvent.core.setting.lines.one_line.place_row", side_effect=AssertionError),
            self.assertRaises(PieceError) as caught,
        ):
            laid(found)
        (problem,) = caught.exception.problems
        return problem.field, problem.reason

    def test_repeats_times_letters(self) -> None:
        field, reason = self.refused(piece({**WORDS, "text": "QUILLMERE " * 2,
                                            "repeat": {"times": 900}}))  # fmt: skip
        self.assertEqual(field, "letterings[0].repeat")
        self.assertIn(f"comes to 18000 letters; at most {MOST_SET}", reason)
        field, _ = self.refused(piece({**WORDS, "repeat": {"pitch": 0.01}}))
        self.assertEqual(field, "letterings[0].repeat")

    def test_labels_times_their_letters(self) -> None:
        """A dial of 720 labels of 80 letters, twenty times, made an answer of 362 MB."""
        labels = {"kind": "list", "words": ["Q" * 80] * 720}
        field, reason = self.refused(piece({**WORDS, "text": "", "dial": {"labels": labels}}))
        self.assertEqual(field, "letterings[0].dial.labels")
        self.assertIn("fewer labels, or shorter ones", reason)

    def test_all_letterings_together(self) -> None:
        labels = {"kind": "list", "words": ["Q" * 10] * 720}
        dial = {**WORDS, "text": "", "dial": {"labels": labels}}
        many = [{**dial, "id": f"t{number}"} for number in range(5)]
        with self.assertRaises(PieceError) as caught:
            laid(piece(*many))
        fields = [problem.field for problem in caught.exception.problems]
        # Three of them are set; what comes after is one too many, and says so.
        self.assertEqual(fields, ["letterings[3].text", "letterings[4].text"])
        self.assertIn(f"at most {MOST_LETTERS_IN_ALL} are set in all", str(caught.exception))


if __name__ == "__main__":
    unittest.main()

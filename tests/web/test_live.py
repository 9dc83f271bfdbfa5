"""The live channel's document: sent once, then named by its hash."""

from __future__ import annotations

import unittest
from typing import Any
from unittest.mock import patch

from tests.formats.fonts import made_font
from tests.makings import document, with_lettering
from tests.web.served import WebTest
from ulvent.core.layout import lay_out

PULL = {"act": "slide-after", "lettering": "name", "start": [0, -120], "end": [40, -113]}


class Bases(WebTest):
    def asked(self, **request: Any) -> dict[str, Any]:
        answer = self.client.post("/api/scene", json={"sequence": 1, **request})
        self.assertEqual(answer.status_code, 200, answer.text)
        found: dict[str, Any] = answer.json()
        return found

    def test_a_document_is_named_by_its_hash_from_then_on(self) -> None:
        first = self.asked(piece=document())
        self.assertEqual(first["base"], first["hash"])
        with patch("ulvent.core.workshop.parse_piece") as parsing:
            again = self.asked(base=first["hash"])
        parsing.assert_not_called()
        self.assertEqual(again["scene"], first["scene"])

    def test_a_base_that_is_not_known_is_asked_for(self) -> None:
        answer = self.asked(base="0" * 32, acts=[PULL])
        self.assertEqual((answer["unknown"], answer["scene"], answer["acted"]), (True, None, None))

    def test_a_pull_lays_its_base_out_no_second_time(self) -> None:
        """With a fit: what the pull starts from is solved once."""
        fitted = with_lettering(text="QUILL", fit={"kind": "height"})
        base = self.asked(piece=fitted)["hash"]
        self.asked(base=base, acts=[PULL], hold=True)
        with patch("ulvent.core.workshop.lay_out", wraps=lay_out) as laying:
            self.asked(base=base, acts=[PULL], hold=True)
        laying.assert_called_once()
        self.assertNotEqual(laying.call_args.args[0].letterings[0].at, 0)

    def test_what_is_in_hand_has_no_name_and_the_end_of_a_pull_has(self) -> None:
        base = self.asked(piece=document())["hash"]
        held = self.asked(base=base, acts=[PULL], hold=True)
        self.assertEqual((held["base"], held["hash"]), (base, None))
        done = self.asked(base=base, acts=[PULL])
        self.assertNotIn(done["hash"], (None, base))
        # The page goes on from there by name, and means what it was shown.
        onward = self.asked(base=done["hash"])
        self.assertEqual(onward["scene"], done["scene"])
        self.assertEqual(self.asked(piece=done["acted"])["hash"], done["hash"])

    def test_a_face_that_comes_is_seen_by_pieces_that_are_known(self) -> None:
        """What was laid out with a stand-in is forgotten."""
        piece = with_lettering(face="square", text="A")
        first = self.asked(piece=piece)
        self.assertEqual(first["scene"]["findings"][0]["kind"], "missing-face")
        self.client.post("/api/faces", params={"name": "square.ttf"}, content=made_font())
        self.assertTrue(self.asked(base=first["hash"])["unknown"])


if __name__ == "__main__":
    unittest.main()

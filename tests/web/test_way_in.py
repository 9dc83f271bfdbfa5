"""What comes in is plain text and finite, and an outage of the database is one."""

from __future__ import annotations

import unittest
from typing import Any

from fastapi.testclient import TestClient
from sqlalchemy import create_engine

from tests.makings import document
from tests.web.served import HOME, PORT, WebTest
from ulvent.web.app import create_app

# What PostgreSQL (NUL, lone surrogates) or XML 1.0, section 2.2 (the others) cannot hold.
NO_TEXT = ("\x00", "\x07", "\ufffe", "\uffff", "\u2028")


def with_text(field: str, text: str) -> dict[str, Any]:
    """A piece with words in one of its fields."""
    piece = document()
    owners = {
        "title": piece,
        "guides[0].name": piece["guides"][0],
        "letterings[0].text": piece["letterings"][0],
        "letterings[0].name": piece["letterings"][0],
        "letterings[0].hand_words": piece["letterings"][0],
        "letterings[0].face": piece["letterings"][0],
    }
    owners[field][field.rpartition(".")[2]] = text
    return piece


class PlainText(WebTest):
    def test_words_that_nothing_could_hold_are_refused_at_their_field(self) -> None:
        """A title with NUL was a failure of the database, words with U+FFFE one of a picture."""
        for field in ("title", "guides[0].name", "letterings[0].text", "letterings[0].name",
                      "letterings[0].hand_words", "letterings[0].face"):  # fmt: skip
            for wrong in NO_TEXT:
                with self.subTest(field, wrong=wrong):
                    answer = self.client.post(
                        "/api/pieces", json={"piece": with_text(field, f"a{wrong}b")}
                    )
                    problem = self.assert_problem(answer, 422, field)
                    self.assertIn(f"place 2 holds the character U+{ord(wrong):04X}",
                                  problem["detail"])  # fmt: skip
        for text in ("Pêche & Poire", "أهلاً", "mel 🍐", "two\nlines"):
            answer = self.client.post("/api/pieces", json={"piece": with_text("title", text)})
            self.assertEqual(answer.json()["piece"]["title"], text)

    def test_nor_in_names_and_questions(self) -> None:
        for wrong in NO_TEXT:
            named = {"name": f"a{wrong}", "piece": document(), "guide": "rim"}
            self.assert_problem(self.client.post("/api/drawer", json=named), 422, "name")
            for path in ("/api/drawer", "/api/faces"):
                question = {"words": wrong, "text": wrong}
                self.assert_problem(self.client.get(path, params=question), 422)
            sheet = {"id": "film", "name": f"Film{wrong}"}
            self.assert_problem(self.client.put("/api/tool-sheets", json=sheet), 422)


class Acts(WebTest):
    def test_a_point_that_is_far_out_or_not_finite_is_refused(self) -> None:
        """It went as far as the search for the foot of a point, and failed there."""
        for far in ("1e300", "-1e9", "1e999"):
            for act in (
                '{"act": "pull", "guide": "rim", "grip": "whole", "start": [0, 0], "end": [%s, 0]}',
                '{"act": "slide-after", "lettering": "name", "start": [0, 0], "end": [0, %s]}',
                '{"act": "slide-by", "lettering": "name", "by": %s}',
                '{"act": "draw-freehand", "points": [[0, 0], [9, %s]], "tolerance": 1}',
            ):
                body = '{"sequence": 1, "base": "", "acts": [' + act % far + "]}"
                answer = self.client.post(
                    "/api/scene", content=body, headers={"Content-Type": "application/json"}
                )
                self.assert_problem(answer, 422)


class Outage(unittest.TestCase):
    def test_while_the_database_is_away_one_may_ask_again_later(self) -> None:
        """RFC 9110, 15.6.4: 503, with Retry-After."""
        nowhere = create_engine("postgresql+psycopg://nobody@127.0.0.1:1/nothing")
        client = TestClient(create_app(nowhere, PORT), base_url=HOME)
        for answer in (
            client.get("/api/pieces"),
            client.post("/api/pieces", json={"piece": document()}),
            client.get("/api/drawer"),
            client.get("/api/tool-sheets"),
        ):
            self.assertEqual(answer.status_code, 503, answer.text)
            self.assertEqual(answer.headers["Retry-After"], "2")
            self.assertIn("kept once it does", answer.json()["detail"])


if __name__ == "__main__":
    unittest.main()

"""Work that takes too much, is overtaken, or loses its worker: each is answered, others go on."""

from __future__ import annotations

import json
import os
import signal
import threading
import time
import unittest
from collections.abc import Callable
from contextlib import suppress
from typing import Any
from unittest.mock import MagicMock, patch

from tests.makings import document
from tests.web.served import HOME, LIVE, WebTest, answered
from ulvent.web.live_answers import replies

WORDS = "QUILLMERE ORCHARD AND OLD RUSSET PEARS "


def heavy(letters: int = 1600) -> dict[str, Any]:
    """Words that grow until the turns of a spiral would touch: seconds of work."""
    spiral = {"id": "g", "kind": "spiral", "inner": 60, "gain": 14, "turns": 60}
    words = {"id": "t", "guide": "g", "face": "lato-bold", "height": 6,
             "text": (WORDS * 50)[:letters],
             "fit": {"kind": "height", "within": ["turns"], "clear": 1}}  # fmt: skip
    return document(guides=[spiral], letterings=[words])


def stencil() -> dict[str, Any]:
    """Many letters with bridges: seconds of preparing."""
    ring = {"id": "g", "kind": "circle", "diameter": 6000}
    words = {"id": "t", "guide": "g", "face": "lato-bold", "height": 9, "text": (WORDS * 50)[:1500],
             "prepare": {"bridges": {"width": 1}}}  # fmt: skip
    return document(guides=[ring], letterings=[words])


class OverTime(WebTest):
    def test_a_proof_says_at_which_field_and_what_would_do(self) -> None:
        # How long it takes to come to the bridges is for the machine to say, not for the test.
        for seconds in (0.5 * 1.25**step for step in range(15)):
            with patch("ulvent.web.proof_routes.LATER", seconds):
                answer = self.client.post("/api/proof", json={"piece": stencil()})
            if "bridges" in answer.text:
                break
        problem = self.assert_problem(answer, 422, "letterings[0].prepare.bridges")
        self.assertIn("“Bridges” on", problem["detail"])
        self.assertIn(f"takes more than {seconds:g} seconds", problem["detail"])
        self.assertIn("fewer letters", problem["detail"])

    def test_the_end_of_memory_is_no_error_of_the_piece(self) -> None:
        asked = json.dumps({"sequence": 1, "piece": document()})
        memory_ends = patch("ulvent.web.live_answers.answers", side_effect=MemoryError)
        with memory_ends, self.assertRaises(MemoryError):
            list(replies(asked, set(), MagicMock()))
        with patch("ulvent.web.live_answers.answers", side_effect=ValueError):
            ((said, more),) = replies(asked, set(), MagicMock())
        self.assertIn("the log has more", said)
        self.assertFalse(more)

    def test_a_file_from_elsewhere_that_takes_too_long_to_read_is_refused(self) -> None:
        line = "M0 0" + "C1 2 3 4 5 6" * 15_000
        data = f'<svg xmlns="http://www.w3.org/2000/svg"><path d="{line}"/></svg>'.encode()
        with patch("ulvent.web.outline_routes._READING_SECONDS", 0.2):
            answer = self.client.post("/api/outlines/svg", content=data)
        self.assertIn("more than 0.2 seconds", self.assert_problem(answer, 422)["detail"])

    def test_a_page_hears_why_its_question_was_given_up_and_asks_the_next(self) -> None:
        with self.client.websocket_connect(LIVE, headers={"Origin": HOME}) as channel:
            with patch("ulvent.web.live.SOON", 0.6):
                channel.send_text(json.dumps({"sequence": 4, "piece": heavy()}))
                given_up = answered(channel)
            channel.send_text(json.dumps({"sequence": 5, "piece": document()}))
            done = answered(channel)
        (problem,) = given_up["problems"]
        self.assertEqual((given_up["sequence"], problem["field"]), (4, "letterings[0].text"))
        self.assertIn("takes more than 0.6 seconds", problem["reason"])
        self.assertEqual((done["sequence"], done["problems"]), (5, []))

    def test_a_question_that_is_overtaken_is_stopped(self) -> None:
        with (
            patch("ulvent.web.live._OVERTAKEN_SECONDS", 0.2),
            patch("ulvent.web.live._SIGN_SECONDS", 0.1),
            self.client.websocket_connect(LIVE, headers={"Origin": HOME}) as channel,
        ):
            channel.send_text(json.dumps({"sequence": 1, "piece": heavy(2000)}))
            self.assertTrue(channel.receive_json()["working"])
            channel.send_text(json.dumps({"sequence": 2, "piece": document()}))
            self.assertEqual(answered(channel)["sequence"], 2)


class Gone(WebTest):
    def test_a_page_that_has_gone_is_not_worked_for(self) -> None:
        crew = self.app.state.hands.crew
        for worker in crew.workers:
            worker.start().result(60)
        pids = [worker.pid for worker in crew.workers]
        with self.client.websocket_connect(LIVE, headers={"Origin": HOME}) as channel:
            channel.send_text(json.dumps({"sequence": 1, "piece": heavy(2000)}))
            self.assertTrue(channel.receive_json()["working"])
            self.assertEqual([worker.pid for worker in crew.workers], pids)
        # Another process: there is no other way to stop one in the middle.
        eventually(lambda: [worker.pid for worker in crew.workers] != pids)

    def test_workers_that_are_killed_are_replaced_and_their_requests_answered(self) -> None:
        """Fifty times and more, at any moment of it."""
        killed = 0

        def kill() -> None:
            nonlocal killed
            for worker in self.app.state.hands.crew.workers:
                with suppress(ProcessLookupError, TypeError):
                    os.kill(worker.pid, signal.SIGKILL)
                    killed += 1

        base = self.asked(piece=document())
        for number in range(70):
            timer = threading.Timer(0.004 * number, kill)
            timer.start()
            answer = self.asked(piece=document(title=f"number {number}"))
            timer.join()
            self.assertNotEqual(answer["hash"], base["hash"])
            self.assertEqual(shown(answer), shown(base))
        self.assertGreaterEqual(killed, 50)

    def asked(self, **request: Any) -> dict[str, Any]:
        answer = self.client.post("/api/scene", json={"sequence": 1, **request})
        self.assertEqual(answer.status_code, 200, answer.text)
        found: dict[str, Any] = answer.json()
        return found


def shown(answer: dict[str, Any]) -> list[Any]:
    """What of an answer does not name the process that it was made in."""
    return [(one["matrices"], one["places"]) for one in answer["scene"]["letterings"]]


def eventually(holds: Callable[[], bool]) -> None:
    for _ in range(400):
        if holds():
            return
        time.sleep(0.05)
    raise AssertionError("it never came to be")


if __name__ == "__main__":
    unittest.main()

"""The live channel's document: sent once, then named by its hash."""

from __future__ import annotations

import asyncio
import json
import unittest
from types import SimpleNamespace
from typing import Any
from unittest.mock import patch

from sqlalchemy import create_engine

from tests.formats.fonts import made_font
from tests.makings import document, with_lettering
from tests.web.served import HOME, LIVE, WebTest
from ulvent.bench import Bench, Hands
from ulvent.core.layout import lay_out
from ulvent.crew import Crew
from ulvent.store.added_faces import Faces
from ulvent.web.live import Channel
from ulvent.web.live_answers import LiveAnswer, LiveRequest, answers

PULL = {"act": "slide-after", "lettering": "name", "start": [0, -120], "end": [40, -113]}


def bench() -> Bench:
    """A bench as workers have it, over no database."""
    return Bench.over(Faces(create_engine("postgresql+psycopg://")))


def answered(bench: Bench, **request: Any) -> LiveAnswer:
    *_, last = answers(LiveRequest(sequence=1, **request), set(), bench)
    return last


class Bases(WebTest):
    def asked(self, **request: Any) -> dict[str, Any]:
        answer = self.client.post("/api/scene", json={"sequence": 1, **request})
        self.assertEqual(answer.status_code, 200, answer.text)
        found: dict[str, Any] = answer.json()
        return found

    def test_a_document_is_named_by_its_hash_from_then_on(self) -> None:
        here = bench()
        first = answered(here, piece=document())
        self.assertEqual(first.base, first.hash)
        with patch("ulvent.core.workshop.parse_piece") as parsing:
            again = answered(here, base=first.hash)
        parsing.assert_not_called()
        self.assertEqual(again.scene, first.scene)

    def test_a_base_that_is_not_known_is_asked_for(self) -> None:
        answer = self.asked(base="0" * 32, acts=[PULL])
        self.assertEqual((answer["unknown"], answer["scene"], answer["acted"]), (True, None, None))

    def test_a_pull_lays_its_base_out_no_second_time(self) -> None:
        """With a fit: what the pull starts from is solved once."""
        fitted = with_lettering(text="QUILL", fit={"kind": "height"})
        here = bench()
        base = answered(here, piece=fitted).hash
        answered(here, base=base, acts=[PULL], hold=True)
        with patch("ulvent.core.workshop.lay_out", wraps=lay_out) as laying:
            answered(here, base=base, acts=[PULL], hold=True)
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


class Patience(WebTest):
    def test_a_long_answer_is_said_to_be_worked_on(self) -> None:
        """The page gave up after four seconds and asked again, to be worked for twice."""
        with (
            patch("ulvent.web.live._SIGN_SECONDS", 0.003),
            self.client.websocket_connect(LIVE, headers={"Origin": HOME}) as channel,
        ):
            # So many letters take a quick machine, too, several times as long as a sign.
            piece = with_lettering(text="Orchard wall " * 40, height=3.0)
            channel.send_text(json.dumps({"sequence": 7, "piece": piece}))
            heard = [channel.receive_json()]
            while heard[-1]["working"]:
                heard.append(channel.receive_json())
        self.assertGreater(len(heard), 2)
        self.assertEqual((heard[-1]["sequence"], heard[-1]["problems"]), (7, []))
        self.assertIsNotNone(heard[-1]["scene"])


class Deaf:
    """A socket whose other side does not read: what is sent stays where it is."""

    def __init__(self) -> None:
        hands = Hands("postgresql+psycopg://", Crew([], size=1))
        self.app = SimpleNamespace(state=SimpleNamespace(hands=hands))
        self.closed: list[int] = []

    async def send_text(self, _: str) -> None:
        await asyncio.Event().wait()

    async def close(self, code: int) -> None:
        self.closed.append(code)


class Reading(unittest.TestCase):
    def test_a_page_that_does_not_read_is_closed(self) -> None:
        socket = Deaf()
        self.addCleanup(socket.app.state.hands.crew.close)

        async def work() -> None:
            channel = Channel(socket, "a page")
            channel.put("{}")
            await asyncio.wait_for(channel.work(), 20.0)

        with patch("ulvent.web.live._SEND_SECONDS", 0.05):
            asyncio.run(work())
        self.assertEqual(socket.closed, [1008])


if __name__ == "__main__":
    unittest.main()

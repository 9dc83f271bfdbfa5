"""The application's routes over the tests' own database, without a network."""

from __future__ import annotations

import atexit
import unittest
from functools import cache
from typing import Any

from fastapi import FastAPI
from fastapi.testclient import TestClient

from tests.makings import document
from tests.throwaway import empty_engine
from ulvent.web.app import create_app

PORT = 8480
HOME = f"http://127.0.0.1:{PORT}"
LIVE = f"ws://127.0.0.1:{PORT}/api/live"


@cache
def _application() -> FastAPI:
    """The one of this process: its crew of processes takes seconds to gather."""
    app = create_app(empty_engine(), PORT)
    atexit.register(app.state.hands.crew.close)
    return app


class WebTest(unittest.TestCase):
    """Each test has an empty database; the crew's benches read it anew."""

    def setUp(self) -> None:
        empty_engine()
        self.app = _application()
        self.app.state.hands.faces_changed()
        self.client = TestClient(self.app, base_url=HOME, headers={"Origin": HOME})

    def created(self, **changes: Any) -> dict[str, Any]:
        answer = self.client.post("/api/pieces", json={"piece": document(**changes)})
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    def assert_problem(self, answer: Any, status: int, field: str | None = None) -> dict[str, Any]:
        """RFC 9457: media type, status and title of problem details."""
        self.assertEqual(answer.status_code, status, answer.text)
        self.assertEqual(answer.headers["content-type"], "application/problem+json")
        problem = answer.json()
        self.assertEqual(problem["status"], status)
        self.assertTrue(problem["title"] and problem["detail"])
        if field is not None:
            self.assertIn(field, [error["field"] for error in problem["errors"]])
        return problem


def answered(channel: Any) -> dict[str, Any]:
    """The next answer that is more than a sign of life."""
    while (heard := channel.receive_json())["working"]:
        pass
    found: dict[str, Any] = heard
    return found

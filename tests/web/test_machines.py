"""Machines and jobs over the wire, with a simulated machine behind it."""

from __future__ import annotations

import tempfile
import time
from pathlib import Path
from typing import Any
from uuid import uuid4

from fastapi.testclient import TestClient

from tests.reference.test_run_files import SIGN
from tests.throwaway import empty_engine
from tests.web.served import HOME, PORT, WebTest
from ulvent.web.app import create_app
from ulvent.web.simulated import simulated_machines

OWN = {
    "id": "own",
    "name": "Own plotter",
    "format": "plt",
    "bed": {"width": 100, "height": 50},
    "address": "192.0.2.7:9100",
}


class Records(WebTest):
    def test_machines_are_kept_and_those_that_may_not_be_reached_say_so(self) -> None:
        kept = self.client.put("/api/machines/own", json=OWN)
        self.assertEqual(kept.status_code, 200, kept.text)
        (own,) = self.client.get("/api/machines").json()
        self.assertEqual((own["machine"]["name"], own["allowed"]), ("Own plotter", False))
        piece = self.created(**SIGN)
        new = {"piece_id": piece["id"], "revision": piece["revision"], "despite": True}
        problem = self.assert_problem(
            self.client.post("/api/machines/own/jobs", json=new), 422, "machine"
        )
        self.assertIn("leaves the bed of 100 × 50 mm by", problem["detail"])
        large = {**OWN, "bed": {"width": 900, "height": 900}}
        self.client.put("/api/machines/own", json=large)
        problem = self.assert_problem(self.client.post("/api/machines/own/jobs", json=new), 403)
        self.assertIn("--machine 192.0.2.7:9100", problem["detail"])
        self.assertIsNone(self.client.get("/api/jobs", params={"piece": piece["id"]}).json())
        self.assertEqual(self.client.delete("/api/machines/own").status_code, 204)
        self.assert_problem(self.client.post("/api/machines/own/jobs", json=new), 404)

    def test_wrong_records_name_their_field(self) -> None:
        for wrong, field in (
            ({"address": "nowhere"}, "address"),
            ({"address": "a:99999"}, "address"),
            ({"address": "/dev/../etc/passwd"}, "address"),
            ({"bed": {"width": -1, "height": 1}}, "bed.width"),
            ({"format": "svg"}, "format"),
            ({"baud": 7}, "baud"),
        ):
            answer = self.client.put("/api/machines/own", json={**OWN, **wrong})
            self.assert_problem(answer, 422, f"body.{field}")
        self.assert_problem(self.client.put("/api/machines/other", json=OWN), 409)


class Sent(WebTest):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.simulated = simulated_machines(Path(folder.name), pace=60.0)
        for one in self.simulated:
            self.addCleanup(one.close)
        self.app = create_app(empty_engine(), PORT, simulated=self.simulated)
        self.addCleanup(self.app.state.hands.crew.close)
        self.addCleanup(self.app.state.sender.close)
        self.client = TestClient(self.app, base_url=HOME)

    def job(self, piece: dict[str, Any]) -> Any:
        return self.client.get("/api/jobs", params={"piece": piece["id"]}).json()

    def ended(self, piece: dict[str, Any]) -> Any:
        for _ in range(3000):
            found = self.job(piece)
            if not found["active"]:
                return found
            time.sleep(0.02)
        raise AssertionError(f"still {found['state']}")

    def test_sent_to_each_and_held_against_what_was_meant(self) -> None:
        piece = self.created(**SIGN)
        new = {"piece_id": piece["id"], "revision": piece["revision"], "despite": True}
        for one in self.simulated:
            machine = one.machine
            answer = self.client.post(f"/api/machines/{machine.id}/jobs", json=new)
            self.assertEqual(answer.status_code, 201, answer.text)
            begun = answer.json()
            self.assertEqual((begun["active"], begun["done"]), (True, 0))
            busy = self.client.post(f"/api/machines/{machine.id}/jobs", json=new)
            self.assert_problem(busy, 409)
            done = self.ended(piece)
            self.assertEqual((done["state"], done["done"]), ("done", done["lines"]))
            self.assertAlmostEqual(done["length_done"], done["length"])
            came_out = self.client.get(f"/api/machines/{machine.id}/came-out").json()
            self.assertEqual(came_out["meant"], came_out["done"])
            self.assertLess(came_out["apart"], 0.1)
            picture = self.client.get(f"/api/machines/{machine.id}/picture")
            self.assertEqual(picture.content[:4], b"\x89PNG")

    def test_a_fault_is_said_and_nothing_is_sent_twice_by_itself(self) -> None:
        piece = self.created(**SIGN)
        machine = self.simulated[0].machine
        wrong = {"fault": "power lost", "after": 40}
        self.client.post(f"/api/machines/{machine.id}/fault", json=wrong)
        new = {"piece_id": piece["id"], "revision": piece["revision"], "despite": True}
        self.client.post(f"/api/machines/{machine.id}/jobs", json=new)
        failed = self.ended(piece)
        self.assertEqual((failed["state"], failed["uncertain"] > 0), ("failed", True))
        address = f"/api/jobs/{failed['id']}"
        self.assert_problem(self.client.post(address, json={"line": failed["done"]}), 409)
        self.assert_problem(self.client.post(address, json={"line": 10_000}), 409)
        self.assert_problem(self.client.post(f"{address}/go-on"), 409)
        again = {"line": failed["done"], "again": True}
        self.client.post(f"/api/machines/{machine.id}/fault", json={"fault": "no sheet"})
        self.assertEqual(self.client.post(address, json=again).status_code, 201)
        refused = self.ended(piece)
        # It never came to a line, but what the job before it sent is as uncertain as it was.
        self.assertEqual(
            [refused[key] for key in ("state", "done", "uncertain")],
            ["failed", failed["done"], failed["uncertain"]],
        )
        self.client.post(f"/api/machines/{machine.id}/fault", json={"fault": ""})
        address = f"/api/jobs/{refused['id']}"
        self.assert_problem(self.client.post(address, json={"line": refused["done"]}), 409)
        answer = self.client.post(address, json=again)
        self.assertEqual(answer.status_code, 201, answer.text)
        done = self.ended(piece)
        self.assertEqual(done["state"], "done")
        came_out = self.client.get(f"/api/machines/{machine.id}/came-out").json()
        self.assertLess(came_out["done"], 99)
        # Where only the end was not heard, it alone is sent again.
        only_end = {"line": done["lines"]}
        answer = self.client.post(f"/api/jobs/{done['id']}", json=only_end)
        self.assertEqual(answer.status_code, 201, answer.text)
        ended = self.ended(piece)
        self.assertEqual((ended["state"], ended["done"]), ("done", done["lines"]))
        self.assertEqual(ended["length_done"], 0.0)
        seen = self.client.get(f"/api/machines/{machine.id}/came-out").json()
        self.assertEqual(seen["done"], came_out["done"])

    def test_faults_that_are_open_and_pieces_that_have_changed_are_not_sent(self) -> None:
        # The board is cut out before its letters are drawn.
        out = {"id": "a", "tool": "beam", "works": [{"what": "edge"}]}
        draw = {"id": "b", "tool": "pen", "works": [{"what": "letters", "of": "t"}]}
        piece = self.created(**SIGN, run={"passes": [out, draw]})
        machine = self.simulated[0].machine
        new = {"piece_id": piece["id"], "revision": piece["revision"]}
        answer = self.client.post(f"/api/machines/{machine.id}/jobs", json=new)
        self.assert_problem(answer, 422, "despite")
        stale = {**new, "revision": piece["revision"] - 1}
        self.assert_problem(self.client.post(f"/api/machines/{machine.id}/jobs", json=stale), 409)
        self.assert_problem(
            self.client.post(
                f"/api/machines/{machine.id}/jobs", json={**new, "piece_id": str(uuid4())}
            ),
            404,
        )

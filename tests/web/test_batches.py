"""Batches over HTTP: begun, looked at, stopped, taken away; made by a worker beside the server."""

from __future__ import annotations

import io
import zipfile
from typing import Any

from pypdf import PdfReader

from tests.batches.working import Workshop, tag
from tests.throwaway import empty_engine
from tests.web.served import WebTest


class BatchRoutes(WebTest):
    def setUp(self) -> None:
        super().setUp()
        self.shop = Workshop(empty_engine())

    def begun(self, names: list[str], status: int = 201, **asked: Any) -> Any:
        made = self.client.post("/api/pieces", json={"piece": tag(names)}).json()
        answer = self.client.post(f"/api/pieces/{made['id']}/batches", json=asked)
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()

    def files(self, batch: dict[str, Any]) -> dict[str, bytes]:
        answer = self.client.get(f"/api/batches/{batch['id']}/files")
        self.assertEqual(answer.status_code, 200)
        self.assertIn('filename="Tag names.zip"', answer.headers["content-disposition"])
        with zipfile.ZipFile(io.BytesIO(answer.content)) as package:
            return {name: package.read(name) for name in package.namelist()}

    def test_a_list_is_made_and_taken_away_as_a_zip(self) -> None:
        batch = self.begun(["Ann", "🍎", "O’Neill"])
        self.assertEqual((batch["state"], batch["rows"], batch["made"]), ("running", 3, 0))
        self.assertEqual(batch["what"], "SVG, a file each")
        self.shop.work_off()
        (listed,) = self.client.get("/api/batches").json()
        self.assertEqual((listed["state"], listed["made"], listed["fit"]), ("done", 3, 2))
        found = self.client.get(f"/api/batches/{batch['id']}").json()
        self.assertEqual(found["batch"], listed)
        self.assertEqual([(one["number"], one["title"]) for one in found["unfit"]], [(2, "🍎")])
        files = self.files(batch)
        self.assertEqual(list(files), ["001-Ann.svg", "003-ONeill.svg"])
        self.assertIn("O’Neill", files["003-ONeill.svg"].decode())

    def test_sheets_with_their_cutting_list(self) -> None:
        batch = self.begun([f"Name {k}" for k in range(5)], sheet={"width": 210, "height": 100})
        self.assertEqual(batch["what"], "sheets of 210 × 100 mm")
        self.shop.work_off()
        files = self.files(batch)
        self.assertEqual(list(files), ["sheet-001.svg", "sheet-002.svg", "cutting-list.pdf"])
        text = "".join(
            page.extract_text() for page in PdfReader(io.BytesIO(files["cutting-list.pdf"])).pages
        )
        for k in range(5):
            self.assertIn(f"{k + 1}  Name {k}", text)

    def test_stopped_and_cleared_away(self) -> None:
        batch = self.begun(["Ann", "Bea"])
        stopped = self.client.post(f"/api/batches/{batch['id']}/cancel").json()
        self.assertEqual(stopped["state"], "cancelled")
        self.shop.work_off()
        self.assertEqual(self.shop.hands.asked, [])
        self.assertEqual(self.files(batch), {})
        self.assertEqual(self.client.delete(f"/api/batches/{batch['id']}").status_code, 204)
        self.assertEqual(self.client.get(f"/api/batches/{batch['id']}").status_code, 404)
        self.assertEqual(self.client.get("/api/batches").json(), [])

    def test_what_cannot_be_made_is_said_at_once_and_by_its_field(self) -> None:
        for names, asked, field in (
            (["Ann", "ann "], {"name": "{words}"}, "name"),
            ([], {}, "names.rows"),
            (["Ann"], {"format": "doc"}, "body.format"),
            (["Ann"], {"sheet": {"width": 0, "height": 50}}, "body.sheet.width"),
            (["Ann"], {"sheet": {"width": 600, "height": 400, "turns": []}}, "body.sheet.turns"),
        ):
            with self.subTest(field):
                problem = self.begun(names, 422, **asked)
                self.assertEqual([one["field"] for one in problem["errors"]], [field])
        self.assertEqual(self.client.get("/api/batches").json(), [])

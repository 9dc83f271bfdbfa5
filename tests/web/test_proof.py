"""The proof over the wire, and the tool sheets in PostgreSQL."""

from __future__ import annotations

import unittest
from typing import Any

from tests.makings import document
from tests.web.served import WebTest

STENCIL = {"id": "stencil-blade", "name": "Stencil", "use": "removed", "least_stroke": 1.2}


class Proofs(WebTest):
    def proof(self, status: int = 200, **request: Any) -> Any:
        answer = self.client.post("/api/proof", json=request)
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()

    def test_a_stencil_shows_what_falls_out_and_a_remedy_mends_it(self) -> None:
        piece = document(tool_sheets=[STENCIL])
        scene = self.proof(piece=piece)
        self.assertEqual(scene["use"], "removed")
        falling = [part for part in scene["parts"] if not part["holds"]]
        self.assertTrue(falling and scene["loose"])
        found = [f for f in scene["findings"] if f["kind"] == "falls-out"]
        for finding in found:
            mended = [
                one | finding["remedies"][0]["changes"]
                if one["id"] == finding["lettering"]
                else one
                for one in piece["letterings"]
            ]
            piece = piece | {"letterings": mended}
        clean = self.proof(piece=piece)
        self.assertEqual([f for f in clean["findings"] if f["kind"] == "falls-out"], [])
        self.assertEqual(clean["loose"], "")
        self.assertTrue(any(layer["bridges"] for layer in clean["layers"]))

    def test_both_ways_and_every_layer_can_be_looked_at(self) -> None:
        piece = document()
        piece["letterings"][0]["prepare"] = {"borders": [{"distance": 2}]}
        kept, removed = (self.proof(piece=piece, use=use) for use in ("kept", "removed"))
        total = kept["stays_area"] + kept["falls_area"]
        self.assertAlmostEqual(removed["stays_area"] + removed["falls_area"], total, places=3)
        name = piece["letterings"][0]["id"]
        border = self.proof(piece=piece, layer=f"border-{name}-1")
        self.assertGreater(border["stays_area"], kept["stays_area"] / 2.0)

    def test_letters_become_what_face_and_sheet_ask_for(self) -> None:
        """The same that a file says of them."""
        pen = {"id": "pen", "name": "Pen", "use": "lines"}
        for sheets, own, wanted in (
            ([], {}, "cut"),
            ([], {"face": "hershey-sans"}, "draw"),
            ([pen], {}, "draw"),
            ([pen], {"output": "engrave"}, "engrave"),
        ):
            piece = document(tool_sheets=sheets)
            piece["letterings"] = [{**piece["letterings"][0], **own}]
            with self.subTest(own=own):
                (layer,) = self.proof(piece=piece)["layers"]
                self.assertEqual(layer["output"], wanted)

    def test_an_open_shape_is_a_problem_that_names_its_field(self) -> None:
        piece = document(guides=[{"id": "rim", "kind": "line", "length": 300}])
        piece["letterings"][0]["prepare"] = {"cut_back": [{"to": "rim"}]}
        answer = self.client.post("/api/proof", json={"piece": piece})
        self.assert_problem(answer, 422, "letterings[0].prepare.cut_back[0].to")


class ToolSheets(WebTest):
    def test_shipped_sheets_are_edited_saved_and_put_back(self) -> None:
        shipped = self.client.get("/api/tool-sheets").json()
        first = shipped[0]
        self.client.put("/api/tool-sheets", json=first | {"least_stroke": 9.5})
        self.client.put("/api/tool-sheets", json=first | {"id": "mine", "name": "Mine"})
        now = {sheet["id"]: sheet for sheet in self.client.get("/api/tool-sheets").json()}
        self.assertEqual(now[first["id"]]["least_stroke"], 9.5)
        self.assertEqual(now["mine"]["name"], "Mine")
        for sheet in (first["id"], "mine"):
            self.assertEqual(self.client.delete(f"/api/tool-sheets/{sheet}").status_code, 204)
        self.assertEqual(self.client.get("/api/tool-sheets").json(), shipped)

    def test_a_wrong_figure_is_named(self) -> None:
        answer = self.client.put("/api/tool-sheets", json=STENCIL | {"least_gap": -1})
        self.assert_problem(answer, 422)
        self.assertIn("least_gap", answer.text)


if __name__ == "__main__":
    unittest.main()

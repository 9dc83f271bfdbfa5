"""Routes for faces: offered, added, taken out, stood in for."""

from __future__ import annotations

from typing import Any

from tests.formats.fonts import SVG_FONT, made_font
from tests.makings import document, with_lettering
from tests.web.served import WebTest


class Faces(WebTest):
    def add(self, data: bytes, name: str = "mine") -> Any:
        return self.client.post("/api/faces", params={"name": name}, content=data)

    def offered(self, text: str = "") -> dict[str, Any]:
        found = self.client.get("/api/faces", params={"text": text}).json()
        return {face["id"]: face for face in found}

    def scene(self, piece: dict[str, Any], **more: Any) -> dict[str, Any]:
        request = {"sequence": 1, "piece": piece, **more}
        return self.client.post("/api/scene", json=request).json()

    def test_an_added_face_is_offered_and_set(self) -> None:
        answer = self.add(made_font())
        self.assertEqual(answer.status_code, 201, answer.text)
        face = answer.json()
        self.assertTrue(face["added"])
        self.assertIn(face["id"], self.offered())
        words = self.client.get(f"/api/faces/{face['id']}/words", params={"text": "AA"})
        self.assertEqual(words.text.count("<path"), 2)
        self.assertIn("embedding", self.client.get(f"/api/faces/{face['id']}/licence").text)
        scene = self.scene(with_lettering(face=face["id"], text="AA"))["scene"]
        self.assertEqual([f["kind"] for f in scene["findings"]], [])

    def test_a_single_stroke_face_from_an_svg_font(self) -> None:
        face = self.add(SVG_FONT.encode()).json()
        self.assertTrue(face["single_stroke"])
        self.assertIn("single stroke", face["good_for"])

    def test_a_broken_file_is_refused_and_nothing_is_kept(self) -> None:
        before = self.offered()
        for data, reason in ((b"", "empty"), (b"PK\3\4zip", "not a font"),
                             (made_font()[:300], "read")):  # fmt: skip
            problem = self.assert_problem(self.add(data), 422)
            self.assertIn(reason, problem["detail"])
        self.assertEqual(self.offered(), before)

    def test_a_face_in_use_does_not_vanish(self) -> None:
        face = self.add(made_font()).json()["id"]
        piece = with_lettering(face=face, text="A")
        before = self.scene(piece)["scene"]["letterings"][0]["bounds"]
        self.assertEqual(self.client.delete(f"/api/faces/{face}").status_code, 204)
        self.assertNotIn(face, self.offered())
        after = self.scene(piece)["scene"]
        self.assertEqual(after["letterings"][0]["bounds"], before)
        self.assertEqual(after["findings"], [])
        self.client.post(f"/api/faces/{face}/restore")
        self.assertIn(face, self.offered())

    def test_a_face_that_is_not_here_is_stood_in_for_and_named(self) -> None:
        created = self.client.post("/api/pieces", json={"piece": with_lettering(face="gone-123")})
        self.assertEqual(created.status_code, 201)
        finding = self.scene(created.json()["piece"])["scene"]["findings"][0]
        self.assertEqual((finding["kind"], finding["severity"]), ("missing-face", "fault"))
        self.assertIn("gone-123", finding["message"])
        self.assert_problem(self.client.get("/api/faces/gone-123/licence"), 404)
        self.assert_problem(self.client.delete("/api/faces/gone-123"), 404)

    def test_shipped_faces_say_what_they_are_good_for(self) -> None:
        found = self.offered("בוסתן")
        self.assertIn("joined", found["dancing-script-bold"]["good_for"])
        self.assertIn("thin strokes", found["eb-garamond"]["good_for"])
        self.assertIn("small stitching", found["nunito-extrabold"]["good_for"])
        self.assertEqual([face for face in found if not found[face]["missing"]],
                         ["frank-ruhl-libre-medium"])  # fmt: skip
        (axis,) = found["bitter-variable"]["axes"]
        self.assertEqual((axis["tag"], axis["least"], axis["most"]), ("wght", 100, 900))
        self.assertIn({"tag": "smcp", "name": "small capitals", "usual": False},
                      found["zilla-slab-semibold"]["features"])  # fmt: skip

    def test_acts_on_letters_over_the_live_route(self) -> None:
        act = {"act": "nudge", "lettering": "name", "letters": [1], "along": 0.5}
        answer = self.scene(document(), acts=[act])
        self.assertEqual(answer["acted"]["letterings"][0]["hand"][0]["along"], 0.5)
        self.assertEqual(answer["scene"]["letterings"][0]["hand"][0]["letter"], 1)
        wrong = self.scene(document(), acts=[{**act, "lettering": "nobody"}])
        self.assertEqual(wrong["problems"][0]["field"], "lettering")

    def test_remedies_are_tried_apart_from_the_live_channel(self) -> None:
        piece = with_lettering(height=60)
        finding = self.scene(piece)["scene"]["findings"][0]
        self.assertEqual((finding["kind"], finding["remedies"]), ("overflow", []))
        asked = {"piece": piece, "kind": "overflow", "lettering": "name"}
        found = self.client.post("/api/remedies", json=asked).json()
        self.assertEqual({remedy["of"] for remedy in found}, {"lettering", "guide"})
        self.assert_problem(
            self.client.post("/api/remedies", json={**asked, "lettering": "x"}), 422, "lettering"
        )

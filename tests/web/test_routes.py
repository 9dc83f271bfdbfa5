"""Routes: problem details, the guard, files in and out, the live channel. With PostgreSQL."""

from __future__ import annotations

import json
import unittest
from typing import Any
from xml.etree import ElementTree

from fastapi.testclient import TestClient
from sqlalchemy import create_engine
from starlette.websockets import WebSocketDisconnect

from tests.makings import document, with_lettering
from tests.web.served import HOME, LIVE, PORT, WebTest, answered
from ulvent.formats.json_file import LARGEST
from ulvent.web.app import create_app


class Pieces(WebTest):
    def test_create_change_undo_redo(self) -> None:
        piece = self.created()
        path = f"/api/pieces/{piece['id']}"
        changed = self.client.put(
            path, json={"base": piece["revision"], "piece": document(title="Lid")}
        ).json()
        self.assertEqual(self.client.get(path).json()["piece"]["title"], "Lid")
        back = self.client.post(path + "/undo", json={"base": changed["revision"]}).json()
        self.assertEqual(back["piece"]["title"], "Barrel head")
        again = self.client.post(path + "/redo", json={"base": back["revision"]}).json()
        self.assertEqual(again["piece"]["title"], "Lid")

    def test_a_stale_write_gets_409_with_both_sides(self) -> None:
        piece = self.created()
        path = f"/api/pieces/{piece['id']}"
        for title in ("Theirs", "Ours"):
            answer = self.client.put(
                path, json={"base": piece["revision"], "piece": document(title=title)}
            )
        problem = self.assert_problem(answer, 409)
        kept = self.client.get(f"{path}/revisions/{problem['kept']}").json()
        current = self.client.get(f"{path}/revisions/{problem['current']}").json()
        self.assertEqual((kept["title"], current["title"]), ("Ours", "Theirs"))

    def test_a_wrong_piece_names_its_field_and_is_not_kept(self) -> None:
        piece = self.created()
        path = f"/api/pieces/{piece['id']}"
        for wrong, field in (
            (with_lettering(height=-1), "letterings[0].height"),
            (with_lettering(axes={"wght": "x"}), "letterings[0].axes.wght"),
            (with_lettering(reading="against", standoff=500), "letterings[0].standoff"),
        ):
            answer = self.client.put(path, json={"base": piece["revision"], "piece": wrong})
            self.assert_problem(answer, 422, field)
        self.assertEqual(self.client.get(path).json()["revision"], piece["revision"])

    def test_files_in_and_out(self) -> None:
        piece = self.created(title="Äpfel / 12")
        answer = self.client.get(f"/api/pieces/{piece['id']}/file")
        self.assertIn("filename*=UTF-8''%C3%84pfel%20%2012.ulvent.json",
                      answer.headers["content-disposition"])  # fmt: skip
        opened = self.client.post("/api/pieces/file", content=answer.content)
        self.assertEqual(opened.status_code, 201)
        self.assertEqual(opened.json()["piece"], piece["piece"])
        for format, sign in (("svg", b"<svg "), ("dxf", b"SECTION")):
            file = self.client.get(f"/api/pieces/{piece['id']}/export/{format}")
            self.assertIn(sign, file.content)
        self.assert_problem(self.client.get(f"/api/pieces/{piece['id']}/export/pdf"), 422)

    def test_files_that_are_no_pieces_are_refused(self) -> None:
        for content, words in (
            (b"", "not JSON"),
            (b"{", "line 1, column 2"),
            (b"\xff\xfe", "UTF-8"),
            (b"[" * 100_000, "nested"),
            (b'{"ulvent": 1, "colour": 2}', "colour"),
            (b'{"ulvent": 1, "blank": {"kind": "disc", "diameter": NaN}}', "NaN"),
        ):
            with self.subTest(words):
                problem = self.assert_problem(
                    self.client.post("/api/pieces/file", content=content), 422
                )
                self.assertIn(words, problem["detail"])
        self.assertEqual(self.client.get("/api/pieces").json(), [])

    def test_deep_nesting_is_refused(self) -> None:
        deep = b'{"piece": ' + b"[" * 100_000 + b"]" * 100_000 + b"}"
        headers = {"Content-Type": "application/json"}
        self.assert_problem(self.client.post("/api/pieces", content=deep, headers=headers), 400)
        self.assertEqual(self.client.get("/healthz").status_code, 200)

    def test_shelf_deletion_and_thumbnail(self) -> None:
        piece = self.created()
        picture = self.client.get(f"/api/pieces/{piece['id']}/thumbnail")
        root = ElementTree.fromstring(picture.content)
        self.assertEqual(len(root.findall(".//{*}g[@id='lettering-name']/{*}path")), 16)
        self.client.delete(f"/api/pieces/{piece['id']}")
        self.assertEqual(self.client.get("/api/pieces").json(), [])
        self.assertEqual(len(self.client.get("/api/pieces?deleted=true").json()), 1)
        self.client.post(f"/api/pieces/{piece['id']}/restore")
        self.assertEqual(self.client.get("/api/pieces").json()[0]["title"], "Barrel head")

    def test_what_is_not_there(self) -> None:
        self.assert_problem(
            self.client.get("/api/pieces/00000000-0000-0000-0000-000000000000"), 404
        )
        self.assert_problem(self.client.get("/api/pieces/nonsense"), 422)
        self.assert_problem(self.client.get("/api/nothing"), 404)
        self.assert_problem(self.client.get("/api/faces/none/words?text=a"), 404)


class FacesAndFigures(WebTest):
    def test_faces_say_what_they_lack(self) -> None:
        faces = self.client.get("/api/faces", params={"text": "Q仮"}).json()
        self.assertGreaterEqual(len(faces), 10)
        self.assertTrue(all(face["missing"] == ["仮"] for face in faces))
        self.assertTrue(all(face["licence"] for face in faces))
        self.assertIn("SIL OPEN FONT LICENSE",
                      self.client.get("/api/faces/lato-bold/licence").text.upper())  # fmt: skip

    def test_words_in_a_face_are_a_picture(self) -> None:
        answer = self.client.get("/api/faces/cinzel-semibold/words", params={"text": "<Ab> & c"})
        root = ElementTree.fromstring(answer.content)
        self.assertEqual(len(root.findall("{*}path")), 6)
        for blank in (" ", "\u200b"):
            self.assertEqual(
                self.client.get("/api/faces/lato-bold/words", params={"text": blank}).status_code,
                200,
            )

    def test_figures(self) -> None:
        answer = self.client.get("/api/figure", params={"text": "3/8in"})
        self.assertEqual(answer.json(), {"value": 9.525})
        self.assert_problem(self.client.get("/api/figure", params={"text": "x"}), 422)


class Guarding(WebTest):
    def test_foreign_hosts_and_origins_are_refused(self) -> None:
        get = self.client.get
        self.assert_problem(get("/api/pieces", headers={"Host": "evil.example"}), 403)
        self.assert_problem(get("/api/pieces", headers={"Host": f"evil.example:{PORT}"}), 403)
        for origin in ("http://evil.example", "null", f"https://127.0.0.1:{PORT}"):
            answer = self.client.post(
                "/api/pieces", json={"piece": document()}, headers={"Origin": origin}
            )
            self.assert_problem(answer, 403)
        answer = self.client.post(
            "/api/pieces", json={"piece": document()}, headers={"Origin": HOME}
        )
        self.assertEqual(answer.status_code, 201)

    def test_the_live_channel_is_for_our_own_pages(self) -> None:
        for headers in ({}, {"Origin": "http://evil.example"}):
            page = TestClient(self.app, base_url=HOME, headers=headers)
            with self.subTest(str(headers)), self.assertRaises(WebSocketDisconnect):
                page.websocket_connect(LIVE).__enter__()

    def test_a_write_without_an_origin_is_taken_as_json_only(self) -> None:
        """What a form of another page can send is none of these."""
        program = TestClient(self.app, base_url=HOME)
        body = json.dumps(document()).encode()
        for kind in ("text/plain", "multipart/form-data; boundary=x", "application/octet-stream",
                     "application/x-www-form-urlencoded", "application/jsonp", ""):  # fmt: skip
            answer = program.post(
                "/api/pieces/file", content=body, headers={"Content-Type": kind} if kind else {}
            )
            with self.subTest(kind):
                self.assert_problem(answer, 403)
        for kind in ("application/json", "Application/JSON; charset=utf-8"):
            answer = program.post("/api/pieces/file", content=body, headers={"Content-Type": kind})
            self.assertEqual(answer.status_code, 201)
        made = answer.json()
        self.assertEqual(program.delete(f"/api/pieces/{made['id']}").status_code, 204)

    def test_large_bodies_are_refused_declared_or_not(self) -> None:
        whole = b" " * (LARGEST + 1)
        self.assert_problem(self.client.post("/api/pieces/file", content=whole), 413)

        def pieces_of_it():
            for _ in range(LARGEST // 100_000 + 1):
                yield b" " * 100_000

        self.assert_problem(self.client.post("/api/pieces/file", content=pieces_of_it()), 413)

    def test_every_answer_carries_a_strict_policy(self) -> None:
        for path in ("/", "/api/pieces", "/api/nothing", "/healthz"):
            with self.subTest(path):
                headers = self.client.get(path).headers
                self.assertIn("default-src 'none'", headers["content-security-policy"])
                self.assertIn("script-src 'self'", headers["content-security-policy"])
                self.assertNotIn("unsafe", headers["content-security-policy"])
                self.assertEqual(headers["x-content-type-options"], "nosniff")

    def test_no_path_leads_out_of_the_front_end(self) -> None:
        for path in (
            "/..%2f..%2fpyproject.toml",
            "/%2e%2e/%2e%2e/pyproject.toml",
            "/assets/../../x",
        ):
            self.assertNotIn("[project]", self.client.get(path).text)


class Health(WebTest):
    def test_asks_the_database(self) -> None:
        self.assertEqual(self.client.get("/healthz").json(), {"status": "ok", "database": "ok"})

    def test_says_when_it_does_not_answer(self) -> None:
        nowhere = create_engine("postgresql+psycopg://u@127.0.0.1:1/none")
        answer = TestClient(create_app(nowhere, PORT), base_url=HOME).get("/healthz")
        self.assertEqual((answer.status_code, answer.json()["database"]), (503, "no answer"))


class Live(WebTest):
    def ask(self, channel: Any, **request: Any) -> dict[str, Any]:
        channel.send_text(json.dumps({"sequence": 1, "piece": document(), **request}))
        return answered(channel)

    def channel(self) -> Any:
        return self.client.websocket_connect(LIVE, headers={"Origin": HOME})

    def test_outlines_are_sent_once_and_placements_always(self) -> None:
        with self.channel() as channel:
            first, second = self.ask(channel), self.ask(channel, sequence=2)
        self.assertEqual(len(first["shapes"]), len(set(first["scene"]["letterings"][0]["shapes"])))
        self.assertEqual(second["shapes"], {})
        self.assertEqual(second["sequence"], 2)
        self.assertEqual(len(second["scene"]["letterings"][0]["matrices"]), 6 * 16)

    def test_a_slide_is_answered_with_where_the_lettering_comes_to_stand(self) -> None:
        with self.channel() as channel:
            by = self.ask(channel, acts=[{"act": "slide-by", "lettering": "name", "by": 10}])
            after = self.ask(
                channel,
                acts=[
                    {
                        "act": "slide-after",
                        "lettering": "name",
                        "start": [0, -120],
                        "end": [120, 0],
                    }
                ],
            )
        self.assertAlmostEqual(by["acted"]["letterings"][0]["at"], 10)
        self.assertAlmostEqual(after["acted"]["letterings"][0]["at"], 188.496)

    def test_while_something_is_held_what_moves_comes_first(self) -> None:
        with self.channel() as channel:
            moved = self.ask(
                channel, hold=True, acts=[{"act": "slide-by", "lettering": "name", "by": 9}]
            )
            scene = answered(channel)
        self.assertIsNone(moved["scene"])
        self.assertEqual(moved["sequence"], scene["sequence"])
        (line,), (whole,) = moved["moved"]["lines"], scene["scene"]["letterings"]
        for part in ("id", "line", "matrices", "outlines", "drawn", "band"):
            self.assertEqual(line[part], whole[part])
        self.assertEqual(
            moved["moved"]["guides"], {g["id"]: g["path"] for g in scene["scene"]["guides"]}
        )
        self.assertEqual(moved["moved"]["dimensions"], scene["scene"]["dimensions"])
        self.assertAlmostEqual(scene["acted"]["letterings"][0]["at"], 9)

    def test_a_scene_is_left_out_where_the_next_move_comes_at_once(self) -> None:
        """Of a quick series every move is answered, and the scene only now and then and last."""
        with self.channel() as channel:
            for sequence in range(1, 9):
                piece = with_lettering(at=sequence)
                request = {"sequence": sequence, "piece": piece, "hold": sequence < 8}
                channel.send_text(json.dumps(request))
                first = json.loads(channel.receive_text())
                while first["sequence"] < sequence:
                    first = json.loads(channel.receive_text())
                self.assertEqual(first["moved"] is None, sequence == 8)
            self.assertIsNotNone(first["scene"])

    def test_whatever_comes_is_answered_and_the_channel_lives_on(self) -> None:
        with self.channel() as channel:
            for text in ("", "{", "[]", '{"sequence": "x"}', '{"sequence": 3, "piece": 4}'):
                channel.send_text(text)
                self.assertTrue(json.loads(channel.receive_text())["problems"], text)
            wrong = self.ask(channel, piece=with_lettering(height=0))
            self.assertEqual(wrong["problems"][0]["field"], "letterings[0].height")
            unknown = self.ask(channel, acts=[{"act": "slide-by", "lettering": "none", "by": 1}])
            self.assertEqual(unknown["problems"][0]["field"], "lettering")
            self.assertEqual(len(self.ask(channel)["scene"]["letterings"]), 1)

    def test_without_the_channel_a_post_gives_the_same(self) -> None:
        with self.channel() as channel:
            live = self.ask(channel, chosen="name")
        posted = self.client.post(
            "/api/scene", json={"sequence": 1, "piece": document(), "chosen": "name"}
        ).json()
        self.assertEqual(posted, live)


if __name__ == "__main__":
    unittest.main()

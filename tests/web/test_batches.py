"""Batches over HTTP: begun, looked at, stopped, taken away; made by a worker beside the server."""

from __future__ import annotations

import io
import json
import re
import zipfile
from typing import Any
from uuid import uuid4

from pypdf import PdfReader

from tests.batches.working import Workshop, begun, tag
from tests.throwaway import empty_engine
from tests.web.served import HOME, LIVE, WebTest, answered
from ulvent.core.recipe import parse_piece
from ulvent.formats.piece_file import read_piece, write_piece
from ulvent.formats.row_files import Wanted


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

    def test_one_file_of_the_piece_as_it_stands(self) -> None:
        """The same bytes as at once, whatever is between the braces, and no list is made."""
        piece = tag(["Ann", "Bea"]) | {"title": "Kés & tag"}
        made = self.client.post("/api/pieces", json={"piece": piece}).json()
        address = f"/api/pieces/{made['id']}"
        for file in (
            "export/svg?guides=true", "export/dxf", "run/svg", "run/plt", "thread/dst", "solid/stl",
        ):  # fmt: skip
            with self.subTest(file):
                answer = self.client.post(f"{address}/batches/alone", params={"file": file})
                self.assertEqual(answer.status_code, 201, answer.text)
                batch = answer.json()
                self.assertEqual((batch["alone"], batch["rows"]), (True, 1))
                early = self.client.get(f"/api/batches/{batch['id']}/files")
                self.assert_problem(early, 422, "batch")
                self.shop.work_off()
                later = self.client.get(f"/api/batches/{batch['id']}/files")
                at_once = self.client.get(f"{address}/{file}")
                self.assertEqual(later.content, at_once.content)
                self.assertEqual(
                    later.headers["content-disposition"], at_once.headers["content-disposition"]
                )
        answer = self.client.post(f"{address}/batches/alone", params={"file": "export/doc"})
        self.assert_problem(answer, 422, "query.file")
        self.assertEqual(
            len(self.client.get("/api/batches", params={"piece": made["id"]}).json()), 6
        )
        self.assertEqual(self.client.get("/api/batches", params={"piece": str(uuid4())}).json(), [])

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


def _by_any_worker(scene: Any) -> str:
    """A part of a scene as text, without where a worker's process holds its faces."""
    return re.sub(r"@\d+", "@", json.dumps(scene))


class NamesRoute(WebTest):
    def test_empty_lines_of_a_sheet_count_between_others(self) -> None:
        """So that a row has the number that it has in the sheet, here and from a shell."""
        sheet = b"\r\n,\r\nname,year\r\nAnn,1\r\n\r\nBea,2\r\n ,\r\n"
        read = self.client.post("/api/names/read", params={"field": "name"}, content=sheet).json()
        self.assertEqual((read["head"], read["rows"]),
                         (["name", "year"], [["Ann", "1"], [], ["Bea", "2"]]))  # fmt: skip
        piece = tag([])
        piece["names"] = {"head": read["head"], "rows": [{"cells": one} for one in read["rows"]]}
        found = self.client.post("/api/names", json={"piece": piece}).json()
        self.assertEqual((found["empty"], found["twice"]), ([1], []))
        kept = self.created(**piece)
        self.assertEqual([row["cells"] for row in kept["piece"]["names"]["rows"]], read["rows"])

    def scene(self, piece: dict[str, Any]) -> Any:
        answer = self.client.post("/api/names", json={"piece": piece})
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def made(self, piece: dict[str, Any], rows: list[int]) -> Any:
        scene, listed = self.scene(piece), piece["names"]["rows"]
        asked = [
            {"row": row, "number": row + 1, "cells": listed[row]["cells"], "heights": {}}
            for row in rows
        ]
        given = {"columns": scene["columns"], "heights": scene["heights"], "rows": asked}
        answer = self.client.post("/api/names/rows", json={"piece": piece, **given})
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def test_rows_are_shown_with_the_figures_that_a_batch_gives_them(self) -> None:
        piece = tag(["Ann", "Bartholomew Christabel", "🍎"], one_height=True)
        scene, made = self.scene(piece), self.made(piece, [0, 1, 2])
        self.assertEqual([one["row"] for one in made], [0, 1, 2])
        self.assertEqual([one["fits"] for one in made], [True, True, False])
        self.assertIsNone(scene["measured"])
        shop = Workshop(empty_engine())
        batch = begun(shop.batches, piece, Wanted())
        shop.work_off()
        self.assertEqual(scene["heights"], shop.batches.get(batch).heights)
        self.assertEqual(made[2]["reason"], shop.batches.unfit(batch, 1)[0].reason)

    def test_a_row_moves_with_its_words_and_is_the_same(self) -> None:
        first = self.made(tag(["Ann", "Bea"]), [0, 1])
        second = self.made(tag(["Cid", "Bea", "Ann"]), [1, 2])
        self.assertEqual(first[0] | {"row": 2}, second[1])
        self.assertEqual(first[1], second[0])
        self.assertNotEqual(first[0]["picture"], first[1]["picture"])

    def test_the_words_of_a_row_are_shown_in_place_of_fields(self) -> None:
        """What is done meanwhile is done to the pattern, which keeps its fields."""
        piece = tag(["Ann", "Bartholomew"])
        slide = {"act": "slide-by", "lettering": "w", "by": 2.0}
        with self.client.websocket_connect(LIVE, headers={"Origin": HOME}) as channel:
            rows = piece["names"]["rows"]
            for sequence, (sample, letters) in enumerate((([], 6), (rows, 11), ([], 6))):
                channel.send_json({"sequence": sequence, "piece": piece, "sample": sample})
                (line,) = answered(channel)["scene"]["letterings"]
                self.assertEqual(len(line["places"]), letters)
            channel.send_json({"sequence": 9, "piece": piece, "sample": rows[:1], "acts": [slide]})
            found = answered(channel)
        self.assertEqual(len(found["scene"]["letterings"][0]["places"]), 3)
        self.assertEqual(found["acted"]["letterings"][0]["text"], "{name}")

    def test_letters_that_a_row_brings_are_changed_in_that_row_alone(self) -> None:
        piece = tag(["Ann", "Bartholomew"])
        rows = piece["names"]["rows"]
        nudge = {"act": "nudge", "lettering": "w", "letters": [9], "across": 1.0}
        back = {"act": "put-back", "lettering": "w"}

        def asked(channel: Any, sample: list[dict[str, Any]], **more: Any) -> dict[str, Any]:
            channel.send_json({"sequence": 1, "piece": piece, "sample": sample, **more})
            found: dict[str, Any] = answered(channel)
            self.assertEqual((found["problems"], found["acted"]), ([], None))
            return found

        with self.client.websocket_connect(LIVE, headers={"Origin": HOME}) as channel:
            plain = asked(channel, rows)["scene"]["letterings"][0]
            moved = asked(channel, rows, acts=[nudge])
            hand = moved["hand"]["w"]
            self.assertEqual((hand["words"], [one["letter"] for one in hand["letters"]]),
                             ("Bartholomew", [9]))  # fmt: skip
            (line,) = moved["scene"]["letterings"]
            self.assertEqual((line["text"], line["hand"]), ("Bartholomew", hand["letters"]))
            # The last of a letter's six figures is how far down it lies.
            self.assertAlmostEqual(line["matrices"][59], plain["matrices"][59] - 1.0)
            now = {**rows[1], "hand": moved["hand"]}
            again = asked(channel, [rows[0], now])["scene"]["letterings"]
            self.assertEqual(_by_any_worker(again), _by_any_worker([line]))
            self.assertEqual(asked(channel, [rows[0]])["scene"]["letterings"][0]["hand"], [])
            twice = asked(channel, [rows[0], now], acts=[nudge])["hand"]["w"]["letters"]
            self.assertEqual([one["across"] for one in twice], [2.0])
            self.assertEqual(asked(channel, [rows[0], now], acts=[back])["hand"], {})

    def test_columns_that_lack_a_field_are_refused(self) -> None:
        asked = {"piece": tag(["Ann"]), "columns": ["year"], "rows": []}
        self.assert_problem(self.client.post("/api/names/rows", json=asked), 422, "columns")

    def test_a_row_that_cannot_be_filled_says_so_and_the_others_are_made(self) -> None:
        piece = tag(["7", "seven"])
        piece["letterings"][0]["text"] = "{name:000}"
        made = self.made(piece, [0, 1])
        self.assertEqual([one["fits"] for one in made], [True, False])
        self.assertIn("seven", made[1]["reason"])


class LongLists(WebTest):
    """A list that is long lies apart from its piece, and is the piece's all the same."""

    def setUp(self) -> None:
        super().setUp()
        self.words = [f"Name {number}" for number in range(1, 1301)]
        self.made = self.client.post("/api/pieces", json={"piece": tag(self.words)}).json()
        self.address = f"/api/pieces/{self.made['id']}"

    def leaves(self, piece: dict[str, Any]) -> Any:
        return [one for one in piece["names"]["rows"] if "leaf" in one]

    def rows(self, piece: dict[str, Any]) -> Any:
        asked = {"leaves": self.leaves(piece)}
        return [row for leaf in self.client.post("/api/names/leaves", json=asked).json()
                for row in leaf]  # fmt: skip

    def save(self, piece: dict[str, Any], base: int) -> Any:
        answer = self.client.put(self.address, json={"base": base, "piece": piece})
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def test_a_file_with_as_many_rows_as_there_may_be_is_read_back(self) -> None:
        """Three columns, as a table of orders has them; what a row has for itself too."""
        rows: list[dict[str, Any]] = [
            {"cells": [f"Name number {number}", "Quillmere, by the mere", "2026-11-29"]}
            for number in range(50_000)
        ]
        rows[7] |= {
            "times": 3,
            "hand": {"w": {"letters": [{"letter": 0, "turn": 4}], "words": "N"}},
        }
        piece = parse_piece({**tag([]), "names": {"head": ["name"], "rows": rows}})
        data = write_piece(piece)
        self.assertEqual(read_piece(data), piece)
        answer = self.client.post("/api/pieces/file", content=data)
        self.assertEqual(answer.status_code, 201, answer.text)
        kept = self.client.get(f"/api/pieces/{answer.json()['id']}/file").content
        self.assertEqual(kept, data)

    def test_it_is_told_by_its_leaves_and_whole_in_its_file(self) -> None:
        piece = self.made["piece"]
        self.assertEqual([one["count"] for one in piece["names"]["rows"]], [433, 433, 434])
        self.assertEqual([row["cells"] for row in self.rows(piece)], [[one] for one in self.words])
        file = self.client.get(f"{self.address}/file").json()
        self.assertEqual([row["cells"] for row in file["names"]["rows"]],
                         [[one] for one in self.words])  # fmt: skip
        scene = self.client.post("/api/names", json={"piece": piece}).json()
        self.assertEqual((scene["columns"], scene["twice"], scene["empty"]), (["name"], [], []))

    def test_a_changed_row_is_one_new_leaf_and_is_undone(self) -> None:
        piece = self.made["piece"]
        first, second, third = piece["names"]["rows"]
        opened = self.rows({"names": {"rows": [second]}})
        opened[10] = {**opened[10], "cells": ["Perry"], "heights": {"w": 4.0},
                      "hand": {"w": {"letters": [{"letter": 0, "along": 3.0, "turn": 5.0}],
                                     "words": "Perry"}}}  # fmt: skip
        changed = {**piece, "names": {**piece["names"], "rows": [first, *opened, third]}}
        kept = self.save(changed, self.made["revision"])
        piece = {**piece, "names": kept["names"]}
        found = self.leaves(piece)
        self.assertEqual((found[0], found[2]), (first, third))
        self.assertNotEqual(found[1], second)
        self.assertEqual(self.rows(piece)[443]["cells"], ["Perry"])
        # What is kept already is no revision of its own.
        self.assertEqual(self.save(changed, kept["revision"])["revision"], kept["revision"])
        back = self.client.post(f"{self.address}/undo", json={"base": kept["revision"]}).json()
        self.assertEqual(back["piece"], self.made["piece"])
        # Scaled with its piece, a row's own height is so too.
        act = {"act": "scale-piece", "to": 200.0}
        acted = self.client.post("/api/scene", json={"sequence": 1, "piece": piece,
                                                     "acts": [act]}).json()["acted"]  # fmt: skip
        scaled = self.rows(acted)[443]
        self.assertEqual(scaled["heights"], {"w": 8.0})
        (nudge,) = scaled["hand"]["w"]["letters"]
        self.assertEqual((nudge["along"], nudge["turn"]), (6.0, 5.0))
        file = self.save(acted, back["revision"])
        whole = self.client.get(f"{self.address}/file").json()["names"]["rows"]
        self.assertEqual((whole[443]["heights"], len(whole)), ({"w": 8.0}, 1300))
        self.assertEqual(len(self.rows({"names": file["names"]})), 1300)

    def test_all_of_it_is_made(self) -> None:
        batch = self.client.post(f"{self.address}/batches", json={}).json()
        self.assertEqual(batch["rows"], 1300)

    def test_rows_that_are_not_kept_here_are_refused_by_their_field(self) -> None:
        strange = tag([])
        strange["names"] = {"rows": [{"leaf": "0" * 64, "count": 3}]}
        for answer in (
            self.client.post("/api/pieces", json={"piece": strange}),
            self.client.post("/api/names", json={"piece": strange}),
            self.client.put(self.address,
                            json={"base": self.made["revision"], "piece": strange}),
        ):  # fmt: skip
            self.assert_problem(answer, 422, "names.rows")
        most = {**strange, "names": {"rows": [{"leaf": "0" * 64, "count": 500}] * 101}}
        answer = self.client.post("/api/pieces", json={"piece": most})
        self.assert_problem(answer, 422, "names.rows")
        self.assertIn("50500", answer.json()["errors"][0]["reason"])
        # A leaf that holds more than it is said to would grow without a bound.
        less = self.made["piece"]["names"]["rows"][0] | {"count": 1}
        piece = {**self.made["piece"], "names": {"rows": [less]}}
        self.assert_problem(
            self.client.post("/api/names", json={"piece": piece}), 422, "names.rows"
        )
        many = {"leaves": [less] * 101}
        answer = self.client.post("/api/names/leaves", json=many)
        self.assert_problem(answer, 422, "body.leaves")
